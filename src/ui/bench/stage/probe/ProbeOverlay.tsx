import { useDrag } from '@use-gesture/react';
import type { Size } from '@/core/raster/region';
import { useOpen } from '../../ticket/open';
import { paperPlace } from '../panes/places';
import type { Layer } from '../panes/layers';
import { moveProbe, useProbe, type ProbeEnd } from './probe-store';
import { say } from '@/core/words/say';

interface Props {
  layer: Layer;
  view: Size;
  centre: { x: number; y: number };
  /** whether its ends are reached by Tab here: in one pane of all */
  reached: boolean;
}

const NAMES: Record<ProbeEnd, string> = { from: say`First end`, to: say`Second end` };

/** The probe's line over a pane, its ends to be moved; the same place in every pane. */
export function ProbeOverlay({ layer, view, centre, reached }: Props) {
  const comparing = useOpen((open) => open.section === 'compare');
  const { line, focused } = useProbe();
  if (!comparing || !line) return null;
  const paper = paperPlace(layer, view, centre);
  const at = ({ x, y }: { x: number; y: number }) => ({
    x: paper.x + x * paper.width,
    y: paper.y + y * paper.height,
  });
  const [from, to] = [at(line.from), at(line.to)];
  /** one pixel of the result, as a share of the paper */
  const pixel = [1 / layer.paper.width, 1 / layer.paper.height] as const;
  return (
    <div className="probe">
      <svg aria-hidden>
        <line className="probe-edge" x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
        <line className="probe-line" x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
      </svg>
      <Body {...{ from, to, paper }} />
      {(['from', 'to'] as const).map((end) => (
        <End
          key={end}
          {...{ end, paper, pixel, reached }}
          at={end === 'from' ? from : to}
          focused={focused === end}
        />
      ))}
    </div>
  );
}

interface EndProps {
  end: ProbeEnd;
  at: { x: number; y: number };
  paper: Size;
  pixel: readonly [number, number];
  reached: boolean;
  focused: boolean;
}

function End({ end, at, paper, pixel, reached, focused }: EndProps) {
  const dragging = useDrag(
    ({ delta: [dx, dy] }) => moveProbe(end, dx / paper.width, dy / paper.height),
    { pointer: { keys: false } },
  );
  return (
    <button
      type="button"
      className="probe-end"
      data-focused={focused}
      style={{ left: at.x, top: at.y }}
      aria-label={say`${NAMES[end]} of the probe: arrow keys move it by a pixel, with Shift by ten`}
      aria-hidden={!reached}
      tabIndex={reached ? 0 : -1}
      {...dragging()}
      onFocus={() => useProbe.setState({ focused: end })}
      onBlur={() => useProbe.setState({ focused: null })}
      onKeyDown={(event) => {
        const far = event.shiftKey ? 10 : 1;
        const [across, down] = pixel;
        const moves: Record<string, readonly [number, number]> = {
          ArrowLeft: [-across, 0],
          ArrowRight: [across, 0],
          ArrowUp: [0, -down],
          ArrowDown: [0, down],
        };
        const move = moves[event.key];
        if (!move) return;
        event.preventDefault();
        event.stopPropagation();
        moveProbe(end, move[0] * far, move[1] * far);
      }}
    />
  );
}

/** The line between its ends, to be carried as a whole. */
function Body({
  from,
  to,
  paper,
}: {
  from: { x: number; y: number };
  to: { x: number; y: number };
  paper: Size;
}) {
  const dragging = useDrag(
    ({ delta: [dx, dy] }) => moveProbe('all', dx / paper.width, dy / paper.height),
    { pointer: { keys: false } },
  );
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  return (
    <button
      type="button"
      className="probe-body"
      tabIndex={-1}
      aria-hidden
      style={{
        left: from.x,
        top: from.y,
        width: length,
        transform: `rotate(${angle}rad)`,
      }}
      {...dragging()}
    />
  );
}
