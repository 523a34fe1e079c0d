import { describe, expect, it } from 'vitest';
import { daysLeft, dueWords } from './days-left';

const late = new Date(2026, 10, 30, 23, 59);

describe('the days that are left', () => {
  it.each([
    ['2026-11-30', 'today'],
    ['2026-12-01', 'tomorrow'],
    ['2026-12-04', 'in 4 days'],
    ['2026-11-29', '1 day late'],
    ['2026-11-01', '29 days late'],
  ])('until %s: %s, by the calendar whatever the hour', (due, words) => {
    expect(dueWords(daysLeft(due, late))).toBe(words);
    expect(dueWords(daysLeft(due, new Date(2026, 10, 30, 0, 1)))).toBe(words);
  });
});
