import type { StepChoice } from '@/core/steps';
import type { WorkBench } from '../../use-work';

/** What a control of a special kind is given. */
export interface SpecialProps {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}
