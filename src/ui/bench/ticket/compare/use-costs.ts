import { useMemo } from 'react';
import { formatBytes, formatSeconds } from '@/core/measure/format';
import { planeCount } from '@/core/raster/form';
import { canonicalJson } from '@/core/recipe/canonical';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import type { Trial } from '@/core/recipe/work';
import { estimate } from '@/core/render/throughput';
import { artifactOf, type Run } from '@/core/shop/task';
import { useThroughput } from '../../../data/queries';
import { estimateWords } from '../../../parts/time-left';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What a trial takes: as its run took it, or as it is expected. */
export interface Cost {
  id: string;
  time: string;
  size: string;
}

export function useCosts({ job, resolve, kept }: WorkBench, trials: readonly Trial[]): Cost[] {
  const { data: throughput } = useThroughput();
  return useMemo(
    () => trials.map((trial) => costOf(trial)),
    // While something is only sketched nothing is reckoned anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [kept, job.runs, throughput, trials.map(({ id }) => id).join()],
  );

  function costOf(trial: Trial): Cost {
    const resolved = resolve(trial);
    if (!resolved.ok) return { id: trial.id, time: '–', size: '–' };
    const { recipe } = resolved;
    const run = ranAs(job.runs, recipe);
    const file = run && artifactOf(run, 'result');
    return {
      id: trial.id,
      time: run?.result
        ? formatSeconds(run.result.seconds)
        : throughput
          ? estimateWords(estimate(recipe, throughput))
          : '…',
      size: file ? formatBytes(file.bytes) : (sizeWords(recipe) ?? say`not run`),
    };
  }
}

/** A finished run of just this recipe. */
function ranAs(runs: readonly Run[], recipe: Recipe): Run | undefined {
  const key = canonicalJson(recipe);
  return runs.find(
    ({ result, payload }) => result && !result.resumed && canonicalJson(payload.recipe) === key,
  );
}

/** What is not compressed has a size that is known beforehand. */
function sizeWords(recipe: Recipe): string | null {
  const { output, target } = recipe;
  if (output.format !== 'tiff') return null;
  const pixel = planeCount(graphOf(recipe).written.form) * (output.depth / 8);
  return formatBytes(target.width * target.height * pixel);
}
