import * as Comlink from 'comlink';
import { Turns } from './turns';
import { works, type Going, type WorkName } from './works';

/** The one form of what a worker is asked. */
export interface Asked {
  id: number;
  /** greater goes first: what is seen before what may be seen */
  priority: number;
  work: WorkName;
  input: unknown;
}

const turns = new Turns();
const under = new Map<number, AbortController>();

/** Buffers of an answer that may be handed over rather than copied. */
const buffersOf = (answer: unknown): ArrayBuffer[] => {
  if (answer instanceof Uint8Array) return [answer.buffer as ArrayBuffer];
  const rgba = (answer as { rgba?: Uint8ClampedArray<ArrayBuffer> } | null)?.rgba;
  return rgba ? [rgba.buffer] : [];
};

const worker = {
  /** @throws AbortError where it was cancelled @param tell hears what there is to tell meanwhile */
  async ask({ id, priority, work, input }: Asked, tell: (news: unknown) => void): Promise<unknown> {
    const stop = new AbortController();
    under.set(id, stop);
    const turn = turns.begin(priority, stop.signal);
    try {
      const going: Going = { next: turn.next, signal: stop.signal, tell };
      await turn.next();
      const answer = await (works[work] as (input: unknown, going: Going) => Promise<unknown>)(
        input,
        going,
      );
      const buffers = buffersOf(answer);
      return buffers.length > 0 ? Comlink.transfer(answer, buffers) : answer;
    } finally {
      turn.end();
      under.delete(id);
    }
  },

  /** Ends work that is not wanted any more, at its next part. */
  cancel(id: number): void {
    under.get(id)?.abort();
  },
};

export type PreviewWorker = typeof worker;

Comlink.expose(worker);
