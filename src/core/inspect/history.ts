import { z } from 'zod';
import type { DenseNetwork } from '../learned/dense';
import type { Region, Size } from '../raster/region';
import type { Source } from '../raster/source';
import type { JpegFacts } from './jpeg';
import { patchOf } from './patches';
import type { Square } from './traces/square';
import { plainestFirst } from './traces/grain';
import { kindTraces, tracesOf } from './traces/traces';

/** A figure that was measured, and how far it may be off: its standard deviation. */
const Measured = z.object({ value: z.number(), off: z.number().positive() });
export type Measured = z.infer<typeof Measured>;

/** What happened to a photograph before it came, as a network tells it. */
export const History = z.object({
  /** standard deviation of the blur, px */
  blur: Measured,
  /** standard deviation of the noise before it was compressed last, levels */
  noise: Measured,
  /** how much larger than a pixel its specks are, px */
  grain: Measured,
  /** amount of earlier sharpening, % */
  sharpening: Measured,
  /** how likely it was resized after it had been compressed, 0–1 */
  resized: Measured,
  /** by how many doublings it was enlarged before */
  enlarged: Measured.default({ value: 0, off: 1.5 }),
  /** how hard it was compressed, as the JPEG quality that does as much */
  quality: Measured,
  /** radius of that sharpening, px; of a picture that was not sharpened it says nothing */
  radius: Measured.default({ value: 1.5, off: 1.5 }),
  /** by how many doublings noise is stronger at a quarter of the tones than at three quarters; nothing where there is none */
  darks: Measured.default({ value: 0, off: 2 }),
  /** how likely that noise has colours, 0–1; nothing where there is none */
  coloured: Measured.default({ value: 0.5, off: 0.5 }),
});
export type History = z.infer<typeof History>;

/** Doublings that one of the network's values stands for. */
const ENLARGED_UNIT = 1.5;

/** What a network's values are in the figures' own units, in the order in which it gives them. */
type Units = readonly (readonly [keyof History, unit: number, zero: number])[];
const UNITS: Units = [
  ['blur', 2, 0],
  ['noise', 12, 0],
  ['grain', 1, 0],
  ['sharpening', 180, 0],
  ['resized', 1, 0],
  ['enlarged', ENLARGED_UNIT, 0],
  ['quality', -60, 100],
];
/** … of the network that tells of what kind noise and sharpening were. */
const KIND_UNITS: Units = [
  ['radius', 3, 0],
  ['darks', 2, 0],
  ['coloured', 1, 0],
];

/** As far off as nobody needs to be surer of, of the network's values. */
const SURE = 0.03;
/** Halves of logarithms of precisions beyond which none is believed. */
const LIMIT = 3.8;

/** Sides of the squares that are looked at, and the most of them across and down. */
const SQUARE = 192;
const MOST = 3;
/** Pictures smaller than this show too little. */
const LEAST = 32;

/** The networks that tell what happened (learned/models.ts). */
export interface HistoryNetworks {
  measure: DenseNetwork;
  /** of what kind noise and sharpening were; null where it is missing */
  kind: DenseNetwork | null;
}

/**
 * What happened to a photograph, by the traces in at most nine squares of it.
 * @returns null where it is too small to be judged
 */
export async function measureHistory(
  source: Source,
  networks: HistoryNetworks,
  jpeg: JpegFacts | null,
): Promise<History | null> {
  const { size } = source;
  if (Math.min(size.width, size.height) < LEAST) return null;
  const squares: Square[] = [];
  for (const region of squaresOf(size, jpeg)) {
    squares.push(patchOf(await source.read(region), region));
  }
  const blocks = plainestFirst(squares);
  const traces = tracesOf(squares, jpeg, blocks);
  const kind = networks.kind?.(kindTraces(traces, blocks)) ?? null;
  return historyOf(networks.measure(traces), kind);
}

/** A history of a picture of which pixels tell by how much it was enlarged before, which is surer. */
export const knownEnlarged = (history: History, times: number | null): History =>
  times === null
    ? history
    : { ...history, enlarged: { value: Math.log2(times), off: SURE * ENLARGED_UNIT } };

/** What the networks' values say: a figure, and half the logarithm of its precision, for each. */
export const historyOf = (values: Float32Array, kind: Float32Array | null): History =>
  History.parse({ ...figuresOf(values, UNITS), ...(kind && figuresOf(kind, KIND_UNITS)) });

function figuresOf(values: Float32Array, units: Units): Partial<History> {
  return Object.fromEntries(
    units.map(([name, unit, zero], i) => {
      const precision = Math.exp(2 * Math.min(LIMIT, Math.max(-LIMIT, values[2 * i + 1]!)));
      const off = Math.sqrt(1 / precision + SURE ** 2);
      // Noise may be weaker in the darks; all else is nothing at least.
      const least = name === 'darks' ? -Infinity : 0;
      const value = zero + unit * Math.max(least, values[2 * i]!);
      return [name, { value, off: Math.abs(unit) * off }] as const;
    }),
  );
}

/** Squares spread evenly, each beginning where a block of the file does. */
function squaresOf(size: Size, jpeg: JpegFacts | null): Region[] {
  const starts = (length: number, grid: number): number[] => {
    const count = Math.min(MOST, Math.max(1, Math.round(length / SQUARE)));
    const room = Math.max(0, length - SQUARE);
    return Array.from({ length: count }, (_, i) => {
      // In the middle of its share of the length, as far as it lies on the picture.
      const middle = ((i + 0.5) * length) / count;
      const at = Math.min(room, Math.max(0, Math.round(middle - SQUARE / 2)));
      const onGrid = at - ((((at - grid) % 8) + 8) % 8);
      return onGrid < 0 ? onGrid + 8 : onGrid;
    });
  };
  const part = (at: number, length: number) => Math.min(SQUARE, length - at);
  return starts(size.height, jpeg?.gridY ?? 0).flatMap((y) =>
    starts(size.width, jpeg?.gridX ?? 0).map((x) => ({
      ...{ x, y, width: part(x, size.width), height: part(y, size.height) },
    })),
  );
}
