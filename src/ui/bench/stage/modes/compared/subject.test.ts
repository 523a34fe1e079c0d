import { describe, expect, it } from 'vitest';
import { newStep } from '@/core/recipe/order';
import type { Trial } from '@/core/recipe/work';
import { NO_GUARDS } from '@/core/guard/guards';
import { keyOf, ORIGINAL, shownBeside, subjectsBeside, type Subject } from './subject';

const trial = (id: string): Trial =>
  ({
    ...{ id, name: `Trial ${id}`, guards: NO_GUARDS, pixels: 'enlarged' },
    treatment: [newStep('compression'), newStep('enlarge'), newStep('unsharp')],
  }) as unknown as Trial;
const [a, b, c] = [trial('a'), trial('b'), trial('c')];
const work = { trials: [a!, b!, c!] };

const keys = (chosen: readonly Subject[], panes: number, of = work) =>
  shownBeside(of, a!, chosen, panes).map((one) => (one.of === 'trial' ? one.id : one.of));

describe('what stands beside the result', () => {
  it('is the original, the other trials, and this one after each of its steps', () => {
    expect(subjectsBeside(work, b!).map(({ name }) => name)).toEqual([
      ...['Original', 'Trial a', 'Trial c'],
      ...['Trial b after JPEG clean-up', 'Trial b after enlarging'],
    ]);
  });

  it('is what was chosen, and fills up with what no other pane shows', () => {
    expect(keys([], 1)).toEqual(['original']);
    expect(keys([], 3)).toEqual(['original', 'b', 'c']);
    expect(keys([{ of: 'trial', id: 'c' }], 3)).toEqual(['c', 'original', 'b']);
    expect(keys([], 3, { trials: [a!] })).toEqual(['original', 'step', 'step']);
    const alone = { ...a!, treatment: [newStep('enlarge')] };
    expect(shownBeside({ trials: [alone] }, alone, [], 3)).toEqual([ORIGINAL, ORIGINAL, ORIGINAL]);
  });

  it('can be a file, as long as that is there', () => {
    const file = { name: 'their attempt.jpg', file: { digest: 'f' } };
    const named = subjectsBeside(work, a!, [file]).at(-1)!;
    expect(named.name).toBe('their attempt.jpg');
    expect(shownBeside(work, a!, [named.subject], 1, [file])).toEqual([named.subject]);
    expect(shownBeside(work, a!, [named.subject], 1, [])).toEqual([ORIGINAL]);
  });

  it('means nothing any more once its trial is gone, or steps stand otherwise', () => {
    expect(keys([{ of: 'trial', id: 'gone' }], 1)).toEqual(['original']);
    expect(keys([{ of: 'trial', id: 'a' }], 1)).toEqual(['original']);
    const step = subjectsBeside(work, a!).at(-1)!.subject;
    expect(shownBeside(work, a!, [step], 1)).toEqual([step]);
    const moved = { ...a!, treatment: [newStep('enlarge'), newStep('unsharp')] };
    expect(shownBeside({ trials: [moved] }, moved, [step], 1).map(keyOf)).toEqual(['original']);
  });
});
