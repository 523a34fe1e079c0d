import { QueryClient } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { BatchHead } from '@/core/batch/batch';
import { api } from './api';
import { hearOfBatches } from './batches';
import { useNotices } from './notices';
import { keys } from './queries';

const client = new QueryClient();
const told = () => useNotices.getState().list.map(({ text, tone }) => [text, tone]);

/** How a batch stands, as the server says when it is asked. */
function stands(head: Partial<BatchHead>) {
  return vi.spyOn(api, 'batch').mockResolvedValue({
    ...{ name: 'Posters', state: 'done', states: { done: 12 }, trouble: null },
    ...head,
  } as BatchHead);
}
const posters = { id: 4, name: 'Posters' };

beforeEach(() => {
  useNotices.setState({ list: [] });
  hearOfBatches(client, { last: 0, running: [] });
});
afterEach(() => vi.restoreAllMocks());

describe('what is told of batches', () => {
  it('that end: how many are made', async () => {
    stands({});
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [] });
    await vi.waitFor(() => expect(told()).toEqual([['Posters: all 12 are made.', 'good']]));
  });

  it('that end with some not made: how many, as trouble where they failed', async () => {
    stands({ states: { done: 9, failed: 1, cancelled: 2 } });
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [] });
    await vi.waitFor(() => expect(told()).toEqual([['Posters: 9 made, 3 not.', 'trouble']]));
  });

  it('that somebody cancelled in part is no trouble', async () => {
    stands({ states: { done: 9, cancelled: 2 } });
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [] });
    await vi.waitFor(() => expect(told()).toEqual([['Posters: 9 made, 2 not.', 'good']]));
  });

  it('that stand still: why; of one that was paused nothing', async () => {
    const asked = stands({ state: 'paused', trouble: 'The disk is full.' });
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [] });
    await vi.waitFor(() => expect(told()).toEqual([['Posters: The disk is full.', 'trouble']]));
    asked.mockResolvedValue({ ...(await asked.mock.results[0]!.value), trouble: null });
    useNotices.setState({ list: [] });
    hearOfBatches(client, { last: 3, running: [posters] });
    hearOfBatches(client, { last: 4, running: [] });
    await vi.waitFor(() => expect(asked).toHaveBeenCalledTimes(2));
    await Promise.resolve();
    expect(told()).toEqual([]);
  });

  it('is nothing while they run, and of those that were never seen running', async () => {
    const asked = stands({});
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [posters, { id: 5, name: 'Flags' }] });
    expect(asked).not.toHaveBeenCalled();
    hearOfBatches(client, { last: 3, running: [posters] });
    expect(asked.mock.calls).toEqual([[5]]);
  });

  it('is nothing of one that was deleted meanwhile', async () => {
    const asked = vi.spyOn(api, 'batch').mockRejectedValue(new Error('There is no such batch.'));
    hearOfBatches(client, { last: 1, running: [posters] });
    hearOfBatches(client, { last: 2, running: [] });
    await vi.waitFor(() => expect(asked).toHaveBeenCalled());
    await Promise.resolve();
    expect(told()).toEqual([]);
  });

  it('has all lists of batches asked for anew', () => {
    const again = vi.spyOn(client, 'invalidateQueries');
    hearOfBatches(client, { last: 7, running: [] });
    expect(again).toHaveBeenCalledWith({ queryKey: keys.batches });
  });
});
