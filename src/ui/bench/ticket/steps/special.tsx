import type { ComponentType } from 'react';
import type { StepChoice, StepKind } from '@/core/steps';
import type { WorkBench } from '../../use-work';
import { InsetChoice } from './InsetChoice';
import { Retouching } from './Retouching';
import { ToneHistogram } from './ToneHistogram';

export interface SpecialProps {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}

/** What some steps have besides the controls that they describe themselves. */
export const SPECIAL: Partial<Record<StepKind, ComponentType<SpecialProps>>> = {
  inset: InsetChoice,
  retouch: Retouching,
  tones: ToneHistogram,
};
