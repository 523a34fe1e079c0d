import type { Patch } from './patches';

/** How strongly an 8x8 grid shows in a picture, and where it begins. */
export interface Blocking {
  /** mean difference across block borders over that of the strongest line inside blocks; 1 = no grid */
  ratio: number;
  /** 0 none to 100 nothing but blocks */
  strength: number;
  /** where a block begins, 0–7 */
  offsetX: number;
  offsetY: number;
}

type Plane = Pick<Patch, 'x' | 'y' | 'width' | 'height' | 'luma'>;

/** Differences count up to so many levels, so that a few strong edges aren't taken for blocks. */
const CAP = 24;
/** A tenth of a level of rounding, so that flat pictures don't divide nothing by nothing. */
const FLOOR = 0.1;
/** Within so much of a level nothing tells one grid from another. */
const OWN = 0.25;
/** From this ratio on a grid shows, and at this one it is all there is to see. */
export const VISIBLE = 1.08;
const GROSS = 2.6;

/**
 * Measures blocking on luminance: neighbouring pixels on either side of a line against neighbours
 * on the other seven lines of a block (a phase-wise form of the block-edge measure of Wu & Yuen
 * 1997). Against the strongest of them, since pixel squares and fine patterns have lines of their
 * own. The grid begins where a line stands out most from the two beside it.
 * @param own where the file itself says that a block begins, 0–7
 */
export function measureBlocking(
  patches: readonly Plane[],
  own?: { x: number; y: number },
): Blocking {
  const across = {
    steps: new Float64Array(8),
    jumps: new Float64Array(8),
    counts: new Float64Array(8),
  };
  const down = {
    steps: new Float64Array(8),
    jumps: new Float64Array(8),
    counts: new Float64Array(8),
  };
  for (const { x, y, width, height, luma } of patches) {
    for (let v = 0; v < height; v++) gather(luma, v * width, 1, width, x, across);
    for (let u = 0; u < width; u++) gather(luma, u, width, height, y, down);
  }
  if (across.counts.some((count) => count === 0) || down.counts.some((count) => count === 0)) {
    return { ratio: 1, strength: 0, offsetX: 0, offsetY: 0 };
  }
  const offsetX = strongest(across, own?.x);
  const offsetY = strongest(down, own?.y);
  const lines = Array.from({ length: 8 }, (_, i) => {
    const [h, v] = [(offsetX + i) % 8, (offsetY + i) % 8];
    return (across.steps[h]! + down.steps[v]!) / (across.counts[h]! + down.counts[v]!) + FLOOR;
  });
  const [border, ...inside] = lines;
  const ratio = border! / Math.max(...inside);
  const share = (ratio - VISIBLE) / (GROSS - VISIBLE);
  return { ratio, strength: Math.round(100 * Math.min(1, Math.max(0, share))), offsetX, offsetY };
}

interface Lines {
  steps: Float64Array;
  /** how much a step exceeds the two beside it */
  jumps: Float64Array;
  counts: Float64Array;
}

/** One row or column: `start` and `stride` in the plane, `origin` its first pixel on the picture. */
function gather(
  luma: Float32Array,
  start: number,
  stride: number,
  count: number,
  origin: number,
  into: Lines,
): void {
  if (count < 3) return;
  const { steps, jumps, counts } = into;
  const stepTo = (at: number) => Math.min(Math.abs(luma[at]! - luma[at - stride]!), CAP);
  let before = stepTo(start + stride);
  let step = stepTo(start + 2 * stride);
  for (let i = 2; i < count - 1; i++) {
    const after = stepTo(start + (i + 1) * stride);
    const phase = (origin + i) & 7;
    steps[phase]! += step;
    jumps[phase]! += step - (before + after) / 2;
    counts[phase]!++;
    before = step;
    step = after;
  }
}

/** The file's own grid is believed in unless another shows so much stronger. */
const STRONGER = 1.3;

function strongest({ jumps, counts }: Lines, own?: number): number {
  const jump = (phase: number) => jumps[phase]! / counts[phase]!;
  let best = 0;
  for (let phase = 1; phase < 8; phase++) if (jump(phase) > jump(best)) best = phase;
  return own !== undefined && jump(best) < STRONGER * Math.max(0, jump(own)) + OWN ? own : best;
}
