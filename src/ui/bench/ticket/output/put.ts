import type { Output } from '@/core/output/output';
import type { Change } from '../../use-work';

/** A change of how a trial's result is written. */
export const put =
  (output: Partial<Output>): Change =>
  (_, trial) =>
    void Object.assign(trial.output, output);
