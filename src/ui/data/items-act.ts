import { CALL_MOST, type ItemsAct, type ItemsOutcome } from '@/core/batch/batch';
import { api } from './api';

/** What many pictures are done to at once, in calls that each stay short. */
type Wanted = { [A in ItemsAct['act']]: Extract<ItemsAct, { act: A }> }[ItemsAct['act']];

function inCalls(act: Wanted): ItemsAct[] {
  const parts = <T>(list: readonly T[]): T[][] =>
    Array.from({ length: Math.ceil(list.length / CALL_MOST) }, (_, i) =>
      list.slice(i * CALL_MOST, (i + 1) * CALL_MOST),
    );
  if (act.act === 'undo') return parts(act.moves).map((moves) => ({ ...act, moves }));
  if (act.act === 'place') return parts(act.places).map((places) => ({ ...act, places }));
  const calls = parts(act.items).map((items) => ({ ...act, items }));
  // What is put first one after the other would end in reverse.
  return act.act === 'move' && act.to === 'first' ? calls.reverse() : calls;
}

/** What came of acts in many calls. */
export interface Acted {
  done: number;
  /** why some could not be done, each reason once */
  failed: Set<string>;
  /** what takes back all that was done, in this order */
  undo: ItemsAct[];
  /** what ended it before all was asked for; what was done until then is in the others */
  stopped: Error | null;
}

/** Does acts to pictures of a batch one after the other, as far as the server answers. */
export async function actOnItems(id: number, acts: readonly ItemsAct[]): Promise<Acted> {
  const all: Acted = { done: 0, failed: new Set(), undo: [], stopped: null };
  for (const act of acts.flatMap(inCalls)) {
    let outcome: ItemsOutcome;
    try {
      outcome = await api.actOnItems(id, act);
    } catch (error) {
      return { ...all, stopped: error as Error };
    }
    all.done += outcome.done;
    for (const { words } of outcome.failed) all.failed.add(words);
    all.undo.unshift(...outcome.undo);
  }
  return all;
}
