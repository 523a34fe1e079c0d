import { QueryClient } from '@tanstack/react-query';
import { beforeEach, describe, expect, it } from 'vitest';
import { Lists } from '@/core/shop/lists';
import type { Sending, SendingState } from '@/core/shop/sending';
import { hearOfSending } from './devices';
import { tell, useNotices } from './notices';
import { keys } from './queries';
import { hearOfSettings } from './settings';

let client: QueryClient;
const told = () => useNotices.getState().list.map(({ text, tone }) => [text, tone]);
/** Whether what is known under a key is to be asked for again. */
const stale = (key: readonly unknown[]) => client.getQueryState(key)?.isInvalidated;

beforeEach(() => {
  client = new QueryClient();
  useNotices.setState({ list: [] });
});

describe('news of settings', () => {
  const SETTINGS = ['settings'];
  const lists: Lists = { devices: [], materials: [], sheets: [], unit: 'cm' };
  const known = (change: number) => {
    client.setQueryData(SETTINGS, { settings: {}, change });
    client.setQueryData(keys.lists, lists);
  };

  it('that are newer than what is known have that asked for, and what follows from it', () => {
    known(4);
    hearOfSettings(client, 5);
    expect(stale(SETTINGS)).toBe(true);
    expect(stale(keys.lists)).toBe(true);
  });

  it('that are known already, as one’s own are, cost nothing', () => {
    known(5);
    hearOfSettings(client, 5);
    hearOfSettings(client, 3);
    expect(stale(SETTINGS)).toBe(false);
    expect(stale(keys.lists)).toBe(false);
  });

  it('come to a page that never asked for them without harm', () => {
    hearOfSettings(client, 5);
    expect(client.getQueryData(SETTINGS)).toBeUndefined();
  });
});

describe('news of what was sent to devices', () => {
  const sending = (state: SendingState) =>
    ({ key: 'k', state, fileName: 'dome.tif', device: 'Wide one' }) as Sending;
  const hear = (state: SendingState) =>
    hearOfSending(client, { key: 'k', jobId: 1, pieceId: 2, state, change: 9 });

  beforeEach(() => {
    client.setQueryData(keys.sendings(2), [sending('printing')]);
    client.setQueryData(keys.job(1), {});
  });

  it('is printed: it is said, and the job is asked for', () => {
    hear('printed');
    expect(told()).toEqual([['dome.tif is printed by Wide one.', 'good']]);
    expect(stale(keys.job(1))).toBe(true);
  });

  it('failed: where one reads why', () => {
    hear('failed');
    expect(told()).toEqual([['dome.tif could not be printed. Output says why.', 'trouble']]);
  });

  it('goes on: what is known of it is asked for, the job is not', () => {
    hear('printing');
    expect(stale(keys.sendings(2))).toBe(true);
    expect(stale(keys.job(1))).toBe(false);
    expect(told()).toEqual([]);
  });

  it('that nobody here looked at says nothing, but its job may be farther on its way', () => {
    client.setQueryData(keys.sendings(2), []);
    hear('printed');
    expect(told()).toEqual([]);
    expect(stale(keys.job(1))).toBe(true);
  });
});

describe('notices', () => {
  it('are said once: the same words take the place of the ones before', () => {
    tell('Kept.', 'good');
    tell('The disk is full.', 'trouble');
    tell('Kept.', 'note');
    expect(told()).toEqual([
      ['The disk is full.', 'trouble'],
      ['Kept.', 'note'],
    ]);
  });

  it('never fill the window: the oldest give way', () => {
    for (let i = 1; i <= 9; i++) tell(`Notice ${i}`, 'note');
    expect(told().map(([text]) => text)).toEqual([4, 5, 6, 7, 8, 9].map((i) => `Notice ${i}`));
  });

  it('are put away one by one', () => {
    tell('One', 'note');
    tell('Two', 'note');
    const { list, dismiss } = useNotices.getState();
    dismiss(list[0]!.id);
    expect(told()).toEqual([['Two', 'note']]);
  });
});
