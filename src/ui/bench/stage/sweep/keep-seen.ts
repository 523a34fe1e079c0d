import type { Sweep } from '@/core/shop/comparing';
import { api } from '../../../data/api';

/** What was seen waits so long to be kept, in milliseconds: more of it may follow. */
const WAIT_MS = 1500;

interface Waiting {
  piece: number;
  sweep: Sweep;
  then(kept: Sweep): void;
}

/** What is not kept yet, by picture and trial. */
const waiting = new Map<string, Waiting>();
let timer: ReturnType<typeof setTimeout> | undefined;

/**
 * Keeps what was seen of a trial's result with its picture, before long.
 * @param then is told all that is kept of it, what others saw included
 */
export function keepSoon(piece: number, sweep: Sweep, then: Waiting['then']): void {
  waiting.set(`${piece} ${sweep.trial}`, { piece, sweep, then });
  timer ??= setTimeout(keepNow, WAIT_MS);
}

/** Keeps at once what waits, as when the picture or the page is left. */
export function keepNow(): void {
  clearTimeout(timer);
  timer = undefined;
  const all = [...waiting.values()];
  waiting.clear();
  for (const { piece, sweep, then } of all) {
    // What can't be kept now is sent again with the next part that is seen.
    api.keepSweep(piece, sweep).then(then, () => {});
  }
}

globalThis.addEventListener?.('pagehide', keepNow);
