import type { QueryClient } from '@tanstack/react-query';
import { v4 as newId } from 'uuid';
import { create } from 'zustand';
import type { NewItems } from '@/core/batch/batch';
import { OPEN_PAPER } from '@/core/measure/paper';
import type { NewJob, NewPicture } from '@/core/shop/job';
import { api, ServerProblem, upload } from '../data/api';
import { author } from '../data/author';
import { tell } from '../data/notices';
import { insistently } from '../data/insistently';
import { keys } from '../data/queries';
import { askBeforeLeaving } from '../parts/leaving';
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
askBeforeLeaving(() => useOnTheirWay.getState().now !== null);

/** What is ordered with the files of a batch. */
export type BatchOrder = Pick<
  NewJob,
  'title' | 'customer' | 'due' | 'device' | 'material' | 'distance'
>;

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
    tell(say`Wait until the other files are taken in.`, 'trouble');
    return;
  }
  const seen = new Set(known);
  let job: number | null = null;
  const had = new Set<number>();

  const hand = async (sent: readonly Sent[]) => {
    const refused: Refused[] = [];
    const pictures: NewPicture[] = [];
    for (const one of sent) {
      if ('why' in one) refused.push(one);
      else if (seen.has(one.digest)) {
        refused.push({ name: one.fileName, why: say`The same picture is in the batch already.` });
      } else {
        seen.add(one.digest);
        pictures.push(one);
      }
    }
    const pieces: number[] = [];
    if (pictures.length > 0) {
      const once = newId();
      const view: { id: number; pieces: { id: number }[] } = await insistently(() =>
        job === null
          ? api.beginJob({ ...order, pictures, once, paper: OPEN_PAPER })
          : api.addPieces(job, { pictures, once }),
      );
      job = view.id;
      pieces.push(...view.pieces.map(({ id }) => id).filter((id) => !had.has(id)));
      for (const id of pieces) had.add(id);
    }
    const added = { pieces, refused, author: author() };
    await insistently(() => api.addItems(batch, added));
    void client.invalidateQueries({ queryKey: keys.batches });
  };

  try {
    for (let i = 0; i < files.length; i += TOGETHER) {
      const part = files.slice(i, i + TOGETHER);
      await hand(
        await sendAll(part, (file, at, share) =>
          useOnTheirWay.setState({
            now: { batch, name: file.name, number: i + at + 1, of: files.length, share },
          }),
        ),
      );
    }
  } catch (error) {
    tell((error as Error).message, 'trouble');
  } finally {
    useOnTheirWay.setState({ now: null });
    void client.invalidateQueries({ queryKey: keys.jobs });
  }
}

type Refused = NonNullable<NewItems['refused']>[number];
/** A file as the shop has it, or why it does not. */
type Sent = NewPicture | Refused;

/** Files that are sent at the same time: while one is looked at the next is on its way. */
const LANES = 2;

/** Sends files; what can't be used is answered for, and the others go on. @returns them in their order */
async function sendAll(
  files: readonly File[],
  told: (file: File, at: number, share: number) => void,
): Promise<Sent[]> {
  const sent: Sent[] = [];
  let next = 0;
  const lane = async () => {
    while (next < files.length) {
      const at = next++;
      const file = files[at]!;
      told(file, at, 0);
      try {
        const { digest, fileName } = await insistently(() =>
          upload(file, (share) => told(file, at, share)),
        );
        sent[at] = { digest, fileName, page: 1 };
      } catch (error) {
        if (error instanceof ServerProblem && error.status === 0) throw error;
        sent[at] = { name: file.name, why: (error as Error).message.slice(0, 500) };
      }
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return sent;
}
