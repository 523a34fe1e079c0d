import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ALL_MODELS } from '@/core/learned/models';
import { throughputOf } from '@/core/render/throughput';
import { propose } from '@/core/recipe/propose';
import { resolveRecipe } from '@/core/recipe/resolve';
import { originalOf } from '@/core/recipe/original';
import type { Task } from '@/core/shop/task';
import { testFindings, testPaper } from '@/core/testing';
import { ServerProblem } from '../data/api';
import { insistently } from '../data/insistently';
import { useNotices } from '../data/notices';
import { copyText } from './copy-text';
import { createSelection } from './selection';
import { expectedSeconds, estimateWords, timeLeft } from './time-left';

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('a selection of rows', () => {
  const { useSelection, select, selectNone, actedOn } = createSelection();
  const chosen = () => [...useSelection.getState().chosen];
  beforeEach(selectNone);

  it('takes rows in and out, each once', () => {
    select([3, 1], true);
    select([1, 2], true);
    expect(chosen()).toEqual([3, 1, 2]);
    select([1, 9], false);
    expect(chosen()).toEqual([3, 2]);
  });

  it('is what an act is for where the row is of it, and that row alone where not', () => {
    select([1, 2, 3], true);
    expect(actedOn(2)).toEqual([1, 2, 3]);
    expect(actedOn(7)).toEqual([7]);
    expect(chosen()).toEqual([1, 2, 3]);
  });

  it('of one list is not that of another', () => {
    select([1], true);
    expect([...createSelection().useSelection.getState().chosen]).toEqual([]);
  });
});

describe('the time that is left', () => {
  const findings = testFindings({ width: 600, height: 400 });
  const { work } = propose(findings, {
    paper: testPaper({ width: { value: 60, unit: 'cm' } }),
    distance: 2,
  });
  const resolved = resolveRecipe(originalOf('d', findings), work, work.trials[0]!, ALL_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  const throughput = throughputOf([]);
  const run = (startedAt: number | null, progress: number) =>
    ({ kind: 'render', startedAt, progress, payload: { recipe: resolved.recipe } }) as Task;
  const seconds = (words: string) => {
    const [, minutes, rest] = /^(\d+):(\d\d) left$/.exec(words)!;
    return 60 * Number(minutes) + Number(rest);
  };

  it('is not known before a run begins, or before anything is known of this machine', () => {
    expect(timeLeft(run(null, 0), throughput)).toBe('starting');
    expect(timeLeft(run(1, 0.5), undefined)).toBe('starting');
  });

  it('goes by the estimate first, and by its own speed then', () => {
    vi.useFakeTimers({ now: 1_000_000 });
    const { likely } = expectedSeconds(run(1, 0), throughput);
    expect(seconds(timeLeft(run(1_000_000, 0), throughput))).toBe(Math.round(likely));
    // Half of it took a minute: another one is left, whatever was thought before.
    vi.setSystemTime(1_060_000);
    expect(seconds(timeLeft(run(1_000_000, 0.5), throughput))).toBe(60);
    expect(seconds(timeLeft(run(1_000_000, 1), throughput))).toBe(0);
  });

  it('of a sheet is some seconds, whatever it is of', () => {
    const sheet = { kind: 'sheet', startedAt: 1, progress: 0, payload: {} } as Task;
    expect(estimateWords(expectedSeconds(sheet, throughput))).toBe('5–20 s');
  });
});

describe('what is asked of a shop that does not answer', () => {
  const nobody = () => Promise.reject(new ServerProblem('nobody', 0));

  it('is asked again until it answers', async () => {
    vi.useFakeTimers();
    const ask = vi.fn(nobody);
    ask.mockImplementationOnce(nobody).mockImplementationOnce(nobody);
    ask.mockImplementationOnce(() => Promise.resolve('here') as never);
    const answer = insistently(ask);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(await answer).toBe('here');
    expect(ask).toHaveBeenCalledTimes(3);
  });

  it('is asked no more once it was refused', async () => {
    const ask = vi.fn(() => Promise.reject(new ServerProblem('too large', 422)));
    await expect(insistently(ask)).rejects.toThrow('too large');
    const broken = vi.fn(() => Promise.reject(new TypeError('no such function')));
    await expect(insistently(broken)).rejects.toThrow(TypeError);
    expect([ask, broken].map((one) => one.mock.calls.length)).toEqual([1, 1]);
  });

  it('is given up after a minute', async () => {
    vi.useFakeTimers();
    const ask = vi.fn(nobody);
    const answer = expect(insistently(ask)).rejects.toThrow('nobody');
    await vi.advanceTimersByTimeAsync(120_000);
    await answer;
    expect(ask).toHaveBeenCalledTimes(40);
  });
});

describe('copying', () => {
  beforeEach(() => useNotices.setState({ list: [] }));
  const told = () => vi.waitFor(() => expect(useNotices.getState().list).toHaveLength(1));
  const last = () => useNotices.getState().list[0];

  it('says what was copied', async () => {
    const writeText = vi.fn(() => Promise.resolve());
    vi.stubGlobal('navigator', { clipboard: { writeText } });
    copyText('the note', 'The note is copied.');
    await told();
    expect(writeText).toHaveBeenCalledWith('the note');
    expect(last()).toMatchObject({ text: 'The note is copied.', tone: 'good' });
  });

  it('that the browser forbids is trouble', async () => {
    const writeText = () => Promise.reject(new Error('not allowed'));
    vi.stubGlobal('navigator', { clipboard: { writeText } });
    copyText('the note', 'The note is copied.');
    await told();
    expect(last()).toMatchObject({ tone: 'trouble' });
  });

  it.each([true, false])('goes the old way where there is no clipboard: %s', async (done) => {
    vi.stubGlobal('navigator', {});
    vi.stubGlobal('HTMLElement', class {});
    const field = { value: '', style: {}, select: vi.fn(), remove: vi.fn() };
    vi.stubGlobal('document', {
      activeElement: null,
      createElement: () => field,
      body: { append: vi.fn() },
      execCommand: (command: string) => command === 'copy' && done,
    });
    copyText('the note', 'The note is copied.');
    await told();
    expect(field.value).toBe('the note');
    expect(field.select).toHaveBeenCalled();
    expect(field.remove).toHaveBeenCalled();
    expect(last()!.tone).toBe(done ? 'good' : 'trouble');
  });
});
