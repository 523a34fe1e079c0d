import type { Size } from '@/core/raster/region';
import type { PaperPlace } from '@/core/stops/apart';
import { benchStore } from '../../picture-store';
import { useLower } from '../lower/lower-store';
import { stageCommand } from '../command';
import { placeNow } from '../pointed';
import { useViewport } from '../viewport';

/** A line on the paper, from one place to another. */
export interface ProbeLine {
  from: PaperPlace;
  to: PaperPlace;
}
export type ProbeEnd = keyof ProbeLine;

interface Probe {
  line: ProbeLine | null;
  /** which of its ends has the keys */
  focused: ProbeEnd | null;
}

/** The line along which levels are read. */
export const useProbe = benchStore<Probe>({ line: null, focused: null }, ['line']);

/** Moves an end of the line, or all of it, by shares of the paper; ends stay on it. */
export function moveProbe(what: ProbeEnd | 'all', dx: number, dy: number): void {
  const { line } = useProbe.getState();
  if (!line) return;
  const ends: readonly ProbeEnd[] = what === 'all' ? ['from', 'to'] : [what];
  const allowed = (by: number, axis: 'x' | 'y') => {
    const places = ends.map((end) => line[end][axis]);
    return Math.min(1 - Math.max(...places), Math.max(-Math.min(...places), by));
  };
  const [u, v] = [allowed(dx, 'x'), allowed(dy, 'y')];
  const moved = Object.fromEntries(
    ends.map((end) => [end, { x: line[end].x + u, y: line[end].y + v }]),
  );
  useProbe.setState({ line: { ...line, ...moved } });
}

/** Lays the line where one looks, or takes it up. */
export const probing = stageCommand<['pointer' | 'middle']>();

/** Of what shows, the share that a line is long when it is laid. */
const LENGTH = 0.2;

/** Lets the line be laid in the stage as it is. @param shown device pixels of a pane, and of it to one of the result */
export function useProbing(target: Size | null, shown: { view: Size; scale: number }): void {
  probing.useAs((where) => {
    if (useProbe.getState().line) {
      useProbe.setState({ line: null });
      return;
    }
    if (!target) return;
    const under = where === 'pointer' ? placeNow(target, shown) : null;
    const { x, y } = under ?? useViewport.getState().centre;
    const half = (LENGTH * shown.view.width) / (2 * shown.scale * target.width);
    const within = (share: number) => Math.min(1, Math.max(0, share));
    useProbe.setState({
      line: { from: { x: within(x - half), y }, to: { x: within(x + half), y } },
    });
    useLower.setState({ folded: false, measure: 'probe' });
  });
}
