import type { Size } from '@/core/raster/region';
import type { WorkBench } from '../../use-work';
import type { Layer } from '../panes/layers';
import { STEP_TOOLS, type Worked } from '.';
import { ZonePainter } from './ZonePainter';

interface Props {
  bench: WorkBench;
  worked: NonNullable<Worked>;
  layer: Layer;
  view: Size;
}

/** The tool of what is worked on, over the picture. */
export function WorkedOn({ worked, ...rest }: Props) {
  if ('zone' in worked) return <ZonePainter key={worked.zone.id} {...rest} zone={worked.zone} />;
  const Tool = STEP_TOOLS[worked.step.kind]!;
  return <Tool {...rest} step={worked.step} index={worked.index} />;
}
