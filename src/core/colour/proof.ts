import { z } from 'zod';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { Conversion } from './conversion';
import type { Transform } from './engine';

/** How a print is simulated on a screen. */
export const Proof = z.object({
  conversion: Conversion,
  /** white is the paper's own, and black as light as its inks leave it */
  paperWhite: z.boolean(),
  /** what the print's colours don't reach is marked */
  beyond: z.boolean(),
});
export type Proof = z.infer<typeof Proof>;

/** The ways that a proof takes; all end in sRGB but for the first. */
export interface ProofWays {
  /** from the picture's profile to the print's */
  print: Transform;
  /** from the print's to a screen */
  screen: Transform;
  /** from the picture's to a screen */
  unprinted: Transform;
  /** from the picture's to the print's and on to a screen, so that what the print has comes back as it was */
  there: Transform;
  back: Transform;
}

/** A picture as its print would look on a screen, and which of its pixels the print can't show. */
export interface Proofed {
  raster: Raster;
  /** 1 where a colour is beyond the print's; null where nobody wants to know */
  beyond: Uint8Array | null;
}

/** Differences below this are seen only side by side (CIE 1976). */
const SEEN = 6;

/** @param raster colours of the picture, in its profile; alpha is left out */
export function proofed(raster: Raster, ways: ProofWays, wanted: boolean): Proofed {
  const picture = raster.form.alpha
    ? { ...raster, form: RGB, planes: raster.planes.slice(0, 3) }
    : raster;
  const shown = ways.screen.apply(ways.print.apply(picture));
  if (!wanted) return { raster: shown, beyond: null };
  const was = toLab(ways.unprinted.apply(picture));
  const is = toLab(ways.back.apply(ways.there.apply(picture)));
  const beyond = new Uint8Array(raster.width * raster.height);
  for (let i = 0; i < beyond.length; i++) {
    const [dl, da, db] = [0, 1, 2].map((c) => was.planes[c]![i]! - is.planes[c]![i]!);
    beyond[i] = dl! * dl! + da! * da! + db! * db! > SEEN * SEEN ? 1 : 0;
  }
  return { raster: shown, beyond };
}

/** Levels of a table of sRGB's amounts of light. */
const LEVELS = 1024;
let light: Float32Array | undefined;

/** Amounts of light of sRGB values (IEC 61966-2-1). */
function lightTable(): Float32Array {
  light ??= Float32Array.from({ length: LEVELS + 1 }, (_, i) => {
    const v = i / LEVELS;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  });
  return light;
}

/** sRGB to CIE L*a*b* of its own white (CIE 15). */
function toLab(raster: Raster): Raster {
  const table = lightTable();
  const lab = emptyRaster(raster.width, raster.height, RGB);
  const [l, a, b] = lab.planes as [Float32Array, Float32Array, Float32Array];
  const at = (c: number, i: number) =>
    table[Math.round(Math.min(1, Math.max(0, raster.planes[c]![i]!)) * LEVELS)]!;
  for (let i = 0; i < l.length; i++) {
    const [red, green, blue] = [at(0, i), at(1, i), at(2, i)];
    const x = cubeRoot((0.4124 * red + 0.3576 * green + 0.1805 * blue) / 0.9505);
    const y = cubeRoot(0.2126 * red + 0.7152 * green + 0.0722 * blue);
    const z = cubeRoot((0.0193 * red + 0.1192 * green + 0.9505 * blue) / 1.089);
    l[i] = 116 * y - 16;
    a[i] = 500 * (x - y);
    b[i] = 200 * (y - z);
  }
  return lab;
}

/** The standard's cube root, straight near black. */
const cubeRoot = (t: number): number => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116);

/** How far marks of what is beyond stand apart, and how wide they are, in pixels. */
const APART = 8;
const WIDE = 3;
/** What they are drawn in: no picture has it in stripes. */
const MARK = [168, 50, 42] as const;

/** Draws stripes over what a print can't show. @param at where the pixels begin in their picture */
export function markBeyond(
  rgba: Uint8ClampedArray,
  beyond: Uint8Array,
  width: number,
  at: { x: number; y: number },
): void {
  for (let i = 0; i < beyond.length; i++) {
    if (beyond[i] === 0) continue;
    const x = at.x + (i % width);
    const y = at.y + Math.floor(i / width);
    if ((x + y) % APART < WIDE) rgba.set(MARK, 4 * i);
  }
}
