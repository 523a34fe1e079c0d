import {
  Columns2,
  Diff,
  Eye,
  Grid2x2,
  PictureInPicture2,
  Ruler,
  Square,
  SquareSplitHorizontal,
  type LucideIcon,
} from 'lucide-react';
import { Button, ButtonGroup } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { Choices } from '../../parts/Choices';
import { IconSwitch } from '../../parts/IconSwitch';
import type { WorkBench } from '../use-work';
import { useOpen } from '../ticket/open';
import { useStageBusy } from './busy-store';
import { Calibration, lookAtSize, useCalibration } from './Calibration';
import { modeView } from './modes';
import { useLooking, type Comparing, type Mode } from './modes/mode';
import type { Zoom } from './viewport';
import { usePicked } from '../../parts/use-picked';
import { look, WHOLE_PAPER, useViewport } from './viewport';
import { say } from '@/core/words/say';

const COMPARE: { value: Comparing; title: string; Icon: LucideIcon }[] = [
  { value: 'wipe', title: say`Wipe`, Icon: SquareSplitHorizontal },
  { value: 'side by side', title: say`Side by side`, Icon: Columns2 },
  { value: 'grid', title: say`Grid of four`, Icon: Grid2x2 },
  { value: 'window', title: say`Window`, Icon: PictureInPicture2 },
  { value: 'blink', title: say`Blink`, Icon: Eye },
  { value: 'difference', title: say`Difference`, Icon: Diff },
  { value: 'result alone', title: say`Result alone: hold O to see the original`, Icon: Square },
];

const ZOOMS: { value: string; label: string; zoom: Zoom }[] = [
  { value: 'fit', label: say`fit`, zoom: { of: 'fit' } },
  { value: 'result-1', label: '1:1', zoom: { of: 'result', scale: 1 } },
  { value: 'result-2', label: '2:1', zoom: { of: 'result', scale: 2 } },
  { value: 'result-4', label: '4:1', zoom: { of: 'result', scale: 4 } },
];
const ORIGINAL_ZOOMS = [1, 2, 4, 8, 16].map((scale) => ({
  value: `original-${scale}`,
  label: `${scale}:1`,
  zoom: { of: 'original', scale } as Zoom,
}));

const nameOf = (zoom: Zoom): string => ('scale' in zoom ? `${zoom.of}-${zoom.scale}` : zoom.of);

interface Props {
  bench: WorkBench;
  mode: Mode;
  exact: boolean;
  /** the result is shown as its print would look */
  printed: boolean;
  /** device pixels to one of the result */
  scale: number;
}

/** What concerns looking: how panes are split, and the zoom. */
export function LookBar({ bench, mode, exact, printed, scale }: Props) {
  const { hint, compares = true } = modeView(mode);
  return (
    <div className="look-bar">
      <Laying />
      {hint ? (
        <span className="soft">{hint}</span>
      ) : (
        <>
          {compares && <Comparison />}
          <Closeness bench={bench} />
        </>
      )}
      {!hint && <Exactness {...{ exact, printed, scale }} />}
    </div>
  );
}

/** Whether what shows are the very pixels of the file. */
function Exactness({ exact, printed, scale }: Pick<Props, 'exact' | 'printed' | 'scale'>) {
  const busy = useStageBusy((stage) => stage.busy);
  return (
    <span
      className="exactness"
      data-exact={exact && !busy && !printed}
      role="status"
      title={
        exact ? undefined : say`Computed small: close to the file’s pixels, not they themselves`
      }
    >
      {busy
        ? say`computing …`
        : exact
          ? printed
            ? say`as printed`
            : say`exact pixels`
          : say`small · ${formatNumber(scale * 100, scale < 0.1 ? 1 : 0)} %`}
    </span>
  );
}

/** In Size: whether the paper is laid on the picture, or the result looked at. */
function Laying() {
  const sizing = useOpen((open) => open.section === 'size');
  const laying = useLooking((looking) => looking.laying);
  if (!sizing) return null;
  return (
    <Choices
      name="laying"
      label={say`What the stage shows`}
      value={laying ? 'paper' : 'result'}
      onChange={(value) => useLooking.setState({ laying: value === 'paper' })}
      options={[
        { value: 'paper', label: say`Paper on the picture` },
        { value: 'result', label: say`Result` },
      ]}
    />
  );
}

/** How two are compared. */
function Comparison() {
  const comparing = useLooking((looking) => looking.comparing);
  const { Options } = modeView({ way: comparing });
  return (
    <>
      <Choices
        name="compare"
        label={say`How to compare`}
        value={comparing}
        options={COMPARE.map(({ value, title, Icon }) => ({
          ...{ value, title },
          label: (
            <>
              <Icon size={15} aria-hidden />
              <span className={value === comparing ? 'chosen-way' : 'visually-hidden'}>
                {title.split(':')[0]}
              </span>
            </>
          ),
        }))}
        onChange={(value) => useLooking.setState({ comparing: value })}
      />
      {Options && <Options />}
    </>
  );
}

/** How close one looks. */
function Closeness({ bench }: { bench: WorkBench }) {
  return (
    <>
      <Zooms title={say`Result`} on="the result's" options={ZOOMS} />
      <Sizes distance={bench.work.distance} />
      {/* Shapes have no pixels of their own to be seen. */}
      {!bench.original.vector && (
        <Zooms title={say`Original`} on="the original's" options={ORIGINAL_ZOOMS} />
      )}
    </>
  );
}

/** As large as it hangs, and as large as it looks from where it is looked at. */
function Sizes({ distance }: { distance: number }) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const ruled = useLooking((looking) => looking.ruled);
  const choose = (of: 'size' | 'distance') =>
    zoom.of === of ? useCalibration.setState({ open: true, then: { of } }) : lookAtSize({ of });
  return (
    <>
      <ButtonGroup className="choices" aria-label={say`Size of the print`}>
        <Button
          variant="outline-primary"
          active={zoom.of === 'size'}
          aria-pressed={zoom.of === 'size'}
          aria-label={say`True size`}
          title={say`True size, as it hangs; again: measure the screen`}
          onClick={() => choose('size')}
        >
          {say`true`}
        </Button>
        <Button
          variant="outline-primary"
          active={zoom.of === 'distance'}
          aria-pressed={zoom.of === 'distance'}
          aria-label={say`As seen from ${distance} m`}
          title={say`As large and as fine as it looks from ${distance} m; again: measure the screen`}
          onClick={() => choose('distance')}
        >
          {distance} m
        </Button>
      </ButtonGroup>
      <IconSwitch
        label={ruled ? say`Without rulers (R)` : say`Rulers (R)`}
        Icon={Ruler}
        onPress={() => useLooking.setState({ ruled: !ruled })}
      />
      <Calibration />
    </>
  );
}

interface ZoomsProps {
  title: string;
  /** whose pixels they are counted in */
  on: string;
  options: typeof ZOOMS;
}

/** Zooms on one grid, to be chosen. */
function Zooms({ title, on, options }: ZoomsProps) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const choose = (value: string) => {
    const chosen = options.find((option) => option.value === value)!;
    look(chosen.zoom.of === 'fit' ? WHOLE_PAPER : { zoom: chosen.zoom });
  };
  return (
    <span className="zooms">
      <span className="soft">{title}</span>
      <Choices
        name="zoom"
        label={say`Zoom on ${on} pixels`}
        className="figure"
        value={nameOf(zoom)}
        options={options}
        onChange={choose}
      />
    </span>
  );
}
