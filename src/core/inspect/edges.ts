import { percentile, type Patch } from './patches';

/** What stands beside hard edges that doesn't belong there, in levels. */
export interface EdgeFaults {
  /** ripples of compression or of earlier sharpening */
  ringing: number;
  /** colour that neither side of the edge has */
  fringes: number;
}

/** An edge is hard from this difference on (levels, over two pixels). */
const HARD = 60;
/** Ripples are looked for in this many pixels from the edge on … */
const NEAR = 3;
const FAR = 8;
/** … and edges need that much room on both sides. */
const ROOM = FAR + 1;

/** Looks at the pixels beside hard edges, along rows and columns. */
export function measureEdges(patches: readonly Patch[], noise: number): EdgeFaults {
  const ripples: number[] = [];
  const fringes: number[] = [];
  for (const { luma, cb, cr, width, height } of patches) {
    const line = (start: number, stride: number, count: number) => {
      for (let i = ROOM; i < count - ROOM; i++) {
        const at = start + i * stride;
        const rise = Math.abs(luma[at + stride]! - luma[at - stride]!);
        if (rise < HARD) continue;
        // Only the crest of an edge counts, once.
        if (rise < Math.abs(luma[at + 2 * stride]! - luma[at]!)) continue;
        if (rise < Math.abs(luma[at]! - luma[at - 2 * stride]!)) continue;
        ripples.push(Math.min(unrest(luma, at, stride), unrest(luma, at, -stride)));
        fringes.push(excess(cb, at, stride) + excess(cr, at, stride));
        i += NEAR;
      }
    };
    for (let y = 0; y < height; y += 2) line(y * width, 1, width);
    for (let x = 0; x < width; x += 2) line(x, width, height);
  }
  return {
    ringing: Math.max(0, percentile(ripples, 0.5) - noise),
    fringes: percentile(fringes, 0.5),
  };
}

/** Standard deviation of what lies from NEAR to FAR pixels beside an edge, about its own slope. */
function unrest(plane: Float32Array, at: number, stride: number): number {
  const count = FAR - NEAR + 1;
  const middle = (count - 1) / 2;
  let mean = 0;
  let slope = 0;
  let weight = 0;
  for (let k = 0; k < count; k++) {
    const value = plane[at + (NEAR + k) * stride]!;
    mean += value / count;
    slope += (k - middle) * value;
    weight += (k - middle) ** 2;
  }
  slope /= weight;
  let sum = 0;
  for (let k = 0; k < count; k++) {
    const rest = plane[at + (NEAR + k) * stride]! - mean - slope * (k - middle);
    sum += rest * rest;
  }
  return Math.sqrt(sum / (count - 2));
}

/** How far a colour difference on an edge lies outside those on both its sides. */
function excess(plane: Float32Array, at: number, stride: number): number {
  const one = plane[at - 4 * stride]!;
  const other = plane[at + 4 * stride]!;
  const here = plane[at]!;
  return Math.max(0, here - Math.max(one, other), Math.min(one, other) - here);
}
