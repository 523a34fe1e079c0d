import { useMemo } from 'react';
import { useChosen } from '../../trial-store';
import type { WorkBench } from '../../use-work';
import { useEvidence, type TrialEvidence } from './use-evidence';

/** Most trials that are measured beside the one on the bench. */
const OTHERS = 2;

/** The evidence of the trial on the bench and of those beside it. */
export function useMeasuredTrials(bench: WorkBench): TrialEvidence[] {
  const { work, trial } = bench;
  const beside = useChosen((chosen) => chosen.beside);
  const trials = useMemo(() => {
    const chosen = beside.flatMap((one) => (one.of === 'trial' ? [one.id] : []));
    const others = work.trials.filter((one) => one.id !== trial.id);
    const first = (id: string) => (chosen.includes(id) ? 0 : 1);
    return [trial, ...others.sort((a, b) => first(a.id) - first(b.id)).slice(0, OTHERS)];
  }, [beside, work.trials, trial]);
  return useEvidence(bench, trials);
}
