import { benchStore } from '../../picture-store';
import { useOpen, type SectionName } from '../../ticket/open';
import { usePicked } from '../../../parts/use-picked';

/** Ways to look at the result beside what it is compared with. */
export const COMPARING = ['wipe', 'side by side', 'result alone'] as const;
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

interface Looking {
  comparing: Comparing;
  special: Special | null;
  /** in Size the paper is laid on the picture, rather than the result looked at */
  laying: boolean;
  /** where the wipe's divider stands, as a share of the stage's width */
  divider: number;
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
