import { sinPi } from '../../raster/portable-math';

/** Kernels that work along rows and columns, named as the trade names them. */
export const SEPARABLE = ['bilinear', 'bicubic', 'mitchell', 'lanczos2', 'lanczos3'] as const;
export type SeparableKernel = (typeof SEPARABLE)[number];

/** A reconstruction kernel: its weight at a distance in source pixels, zero from `radius` on. */
export interface Kernel {
  radius: number;
  weight(distance: number): number;
  /** whether it swings below zero, and so may ring */
  rings: boolean;
}

/** The piecewise cubics of two parameters that interpolate constants (Mitchell & Netravali 1988). */
const cubic =
  (b: number, c: number) =>
  (distance: number): number => {
    const x = Math.abs(distance);
    if (x < 1) return (((12 - 9 * b - 6 * c) * x - 18 + 12 * b + 6 * c) * x * x + 6 - 2 * b) / 6;
    if (x < 2)
      return (
        (((-b - 6 * c) * x + 6 * b + 30 * c) * x * x + (-12 * b - 48 * c) * x + 8 * b + 24 * c) / 6
      );
    return 0;
  };

/** Piecewise cubic with a = -1/2: interpolating, exact for quadratics (Keys 1981; Catmull & Rom 1974). */
function catmullRom(distance: number): number {
  const x = Math.abs(distance);
  if (x < 1) return (1.5 * x - 2.5) * x * x + 1;
  if (x < 2) return ((-0.5 * x + 2.5) * x - 4) * x + 2;
  return 0;
}

/** sinc(x) sinc(x / lobes) (Lanczos' window, Duchon 1979). */
const lanczos =
  (lobes: number) =>
  (distance: number): number => {
    const x = Math.abs(distance);
    if (x < 1e-9) return 1;
    if (x >= lobes) return 0;
    return (lobes * sinPi(x) * sinPi(x / lobes)) / (Math.PI * Math.PI * x * x);
  };

export const kernels: Record<SeparableKernel, Kernel> = {
  bilinear: {
    radius: 1,
    weight: (distance) => Math.max(0, 1 - Math.abs(distance)),
    rings: false,
  },
  bicubic: { radius: 2, weight: catmullRom, rings: true },
  // Both parameters a third: the least of blur, ringing and blocks together, by their viewers' votes.
  mitchell: { radius: 2, weight: cubic(1 / 3, 1 / 3), rings: true },
  lanczos2: { radius: 2, weight: lanczos(2), rings: true },
  lanczos3: { radius: 3, weight: lanczos(3), rings: true },
};
