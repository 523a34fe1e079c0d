import { describe, expect, it } from 'vitest';
import { patchBetween } from './change';
import { clashOf } from './clash';

const work = {
  paper: { width: { value: 90, unit: 'cm' }, height: null },
  trials: [
    {
      id: 'a',
      ppi: 150,
      treatment: [
        { kind: 'tone', on: true, strength: 100, where: null as string | null },
        { kind: 'tone', on: true, strength: 50, where: 'sky' },
        { kind: 'enlarge', on: true, strength: 100, where: null },
      ],
    },
  ],
};
type Made = typeof work;
const change = (make: (work: Made) => void) => {
  const copy = structuredClone(work);
  make(copy);
  return patchBetween(work, copy);
};
const wider = change((next) => (next.paper.width.value = 120));
const weaker = change((next) => (next.trials[0]!.treatment[1]!.strength = 20));

describe('two changes of one work', () => {
  it('go together where they touch different things', () => {
    expect(clashOf(wider, weaker)).toBe('none');
    const finer = change((next) => (next.trials[0]!.ppi = 200));
    expect(clashOf(finer, weaker)).toBe('none');
    // One more at the end moves nothing.
    const another = change((next) => next.trials.push({ ...next.trials[0]!, id: 'b' }));
    expect(clashOf(weaker, another)).toBe('none');
    expect(clashOf(another, weaker)).toBe('none');
  });

  it('clash where they set the same thing, or one holds what the other sets', () => {
    expect(
      clashOf(
        wider,
        change((next) => (next.paper.width.value = 60)),
      ),
    ).toBe('value');
    const none = change((next) => Object.assign(next.paper, { width: null }));
    expect(clashOf(wider, none)).toBe('value');
    expect(clashOf(none, wider)).toBe('value');
  });

  it.each<[string, (steps: Made['trials'][number]['treatment']) => void]>([
    ['is taken out before it', (steps) => steps.splice(0, 1)],
    ['is put in before it', (steps) => steps.unshift({ ...steps[2]!, kind: 'clean' })],
    ['changes places with it', (steps) => steps.reverse()],
    ['is the one itself, taken out', (steps) => steps.splice(1, 2)],
  ])('are of other places where a step %s', (_, make) => {
    const moved = change((next) => make(next.trials[0]!.treatment));
    expect(clashOf(weaker, moved)).toBe('place');
    const other = clashOf(moved, weaker);
    expect(['place', 'value']).toContain(other);
  });
});
