import { Choices } from '../../parts/Choices';
import { ComparedWith } from '../ticket/Trials';
import type { WorkBench } from '../use-work';
import { useView, type Compare } from '../view-store';
import type { Zoom } from './viewport';
import { usePicked } from '../../parts/use-picked';
import { look, WHOLE_PAPER, useViewport } from './viewport';

const COMPARE: { value: Compare; label: string; title?: string }[] = [
  { value: 'wipe', label: 'Wipe' },
  { value: 'side by side', label: 'Side by side' },
  { value: 'result alone', label: 'Result alone', title: 'Hold O to see the original' },
];

const ZOOMS: { value: string; label: string; zoom: Zoom }[] = [
  { value: 'fit', label: 'fit', zoom: { of: 'fit' } },
  { value: 'result-1', label: '1:1', zoom: { of: 'result', scale: 1 } },
  { value: 'result-2', label: '2:1', zoom: { of: 'result', scale: 2 } },
];
const ORIGINAL_ZOOMS = [1, 2, 4, 8, 16].map((scale) => ({
  value: `original-${scale}`,
  label: `${scale}:1`,
  zoom: { of: 'original', scale } as Zoom,
}));

const nameOf = (zoom: Zoom): string => (zoom.of === 'fit' ? 'fit' : `${zoom.of}-${zoom.scale}`);

interface Props {
  bench: WorkBench;
  busy: boolean;
  /** shapes have no pixels of their own to be seen */
  vector: boolean;
  exact: boolean;
  scaleText: string;
}

/** What concerns looking: how panes are split, and the zoom. */
export function LookBar({ bench, busy, vector, exact, scaleText }: Props) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const { compare, section, arranging, cropping, set } = usePicked(
    useView,
    'compare',
    'section',
    'arranging',
    'cropping',
    'set',
  );
  const choose = (value: string) => {
    const chosen = [...ZOOMS, ...ORIGINAL_ZOOMS].find((option) => option.value === value)!;
    look(chosen.zoom.of === 'fit' ? WHOLE_PAPER : { zoom: chosen.zoom });
  };
  const sizing = section === 'size' && (
    <Choices
      name="arranging"
      label="What the stage shows"
      value={arranging ? 'paper' : 'result'}
      onChange={(value) => set({ arranging: value === 'paper' })}
      options={[
        { value: 'paper', label: 'Paper on the picture' },
        { value: 'result', label: 'Result' },
      ]}
    />
  );
  if ((section === 'size' && arranging) || (section === 'original' && cropping)) {
    return (
      <div className="look-bar">
        {sizing}
        <span className="soft">
          {sizing
            ? 'Drag it to another part; a corner for more or less of the picture; a side for a longer or shorter paper.'
            : 'Drag the part, its corners or its sides. The original stays whole.'}
        </span>
      </div>
    );
  }
  return (
    <div className="look-bar">
      {sizing}
      <Choices
        name="compare"
        label="How to compare"
        value={compare}
        options={COMPARE}
        onChange={(value) => set({ compare: value })}
      />
      <ComparedWith bench={bench} />
      <span className="soft">Result</span>
      <Choices
        name="zoom"
        label="Zoom on the result's pixels"
        className="figure"
        value={nameOf(zoom)}
        options={ZOOMS}
        onChange={choose}
      />
      {!vector && (
        <>
          <span className="soft">Original’s grid</span>
          <Choices
            name="zoom"
            label="Zoom on the original's pixels"
            className="figure"
            value={nameOf(zoom)}
            options={ORIGINAL_ZOOMS}
            onChange={choose}
          />
        </>
      )}
      <span className="exactness" data-exact={exact && !busy} role="status">
        {busy ? 'computing …' : exact ? 'exact pixels' : `computed small · ${scaleText}`}
      </span>
    </div>
  );
}
