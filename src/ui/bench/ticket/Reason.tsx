import type { StepKind } from '@/core/steps';
import type { WorkBench } from '../use-work';
import { say } from '@/core/words/say';

/** Why a step was proposed as it was. */
export function Reason({ bench, step }: { bench: WorkBench; step: StepKind }) {
  const reason = bench.job.piece.reasons.find((one) => one.step === step);
  return reason ? <p className="reason">{say`Proposed: ${reason.sentence}`}</p> : null;
}
