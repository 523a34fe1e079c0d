import type { QueryClient } from '@tanstack/react-query';
import { create } from 'zustand';
import type { NewItems } from '@/core/batch/batch';
import { OPEN_PAPER } from '@/core/measure/paper';
import type { NewJob, NewPicture } from '@/core/shop/job';
import { api, ServerProblem, upload } from '../data/api';
import { author } from '../data/author';
import { tell } from '../data/notices';
import { keys } from '../data/queries';
import { say } from '@/core/words/say';

/** Pictures that join a batch at once: the first are seen soon. */
const TOGETHER = 10;

/** Files on their way into a batch. */
export interface OnTheirWay {
  batch: number;
  name: string;
  /** of how many, counted from 1 */
  number: number;
  of: number;
  share: number;
}

/** It outlives the page that it was begun on. */
export const useOnTheirWay = create<{ now: OnTheirWay | null }>(() => ({ now: null }));

/** What is ordered with the files of a batch. */
export type BatchOrder = Pick<
  NewJob,
  'title' | 'customer' | 'due' | 'device' | 'material' | 'distance'
>;

/** How often a shop that does not answer is asked again, and after how long. */
const TRIES = 40;
const AGAIN_MS = 1500;

/** Asks again where the shop does not answer just now: that is no fault of the file. */
async function insistently<T>(ask: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof ServerProblem) || error.status !== 0 || tries === TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

/**
 * Takes files into a batch, as pictures of one job; where one can't be used the others go on, and the batch keeps why.
 * @param known digests of pictures that are in it already: what was broken off is gone on with
 */
export async function takeInto(
  client: QueryClient,
  batch: number,
  files: readonly File[],
  order: BatchOrder,
  known: ReadonlySet<string> = new Set(),
): Promise<void> {
  if (useOnTheirWay.getState().now) {
    return tell(say`Wait until the other files are taken in.`, 'trouble');
  }
  const seen = new Set(known);
  let job: number | null = null;
  const had = new Set<number>();
  let pictures: NewPicture[] = [];
  let refused: NonNullable<NewItems['refused']> = [];

  const hand = async () => {
    const pieces: number[] = [];
    if (pictures.length > 0) {
      const view: { id: number; pieces: { id: number }[] } =
        job === null
          ? await api.beginJob({ ...order, pictures, paper: OPEN_PAPER })
          : await api.addPieces(job, { pictures });
      job = view.id;
      pieces.push(...view.pieces.map(({ id }) => id).filter((id) => !had.has(id)));
      for (const id of pieces) had.add(id);
    }
    if (pieces.length + refused.length > 0) {
      const added = { pieces, refused, author: author() };
      await insistently(() => api.addItems(batch, added));
    }
    pictures = [];
    refused = [];
    void client.invalidateQueries({ queryKey: keys.batches });
  };

  try {
    for (const [i, file] of files.entries()) {
      const at = { batch, name: file.name, number: i + 1, of: files.length };
      useOnTheirWay.setState({ now: { ...at, share: 0 } });
      try {
        const { digest, fileName } = await insistently(() =>
          upload(file, (share) => useOnTheirWay.setState({ now: { ...at, share } })),
        );
        if (seen.has(digest)) {
          refused.push({ name: file.name, why: say`The same picture is in the batch already.` });
        } else pictures.push({ digest, fileName, page: 1 });
        seen.add(digest);
      } catch (error) {
        if (error instanceof ServerProblem && error.status === 0) throw error;
        refused.push({ name: file.name, why: (error as Error).message.slice(0, 500) });
      }
      if (pictures.length + refused.length >= TOGETHER) await hand();
    }
    await hand();
  } catch (error) {
    tell((error as Error).message, 'trouble');
  } finally {
    useOnTheirWay.setState({ now: null });
    void client.invalidateQueries({ queryKey: keys.jobs });
  }
}
