import { kernels, type SeparableKernel } from './kernels';
import type { Plain } from '../enlarge/methods';

/** Upright and in rows, by the taps of its kernel. */
const BASE = 0.005;
const TAP = 0.0025;
/** The kernel that isn't separable; and the others where they stand at a slant, a tap in x and y. */
const JINC = 0.22;
const SLANTED = 0.034;
const SLANTED_TAP = 0.0014;
/** A pass of the stepped way, a pixel of that pass. */
const PASS = 0.0235;
/** What limiting overshoot and mixing in light add. */
const LIMITED = 0.014;
const IN_LIGHT = 0.075;

/** Drawn from edges that were found: their areas are few, whatever the size. */
const TRACED = 0.08;

/** What of a resampling tells what it costs. */
interface Costly {
  method: Plain | 'traced';
  limit: number;
  light: 'gamma' | 'linear';
  straighten: number;
  step: number;
}

const tapsOf = (method: Plain): number =>
  method === 'nearest'
    ? 1
    : 2 * kernels[method === 'stepped' ? 'bicubic' : (method as SeparableKernel)].radius;

/** Microseconds that a resampling takes a pixel of its result. */
export function resampleCost({ method, limit, light, straighten, step }: Costly): number {
  if (method === 'traced') return TRACED;
  const more = (limit > 0 ? LIMITED : 0) + (light === 'linear' ? IN_LIGHT : 0);
  if (method === 'lanczos3-jinc') return JINC + more;
  if (straighten !== 0) return SLANTED + SLANTED_TAP * tapsOf(method) ** 2 + more;
  // Passes grow by the same share: all together are a geometric series of their areas.
  if (method === 'stepped') return PASS / (1 - (1 + step / 100) ** -2) + more;
  return BASE + TAP * tapsOf(method) + more;
}
