import * as Comlink from 'comlink';
import { useEffect } from 'react';
import { create } from 'zustand';
import { factorOf } from '@/core/measure/plan';
import { carryOut } from '@/core/steps/enlarge/choose';
import { Learned, Plain } from '@/core/steps/enlarge/methods';
import { canonicalJson, stepOf } from '@/core/treatment/recipe';
import type { TestedWay, TestRow } from '@/core/treatment/self-test';
import { choosingFor } from '@/core/treatment/settle';
import { worker, type Spotted } from '@/preview/client';
import { onOwnGrid, wholeOriginal } from '../preview-original';
import type { WorkBench } from '../use-work';

/** A test of all methods on one picture, as far as it has come. */
export interface Test {
  /** what was tested: the picture and how it was cleaned */
  key: string;
  rows: (TestRow & { spot: Spotted })[];
  /** how many rows there will be */
  expected: number;
  /** the picture itself, once all is known */
  truth: { factor: number; rise: number; spot: Spotted } | null;
  trouble: string | null;
}

interface Tests {
  test: Test | null;
  set(change: (test: Test | null) => Test | null): void;
}

/** The last test; it stays until another picture or another cleaning is tested. */
export const useTests = create<Tests>((set) => ({
  test: null,
  set: (change) => set(({ test }) => ({ test: change(test) })),
}));

/** What a test of the bench's picture would be of: the text of it, its ways and its recipe. */
export function testedOn({ settled, original, work, trial, models, job }: WorkBench) {
  if (!settled.ok) return null;
  const recipe = onOwnGrid(settled.recipe, true);
  const by = choosingFor(original, work, settled.plan, models);
  const { light, limit, step } = stepOf(trial.treatment, 'enlarge')!.settings;
  const ways = [...Learned.options, ...Plain.options].flatMap((method): TestedWay[] => {
    // It is enlarged back, whatever is ordered.
    const carried = carryOut(method, { ...by, factor: Math.max(by.factor, 2) });
    if (carried.model === null && carried.plain !== method) return [];
    return [{ method, carried, settings: { light, limit: limit / 100, step } }];
  });
  const factor = factorOf(settled.plan);
  const key = canonicalJson([recipe, ways, factor]);
  return {
    key,
    recipe,
    ways,
    factor,
    original: wholeOriginal(job.piece.digest, job.piece.findings, recipe),
  };
}

/** Runs the test for as long as it is looked at, unless it is known already. */
export function useSelfTest(bench: WorkBench): Test | null {
  const { test, set } = useTests();
  const tested = testedOn(bench);
  const key = tested?.key ?? null;
  useEffect(() => {
    if (!tested || (useTests.getState().test?.key === key && useTests.getState().test?.truth))
      return;
    let wanted = true;
    set(() => ({
      key: tested.key,
      rows: [],
      expected: tested.ways.length,
      truth: null,
      trouble: null,
    }));
    const put = (change: Partial<Test>) =>
      set((now) => (now?.key === tested.key ? { ...now, ...change } : now));
    worker()
      .selfTest(
        tested.original,
        tested.recipe,
        tested.ways,
        tested.factor,
        Comlink.proxy((row: TestRow, spot: Spotted) => {
          const rows = useTests.getState().test?.rows ?? [];
          if (wanted) put({ rows: [...rows, { ...row, spot }] });
          return wanted;
        }),
      )
      .then((truth) => put({ truth }))
      .catch((error: unknown) => {
        const words = error instanceof RangeError || /too small/.test(String(error));
        if (wanted) {
          put({
            trouble: words
              ? 'The picture is too small to be reduced and tested.'
              : 'The test could not be finished. The job is unharmed.',
          });
        }
      });
    return () => {
      wanted = false;
    };
    // The key tells all that matters of what is tested.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, set]);
  return test?.key === key ? test : null;
}
