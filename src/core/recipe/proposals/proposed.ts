import type { StepChoice } from '../../steps';

/** A step that is proposed, and why it is as it is. */
export interface Proposed {
  step: StepChoice;
  sentence: string;
}
