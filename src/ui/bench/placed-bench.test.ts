import { describe, expect, it } from 'vitest';
import { ALL_MODELS } from '@/core/learned/models';
import { drawTreated } from '@/core/recipe/placed-work';
import { originalOf } from '@/core/recipe/original';
import { propose } from '@/core/recipe/propose';
import { resolveRecipe } from '@/core/recipe/resolve';
import { branchTrial, removeTrial } from '@/core/recipe/trials';
import type { Work } from '@/core/recipe/work';
import { stepOf } from '@/core/recipe/work';
import { testPaper } from '@/core/testing';
import { testPage } from '@/core/testing/page';
import { placedBench } from './placed-bench';
import type { Change, WorkBench } from './use-work';

const { findings, taken } = testPage();
const original = originalOf('a'.repeat(64), findings, [taken]);

/** A page's bench whose changes are kept in what is handed back. */
function pageBench(begin: (work: Work) => void = () => {}) {
  const order = { paper: testPaper({ width: { value: 60, unit: 'cm' } }), distance: 2 };
  const { work } = propose(findings, order, [taken]);
  begin(work);
  const kept = { work, labels: [] as string[] };
  const bench = (): WorkBench => {
    const [trial] = kept.work.trials as [Work['trials'][0]];
    const resolve = (one: typeof trial) => resolveRecipe(original, kept.work, one, ALL_MODELS);
    return {
      ...({ undo: null, redo: null, running: false, saving: false } as WorkBench),
      ...{ inside: null, original, found: findings, work: kept.work, trial, models: ALL_MODELS },
      ...{ resolved: resolve(trial), kept: resolve(trial), resolve },
      job: {
        runs: [],
        piece: {
          id: 7,
          digest: 'a'.repeat(64),
          fileName: 'p.pdf',
          findings,
          work: kept.work,
          takenOut: [taken],
        },
      } as unknown as WorkBench['job'],
      change: (label: string, change: Change) => {
        const copy = structuredClone(kept.work);
        change(copy, copy.trials[0]!);
        kept.work = copy;
        kept.labels.push(label);
      },
    };
  };
  return { kept, bench };
}

describe('a picture on a page, on the bench', () => {
  it('is a picture as any other, ordered at the pixels that it fills', () => {
    const { bench } = pageBench();
    const inside = placedBench(bench(), 1)!;
    expect(inside.original).toMatchObject({ digest: taken.digest, vector: false });
    expect(inside.job.piece).toMatchObject({ digest: taken.digest, fileName: 'p.pdf, picture 1' });
    const own = bench().resolved;
    const on = own.ok && own.recipe.original.drawn!.placed[0]!.recipe;
    expect(inside.resolved.ok && inside.resolved.recipe).toEqual(on);
    expect(inside.kept).toEqual(inside.resolved);
  });

  it('is changed in the work of its page, and nowhere else', () => {
    const { bench, kept } = pageBench();
    const before = structuredClone(kept.work);
    placedBench(bench(), 1)!.change('Lanczos', (_, trial) => {
      stepOf(trial.treatment, 'enlarge')!.settings.method = 'lanczos3';
    });
    expect(kept.labels).toEqual(['Picture 1: Lanczos']);
    expect(stepOf(kept.work.trials[0]!.placed[0]!.treatment, 'enlarge')!.settings.method).toBe(
      'lanczos3',
    );
    kept.work.trials[0]!.placed = before.trials[0]!.placed;
    expect(kept.work).toEqual(before);
  });

  it('keeps its kind and its zones for all trials', () => {
    const { bench, kept } = pageBench((work) => branchTrial(work, work.trials[0]!));
    placedBench(bench(), 1)!.change('Taken for line art', (work) => {
      work.kind = 'line art';
    });
    expect(kept.work.placed).toEqual([
      expect.objectContaining({ page: 1, picture: 1, kind: 'line art' }),
    ]);
    expect(placedBench(bench(), 1)!.found.kind).toBe('line art');
  });

  it('branches and drops trials of the page', () => {
    const { bench, kept } = pageBench();
    placedBench(bench(), 1)!.change('Branched', (work, trial) => {
      branchTrial(work, trial, (one) => {
        stepOf(one.treatment, 'enlarge')!.settings.method = 'bicubic';
      });
    });
    expect(kept.work.trials.map(({ id }) => id)).toEqual(['a', 'b']);
    expect(kept.work.begun).toBe(2);
    const method = (index: number) =>
      stepOf(kept.work.trials[index]!.placed[0]!.treatment, 'enlarge')!.settings.method;
    expect([method(0), method(1)]).toEqual(['auto', 'bicubic']);
    // The page's own settings went along.
    expect(kept.work.trials[1]!.output).toEqual(kept.work.trials[0]!.output);
    const other = placedBench(bench(), 1)!.resolve(kept.work.trials[1]!);
    expect(other.ok && other.recipe.steps.some(({ kind }) => kind === 'upscale')).toBe(false);
    placedBench(bench(), 1)!.change('Dropped', (work) => void removeTrial(work, 'b'));
    expect(kept.work.trials.map(({ id }) => id)).toEqual(['a']);
  });

  it('begins with nothing but enlarging where a trial did nothing to it, and is off until it is changed', () => {
    const { bench, kept } = pageBench((work) => (work.trials[0]!.placed = []));
    const inside = placedBench(bench(), 1)!;
    expect(inside.trial.treatment).toHaveLength(1);
    inside.change('nothing', () => {});
    expect(kept.work.trials[0]!.placed).toEqual([]);
    inside.change('Nearest', (_, trial) => {
      stepOf(trial.treatment, 'enlarge')!.settings.method = 'nearest';
    });
    expect(kept.work.trials[0]!.placed).toEqual([expect.objectContaining({ on: true })]);
    const switched = (on: boolean) =>
      bench().change('switch', (_, trial) => drawTreated(trial, { page: 1, picture: 1 }, on));
    switched(false);
    expect(kept.work.trials[0]!.placed[0]!.on).toBe(false);
    kept.work.trials[0]!.placed = [];
    switched(true);
    expect(kept.work.trials[0]!.placed).toEqual([expect.objectContaining({ on: true })]);
  });

  it('is not there where the page has no such picture, or no print', () => {
    const { bench } = pageBench();
    expect(placedBench(bench(), 2)).toBeNull();
    const broken = { ...bench(), resolved: { ok: false as const, reason: 'too large' } };
    expect(placedBench(broken, 1)).toBeNull();
  });
});
