import { percentile } from '../patches';
import { logarithm, type Square } from './square';

/** Pixels to both sides of an edge's steepest place that are looked at. */
const REACH = 6;
/** An edge rises by so many levels over two pixels at least. */
const LEAST = 10;
/** The steepest edges alone are looked at, so many of them at most. */
const MOST = 1200;
const QUANTILES = [0.1, 0.25, 0.5, 0.75, 0.9];

/** Where an edge is steepest, by how much it rises there, and towards its light side. */
interface Edge {
  luma: Float32Array;
  at: number;
  rise: number;
  step: number;
}

/**
 * How the steepest edges rise, across and down: blur makes them long, sharpening lets them swing beyond both sides.
 */
export function profileTraces(squares: readonly Square[]): number[] {
  const edges = steepest(squares.flatMap((one) => [...edgesOf(one, true), ...edgesOf(one, false)]));
  const profiles = edges.map(profileOf);
  const pixels = squares.reduce((sum, { width, height }) => sum + width * height, 0);
  const length = 2 * REACH + 1;
  const mean = new Float64Array(length);
  for (const profile of profiles) profile.forEach((v, i) => (mean[i]! += v / edges.length));
  const of = (value: (profile: Float64Array) => number): number[] => {
    const sorted = profiles.map(value).sort((a, b) => a - b);
    return QUANTILES.map((share) => sorted[Math.floor(share * sorted.length)] ?? 0);
  };
  return [
    logarithm((1000 * edges.length) / Math.max(1, pixels)),
    logarithm(
      percentile(
        edges.map(({ rise }) => rise),
        0.5,
      ),
    ),
    ...mean,
    ...of((profile) => profile[REACH + 1]! - profile[REACH - 1]!),
    ...of((profile) => profile[REACH + 2]! - profile[REACH - 2]!),
    // Beyond where it levels out, on its light and on its dark side.
    ...of((profile) => Math.max(...profile.subarray(REACH + 1, REACH + 5)) - 1),
    ...of((profile) => -Math.min(...profile.subarray(REACH - 4, REACH))),
  ];
}

function edgesOf({ luma, width, height }: Square, across: boolean): Edge[] {
  const [step, lines, count] = across ? [1, height, width] : [width, width, height];
  const other = across ? width : 1;
  const edges: Edge[] = [];
  for (let line = 1; line < lines - 1; line++) {
    for (let i = REACH; i < count - REACH; i++) {
      const at = line * other + i * step;
      const rise = luma[at + step]! - luma[at - step]!;
      const size = Math.abs(rise);
      if (size < LEAST) continue;
      // The steepest place alone counts, and no slanted edge.
      if (size < Math.abs(luma[at + 2 * step]! - luma[at]!)) continue;
      if (size <= Math.abs(luma[at]! - luma[at - 2 * step]!)) continue;
      if (Math.abs(luma[at + other]! - luma[at - other]!) > size / 2) continue;
      edges.push({ luma, at, rise: size, step: rise > 0 ? step : -step });
    }
  }
  return edges;
}

/** The steepest of them, by whole levels: as many as are looked at, or a few more. */
function steepest(edges: readonly Edge[]): Edge[] {
  const counts = new Uint32Array(512);
  for (const { rise } of edges) counts[Math.floor(rise)]!++;
  let least = counts.length - 1;
  for (let count = counts[least]!; least > 0 && count < MOST;) count += counts[--least]!;
  return edges.filter(({ rise }) => rise >= least);
}

/** From its dark to its light side, 0 and 1 where it levels out. */
function profileOf({ luma, at, step }: Edge): Float64Array {
  const value = (i: number) => luma[at + i * step]!;
  const dark = (value(-REACH) + value(1 - REACH) + value(2 - REACH)) / 3;
  const light = (value(REACH) + value(REACH - 1) + value(REACH - 2)) / 3;
  const range = Math.max(light - dark, LEAST);
  return Float64Array.from({ length: 2 * REACH + 1 }, (_, i) =>
    Math.max(-2, Math.min(3, (value(i - REACH) - dark) / range)),
  );
}
