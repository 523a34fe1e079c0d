import type { Method } from '../steps/enlarge/methods';
import type { TestRow } from './self-test';

/** Methods that are nearer to the truth by less are as good, in dB. */
export const TELLING_DB = 0.3;

/** A method that did better on the very picture than the one that is taken, and by how many dB. */
export interface Better {
  method: Exclude<Method, 'auto'>;
  by: number;
}

/**
 * The method that did best in a test on the very picture, where it is better than the one that is taken by more than
 * TELLING_DB; null where none is, or the one that is taken was not tested.
 */
export function betterMethod(rows: readonly TestRow[], taken: string): Better | null {
  const own = rows.find(({ method }) => method === taken);
  if (!own) return null;
  const best = rows.reduce((a, b) => (b.psnr > a.psnr ? b : a));
  const by = best.psnr - own.psnr;
  return by > TELLING_DB ? { method: best.method as Better['method'], by } : null;
}
