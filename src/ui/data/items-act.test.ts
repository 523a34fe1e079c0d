import { afterEach, describe, expect, it, vi } from 'vitest';
import { CALL_MOST, ItemsAct, type ItemsOutcome } from '@/core/batch/batch';
import { api } from './api';
import { actOnItems } from './items-act';

const numbers = (count: number) => Array.from({ length: count }, (_, i) => i + 1);

/** A server that does each call, or what is said of it. */
function serve(answer: (act: ItemsAct, call: number) => ItemsOutcome | Error) {
  const calls: ItemsAct[] = [];
  vi.spyOn(api, 'actOnItems').mockImplementation((_, act) => {
    // What the server would not take is none of its calls.
    calls.push(ItemsAct.parse(act));
    const got = answer(act, calls.length - 1);
    return got instanceof Error ? Promise.reject(got) : Promise.resolve(got);
  });
  return calls;
}

const itemsIn = (act: ItemsAct): number[] => ('items' in act ? act.items : []);
const doneBy = (act: ItemsAct): ItemsOutcome => ({
  done: itemsIn(act).length,
  failed: [],
  undo: [{ act: 'return', items: itemsIn(act) }],
});

afterEach(() => vi.restoreAllMocks());

describe('an act on many pictures of a batch', () => {
  it('goes in calls that the server takes, with every picture in one of them', async () => {
    const calls = serve(doneBy);
    const items = numbers(2 * CALL_MOST + 50);
    const { done, stopped } = await actOnItems(3, [{ act: 'leave', items }]);
    expect(calls.map((act) => itemsIn(act).length)).toEqual([CALL_MOST, CALL_MOST, 50]);
    expect(calls.flatMap(itemsIn)).toEqual(items);
    expect(done).toBe(items.length);
    expect(stopped).toBeNull();
  });

  it('is one call where one takes all of it', async () => {
    const calls = serve(doneBy);
    await actOnItems(3, [{ act: 'retry', items: numbers(CALL_MOST) }]);
    expect(calls).toHaveLength(1);
  });

  it('puts pictures first in their own order: the last call’s come before the others', async () => {
    const order: number[] = [];
    serve((act) => {
      order.unshift(...itemsIn(act));
      return doneBy(act);
    });
    const items = numbers(3 * CALL_MOST);
    await actOnItems(3, [{ act: 'move', items, to: 'first' }]);
    expect(order).toEqual(items);
  });

  it('puts pictures last in their own order', async () => {
    const calls = serve(doneBy);
    const items = numbers(3 * CALL_MOST);
    await actOnItems(3, [{ act: 'move', items, to: 'last' }]);
    expect(calls.flatMap(itemsIn)).toEqual(items);
  });

  it('is taken back from its end to its beginning', async () => {
    serve(doneBy);
    const { undo } = await actOnItems(3, [{ act: 'leave', items: numbers(CALL_MOST + 1) }]);
    expect(undo.map(itemsIn)).toEqual([[CALL_MOST + 1], numbers(CALL_MOST)]);
  });

  it('says each reason once, however many pictures it is of', async () => {
    serve((act) => ({
      ...{ done: 0, undo: [] },
      failed: itemsIn(act).map((item) => ({ item, words: item % 2 ? 'It runs.' : 'It is gone.' })),
    }));
    const { failed, done } = await actOnItems(3, [{ act: 'retry', items: numbers(150) }]);
    expect([...failed].sort()).toEqual(['It is gone.', 'It runs.']);
    expect(done).toBe(0);
  });

  it('that ends half-way says so, and what was done until then can be taken back', async () => {
    const calls = serve((act, call) => (call === 1 ? new Error('no answer') : doneBy(act)));
    const outcome = await actOnItems(3, [{ act: 'leave', items: numbers(3 * CALL_MOST) }]);
    expect(calls).toHaveLength(2);
    expect(outcome.stopped).toMatchObject({ message: 'no answer' });
    expect(outcome.done).toBe(CALL_MOST);
    expect(outcome.undo.flatMap(itemsIn)).toEqual(numbers(CALL_MOST));
  });

  it('takes changes and places back in parts, too', async () => {
    const calls = serve(() => ({ done: 0, failed: [], undo: [] }));
    const moves = numbers(130).map((item) => ({
      ...{ item, revision: 2, to: 1 },
      ...{ trial: 'a', own: true },
    }));
    const places = numbers(120).map((item) => ({ item, position: item / 2 }));
    await actOnItems(3, [
      { act: 'undo', moves, author: null },
      { act: 'place', places },
    ]);
    expect(calls.map(({ act }) => act)).toEqual(['undo', 'undo', 'place', 'place']);
    expect(calls.flatMap((act) => (act.act === 'undo' ? act.moves : []))).toEqual(moves);
    expect(calls.flatMap((act) => (act.act === 'place' ? act.places : []))).toEqual(places);
  });
});
