import { useEffect } from 'react';
import { create } from 'zustand';
import { factorOf } from '@/core/measure/plan';
import { carryOut } from '@/core/steps/enlarge/choose';
import { Learned, Plain, Traced } from '@/core/steps/enlarge/methods';
import { canonicalJson } from '@/core/recipe/canonical';
import { stepOf } from '@/core/recipe/work';
import type { TestedWay, TestRow } from '@/core/evidence/self-test';
import { choosingFor } from '@/core/recipe/plan';
import { ask, PRIORITY, type Spotted } from '@/preview/client';
import { onOwnGrid } from '@/core/recipe/views';
import { wholeOriginal } from '../../../preview-original';
import type { WorkBench } from '../../../use-work';
import { say } from '@/core/words/say';

/** A test of all methods on one picture, as far as it has come. */
export interface Test {
  /** what was tested: the picture and how it was cleaned */
  key: string;
  rows: (TestRow & { spot: Spotted })[];
  /** how many rows there will be */
  expected: number;
  /** the picture itself, once all is known */
  truth: { factor: number; edgePixels: number; spot: Spotted } | null;
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
export function testedOn({ resolved, original, work, trial, models, job }: WorkBench) {
  if (!resolved.ok) return null;
  const recipe = onOwnGrid(resolved.recipe, true);
  const by = choosingFor(original, work, resolved.plan, models);
  const { light, limit, step } = stepOf(trial.treatment, 'enlarge')!.settings;
  const ways = [...Learned.options, Traced.value, ...Plain.options].flatMap(
    (method): TestedWay[] => {
      // It is enlarged back, whatever is ordered.
      const carried = carryOut(method, { ...by, factor: Math.max(by.factor, 2) });
      if (carried.model === null && carried.plain !== method) return [];
      return [{ method, carried, settings: { light, limit: limit / 100, step } }];
    },
  );
  const factor = factorOf(resolved.plan);
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
    const stop = new AbortController();
    set(() => ({
      key: tested.key,
      rows: [],
      expected: tested.ways.length,
      truth: null,
      trouble: null,
    }));
    const put = (change: Partial<Test>) =>
      set((now) => (now?.key === tested.key ? { ...now, ...change } : now));
    ask(
      'selfTest',
      {
        original: tested.original,
        recipe: tested.recipe,
        ways: tested.ways,
        factor: tested.factor,
      },
      {
        ...{ priority: PRIORITY.search, group: 'search', signal: stop.signal },
        onNews: (row) => {
          if (stop.signal.aborted) return;
          const rows = useTests.getState().test?.rows ?? [];
          put({ rows: [...rows, row as TestRow & { spot: Spotted }] });
        },
      },
    )
      .then((truth) => put({ truth }))
      .catch((error: unknown) => {
        if (stop.signal.aborted) return;
        const words = error instanceof RangeError || /too small/.test(String(error));
        put({
          trouble: words
            ? say`The picture is too small to be reduced and tested.`
            : say`The test could not be finished. The job is unharmed.`,
        });
      });
    return () => stop.abort();
    // The key tells all that matters of what is tested.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, set]);
  return test?.key === key ? test : null;
}
