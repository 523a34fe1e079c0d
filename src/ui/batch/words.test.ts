import { describe, expect, it } from 'vitest';
import type { BatchHead, BatchPlan, ItemState } from '@/core/batch/batch';
import { BATCH_PATTERN } from '@/core/output/names';
import { benchAddress, countOf, fileWords, planWords, stateWords } from './words';

const plan: BatchPlan = {
  size: { by: 'longest', length: { value: 60, unit: 'cm' } },
  ...{ steps: { by: 'suiting' }, ppi: null, file: null, names: BATCH_PATTERN, folder: null },
};
const head = (
  state: BatchHead['state'],
  states: Partial<Record<ItemState, number>>,
  left: BatchHead['left'] = null,
) =>
  ({
    ...{ state, states, left },
    pictures: Object.values(states).reduce((sum, count) => sum + count, 0),
  }) as BatchHead;

describe('what is decided in a batch', () => {
  it('is a line that names what is decided alone', () => {
    expect(planWords(plan)).toBe('60 cm along the longest side · by the recipe that suits each');
    expect(
      planWords({
        ...plan,
        ...{ steps: { by: 'house', id: 3 }, ppi: 150, folder: 'Press' },
        file: { format: 'jpeg', quality: 90 },
      }),
    ).toBe('60 cm along the longest side · by one recipe · 150 ppi · JPEG 90 · into “Press”');
  });

  it('says a quality where the format has one', () => {
    expect(fileWords({ format: 'jpeg', quality: 85 })).toBe('JPEG 85');
    expect(fileWords({ format: 'tiff', quality: 85 })).toBe('TIFF');
  });
});

describe('how far a batch is', () => {
  it.each<[string, BatchHead]>([
    ['no pictures yet', head('prepared', {})],
    ['0 of 4 made · 2–3 min to go', head('prepared', { 'not yet': 4 }, { least: 120, most: 180 })],
    [
      '1 of 4 made · 60 s – 2 min left',
      head('running', { done: 1, running: 1, queued: 2 }, { least: 60, most: 120 }),
    ],
    ['3 of 5 made · 2 not made', head('done', { done: 3, failed: 1, cancelled: 1 })],
    [
      '1 of 2 made · 20 s to go · paused',
      head('paused', { done: 1, 'not yet': 1 }, { least: 20, most: 20 }),
    ],
    ['2 of 2 made', head('paused', { done: 2 })],
    ['1 of 2 made', head('running', { done: 1, 'changed since': 1 }, { least: 0, most: 0 })],
  ])('is %s', (words, batch) => expect(stateWords(batch)).toBe(words));

  it('counts states that are wanted, and those that there are none of as none', () => {
    expect(countOf(head('running', { done: 2, failed: 1 }), ['done', 'cancelled'])).toBe(2);
  });
});

describe('the bench of a picture of a batch', () => {
  it('opens on that picture, and the trial that the batch makes', () => {
    const item = { jobId: 7, piece: 9, facts: { trialId: 'a&b' } } as Parameters<
      typeof benchAddress
    >[0];
    expect(benchAddress(item)).toBe('/bench/7?piece=9&trial=a%26b');
  });
});
