import type { ComponentType } from 'react';
import type { StepKind } from '@/core/steps';
import { PaperModel } from '../finish/PaperModel';
import { BlurAdvice } from './BlurAdvice';
import { InsetChoice } from './InsetChoice';
import { Retouching } from './Retouching';
import type { SpecialProps } from './special-props';
import { ToneHistogram } from './ToneHistogram';

/** What some steps have besides the controls that they describe themselves. */
export const SPECIAL: Partial<Record<StepKind, ComponentType<SpecialProps>>> = {
  deblur: BlurAdvice,
  inset: InsetChoice,
  paper: PaperModel,
  retouch: Retouching,
  tones: ToneHistogram,
};
