import { z } from 'zod';
import { sinPi } from '../../raster/portable-math';

/** Resampling methods, named as the trade names them. */
export const Method = z.enum(['nearest', 'bilinear', 'bicubic', 'lanczos3']);
export type Method = z.infer<typeof Method>;

/** A separable reconstruction kernel: its weight at a distance in source pixels, zero from `radius` on. */
export interface Kernel {
  radius: number;
  weight(distance: number): number;
}

/** Piecewise cubic with a = -1/2: interpolating, exact for quadratics (Keys 1981; Catmull & Rom 1974). */
function catmullRom(distance: number): number {
  const x = Math.abs(distance);
  if (x < 1) return (1.5 * x - 2.5) * x * x + 1;
  if (x < 2) return ((-0.5 * x + 2.5) * x - 4) * x + 2;
  return 0;
}

/** sinc(x) sinc(x / 3) (Lanczos' window, Duchon 1979). */
function lanczos3(distance: number): number {
  const x = Math.abs(distance);
  if (x < 1e-9) return 1;
  if (x >= 3) return 0;
  return (3 * sinPi(x) * sinPi(x / 3)) / (Math.PI * Math.PI * x * x);
}

/** Kernels by method. Nearest neighbour has none: it takes the pixel under the sampling point. */
export const kernels: Record<Exclude<Method, 'nearest'>, Kernel> = {
  bilinear: { radius: 1, weight: (distance) => Math.max(0, 1 - Math.abs(distance)) },
  bicubic: { radius: 2, weight: catmullRom },
  lanczos3: { radius: 3, weight: lanczos3 },
};

/** What each method is good and bad at, in one honest line. */
export const methodNotes: Record<Method, { title: string; note: string }> = {
  nearest: {
    title: 'Nearest neighbour',
    note: 'Repeats pixels. Right for pixel squares; stairs on everything else.',
  },
  bilinear: { title: 'Bilinear', note: 'Never rings, always soft. For soft or noisy pictures.' },
  bicubic: { title: 'Bicubic', note: 'Crisper than bilinear, with a faint halo. A safe middle.' },
  lanczos3: {
    title: 'Lanczos-3',
    note: 'Keeps most of the fine detail; rings a little at hard edges.',
  },
};
