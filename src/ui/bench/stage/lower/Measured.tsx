import dynamic from 'next/dynamic';
import type { Size } from '@/core/raster/region';
import { Choices } from '../../../parts/Choices';
import type { WorkBench } from '../../use-work';
import type { Compared } from '../modes/compared/use-compared';
import { MEASURES, useLower, type Measure } from './lower-store';
import { say } from '@/core/words/say';

export interface MeasuredProps {
  bench: WorkBench;
  compared: Compared;
  /** device pixels of a pane */
  pane: Size;
}

const TITLES: Record<Measure, string> = {
  probe: say`Probe`,
  spectrum: say`Spectrum`,
  histogram: say`Histogram`,
};
// Charts are fetched once they are wanted.
const PANELS = {
  probe: dynamic(() => import('./ProbePanel'), { ssr: false }),
  spectrum: dynamic(() => import('./SpectrumPanel'), { ssr: false }),
  histogram: dynamic(() => import('./HistogramPanel'), { ssr: false }),
};

/** What is measured of all panes together. */
export function Measured(props: MeasuredProps) {
  const measure = useLower((lower) => lower.measure);
  const Panel = PANELS[measure];
  return (
    <section className="measured" aria-label={say`Measured in the panes`}>
      <header>
        <Choices
          name="measure"
          label={say`What is measured`}
          value={measure}
          options={MEASURES.map((value) => ({ value, label: TITLES[value] }))}
          onChange={(value) => useLower.setState({ measure: value })}
        />
      </header>
      <Panel {...props} />
    </section>
  );
}
