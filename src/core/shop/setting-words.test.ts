import { describe, expect, it } from 'vitest';
import { changeWords } from './setting-words';
import { USUAL } from './settings';

describe('a change of settings in words', () => {
  const [paper, canvas] = USUAL.materials;

  it('says of a list what was added to it, changed in it, and taken off it', () => {
    const before = [paper!, canvas!];
    const after = [
      { ...paper!, distance: 7 },
      { name: 'Cotton', distance: 2 },
    ];
    expect(changeWords('materials', before, after)).toBe(
      `added Cotton · changed ${paper!.name} · taken off Canvas`,
    );
    expect(changeWords('materials', before, [canvas!, paper!])).toBe('in another order');
    expect(changeWords('people', null, [{ initials: 'AB', name: '' }])).toBe('added AB');
  });

  it('says of several figures those that changed, and names recipes', () => {
    const { begin } = USUAL;
    const after = { ...begin, job: { by: 'house' as const, id: 3 }, distance: 4.5 };
    const named = (id: number) => (id === 3 ? 'Canvas, large' : undefined);
    expect(changeWords('begin', begin, after, named)).toBe('jobs Canvas, large, seen from 4.5 m');
    expect(changeWords('begin', begin, after)).toContain('a recipe that was deleted');
    const limits = { ...USUAL.limits, keepGb: 12 };
    expect(changeWords('limits', USUAL.limits, limits)).toBe('room 12 GB');
    expect(changeWords('limits', limits, USUAL.limits)).toBe('room as the server allows');
  });

  it('says of one word what it is now, and of what can’t be read that it can’t', () => {
    expect(changeWords('unit', 'cm', 'in')).toBe('in');
    expect(changeWords('unit', 'cm', null)).toMatch(/not read any more/);
    expect(changeWords('begin', null, USUAL.begin)).toContain('seen from 2 m');
  });
});
