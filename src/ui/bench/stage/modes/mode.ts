import { benchStore } from '../../picture-store';
import { useOpen, type SectionName } from '../../ticket/open';
import { usePicked } from '../../../parts/use-picked';

/** Ways to look at the result beside what it is compared with. */
export const COMPARING = [
  'wipe',
  'side by side',
  'grid',
  'window',
  'blink',
  'difference',
  'result alone',
] as const;
export type Comparing = (typeof COMPARING)[number];

/** A way of looking that belongs to a section, for as long as that is open. */
type Special =
  /** a part of the picture is taken, freely or in the paper's shape */
  | { way: 'crop'; shape: 'free' | 'paper' }
  /** several variants beside each other on one spot */
  | { way: 'try' }
  /** methods are tested on this very picture */
  | { way: 'test' };

/** How the stage shows the picture. */
export type Mode =
  | { way: Comparing }
  /** the paper, to be laid on the whole picture */
  | { way: 'paper' }
  | Special;
export type Way = Mode['way'];

const SECTION_OF: Record<Special['way'], SectionName> = {
  crop: 'original',
  try: 'enlarge',
  test: 'enlarge',
};

/** Seconds after which what blinks changes. */
export const PACES = [0, 0.5, 1, 2] as const;
export type Pace = (typeof PACES)[number];
export const GAINS = [1, 2, 4, 8, 16, 32] as const;
export type Gain = (typeof GAINS)[number];

export interface Looking {
  comparing: Comparing;
  special: Special | null;
  /** in Size the paper is laid on the picture, rather than the result looked at */
  laying: boolean;
  /** where the wipe's divider stands, as a share of the stage's width, or height where it is level */
  divider: number;
  /** the wipe's divider lies level rather than upright */
  level: boolean;
  /** what stands side by side stands one above the other */
  stacked: boolean;
  /** how many stand side by side */
  together: 2 | 3;
  /** the window's place and size on the stage, in shares of it, and what shows in it */
  window: { x: number; y: number; width: number; height: number };
  inside: 'result' | 'other';
  /** what blinks: which of both shows, and after how many seconds the other does; by hand where that is 0 */
  blinked: boolean;
  pace: Pace;
  /** how many times as strong a difference is shown, and whether without its sign */
  gain: Gain;
  absolute: boolean;
  /** rulers along the panes */
  ruled: boolean;
  /** the original is shown for as long as a key is held */
  holding: boolean;
  /** the picture is shown without Finish for as long as a key is held */
  unfinished: boolean;
}

export const useLooking = benchStore<Looking>(
  {
    comparing: 'wipe',
    special: null,
    laying: true,
    divider: 0.46,
    level: false,
    stacked: false,
    together: 2,
    window: { x: 0.3, y: 0.25, width: 0.4, height: 0.5 },
    inside: 'result',
    blinked: false,
    pace: 0,
    gain: 4,
    absolute: false,
    ruled: false,
    holding: false,
    unfinished: false,
  },
  ['special'],
);

/** The one way in which the stage shows the picture, by what was chosen and what is open. */
export function modeOf(
  { comparing, special, laying }: Pick<Looking, 'comparing' | 'special' | 'laying'>,
  section: SectionName | null,
): Mode {
  if (special && SECTION_OF[special.way] === section) return special;
  return section === 'size' && laying ? { way: 'paper' } : { way: comparing };
}

export function useMode(): Mode {
  const looking = usePicked(useLooking, 'comparing', 'special', 'laying');
  const section = useOpen((open) => open.section);
  return modeOf(looking, section);
}

/** Looks in a way that belongs to a section, or goes back to comparing. */
export const lookIn = (special: Special | null): void => useLooking.setState({ special });

/** Blinks once: the other picture shows in the same place. In another way of looking it begins with the first. */
export const flip = (): void =>
  useLooking.setState(({ comparing, blinked }) =>
    comparing === 'blink' ? { blinked: !blinked } : { comparing: 'blink', blinked: false },
  );
