import { benchStore } from '../../picture-store';
import { tell } from '../../../data/notices';
import { look, type Zoom } from '../viewport';
import { say } from '@/core/words/say';

/** A place that is worth a look, as it is shown and walked to. */
export interface ShownStop {
  /** names it among all of them */
  key: string;
  title: string;
  /** what was measured there, or noted */
  words: string;
  /** pixels of the original */
  x: number;
  y: number;
  /** the mark that somebody set, where it is one */
  mark: number | null;
}

/** How far looking for places has come; what was in its way, in words. */
export type Looking = 'on' | 'done' | (string & {});

interface Stops {
  list: readonly ShownStop[];
  looking: Looking;
  /** they are looked for though Compare is closed */
  wanted: boolean;
  /** where one stands */
  at: string | null;
  /** on the original's grid rather than the result's */
  closer: boolean;
}

/** The stops of the picture on the bench, and which of them is looked at. */
const NO_STOPS: Stops = { list: [], looking: 'on', wanted: false, at: null, closer: false };

export const useStops = benchStore<Stops>(NO_STOPS, ['list', 'looking', 'wanted', 'at', 'closer']);

const CLOSE: Zoom = { of: 'result', scale: 1 };
const CLOSER: Zoom = { of: 'original', scale: 4 };

/** Goes to a stop, at 1:1 or on the original's grid. */
export function goTo({ key, x, y }: ShownStop, closer: boolean): void {
  useStops.setState({ at: key, closer });
  look({ lookAt: { x, y, zoom: closer ? CLOSER : CLOSE } });
}

/**
 * The next of the looks that stops are walked in, or the one before: each at 1:1 and then on the original's grid, and
 * round again.
 */
export function nextLook(
  { list, at, closer }: Pick<Stops, 'list' | 'at' | 'closer'>,
  by: -1 | 1,
): { stop: ShownStop; closer: boolean } | null {
  if (list.length === 0) return null;
  const index = list.findIndex(({ key }) => key === at);
  const now = index < 0 ? (by > 0 ? -1 : 0) : 2 * index + Number(closer);
  const next = (now + by + 2 * list.length) % (2 * list.length);
  return { stop: list[next >> 1]!, closer: next % 2 === 1 };
}

/** Walks on, or says why it can't. */
export function walkStops(by: -1 | 1): void {
  const next = nextLook(useStops.getState(), by);
  if (next) goTo(next.stop, next.closer);
  else
    tell(
      say`There is no stop yet: they are looked for while Compare is open. M marks a place.`,
      'note',
    );
}
