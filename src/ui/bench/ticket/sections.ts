import type { ComponentType } from 'react';
import type { WorkBench } from '../use-work';
import { CleanSection } from './clean/CleanSection';
import { CompareSection } from './compare/CompareSection';
import { EnlargeSection } from './enlarge/EnlargeSection';
import { FinishSection } from './finish/FinishSection';
import type { SectionName } from './open';
import { OriginalSection } from './original/OriginalSection';
import { OutputSection } from './output/OutputSection';
import { SizeSection } from './size/SizeSection';

/** The sections of the ticket. A new one is a line here, and its name where it stands in open.ts. */
export const SECTIONS: Record<SectionName, ComponentType<{ bench: WorkBench }>> = {
  original: OriginalSection,
  size: SizeSection,
  clean: CleanSection,
  enlarge: EnlargeSection,
  finish: FinishSection,
  compare: CompareSection,
  output: OutputSection,
};
