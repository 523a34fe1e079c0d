import type { ComponentType } from 'react';
import type { Size } from '@/core/raster/region';
import type { Trial, Work } from '@/core/recipe/work';
import type { StepChoice, StepKind } from '@/core/steps';
import type { Zone } from '@/core/zone/zone';
import type { WorkBench } from '../../use-work';
import type { SectionName } from '../../ticket/open';
import type { Layer } from '../panes/layers';
import { SpotTool } from './SpotTool';
import type { Tool } from './tool';

/** What a tool of an open step is given. */
export interface StepToolProps {
  bench: WorkBench;
  layer: Layer;
  view: Size;
  step: StepChoice;
  index: number;
}

/** Tools that lie over the picture while a step of their kind is open. */
export const STEP_TOOLS: Partial<Record<StepKind, ComponentType<StepToolProps>>> = {
  retouch: SpotTool,
};

/** What is worked on with the picture as paper: a zone, or an open step that has a tool. */
export type Worked = { zone: Zone } | { step: StepChoice; index: number } | null;

const SECTIONS: readonly (SectionName | null)[] = ['clean', 'enlarge', 'finish'];

/** What is worked on just now; while it is, the result alone is looked at. */
export function workedOn(
  { zones }: Pick<Work, 'zones'>,
  { treatment }: Pick<Trial, 'treatment'>,
  tool: Tool | null,
  open: { section: SectionName | null; step: number | null },
): Worked {
  if (!SECTIONS.includes(open.section)) return null;
  const zone = tool?.kind === 'zone' ? zones.find(({ id }) => id === tool.id) : undefined;
  if (zone) return { zone };
  const step = open.step === null ? undefined : treatment[open.step];
  return step && STEP_TOOLS[step.kind] ? { step, index: open.step! } : null;
}
