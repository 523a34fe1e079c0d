import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Recipe } from '@/core/recipe/recipe';
import type { Sweep } from '@/core/shop/comparing';
import { sweepGrid, type Seen, type SweepGrid } from '@/core/stops/sweep';
import { benchStore } from '../../picture-store';

/** What of a trial's result was looked at closely. */
export interface Swept {
  trial: string;
  /** names the result that was looked at */
  state: string;
  grid: SweepGrid;
  seen: Seen;
}

interface Sweeps {
  /** by trial */
  swept: Readonly<Record<string, Swept>>;
}

/** What was seen of the picture's results. */
export const useSweeps = benchStore<Sweeps>({ swept: {} }, ['swept']);

/** Names a result, for what was seen of it. */
export const stateOf = (recipe: Recipe): string =>
  bytesToHex(sha256(utf8ToBytes(canonicalJson(recipe))));

/** Nothing seen yet of a trial's result. */
export function unswept(trial: string, state: string, recipe: Recipe): Swept {
  const grid = sweepGrid(recipe.target);
  return { trial, state, grid, seen: new Uint8Array(grid.columns * grid.rows) };
}

/** As it is kept: eight squares to a byte. */
export function packed({ trial, state, grid, seen }: Swept): Sweep {
  const bytes = new Uint8Array(Math.ceil(seen.length / 8));
  seen.forEach((one, i) => {
    if (one) bytes[i >> 3]! |= 1 << (i & 7);
  });
  return { trial, state, ...grid, seen: btoa(String.fromCharCode(...bytes)) };
}

/** What either of them says was seen of the same result. */
export function together(one: Swept, other: Swept): Swept {
  if (other.seen.every((square, i) => !square || one.seen[i])) return one;
  return { ...one, seen: one.seen.map((square, i) => square | other.seen[i]!) };
}

/** What was kept; null where it isn't of this result. */
export function unpacked(kept: Sweep, { trial, state, grid, seen }: Swept): Swept | null {
  const same =
    kept.trial === trial &&
    kept.state === state &&
    kept.columns === grid.columns &&
    kept.rows === grid.rows;
  if (!same) return null;
  const bytes = atob(kept.seen);
  return {
    ...{ trial, state, grid },
    seen: seen.map((_, i) => (bytes.charCodeAt(i >> 3) >> (i & 7)) & 1),
  };
}
