/**
 * How much stronger the finest octave of textures is than the one below, as networks leave that: by the geometric mean
 * over what has texture in the photographs that `training/enlarge/textures.ts` looks at.
 */
const FINEST_SHARE = 1.87;

/** The most that the finest octave is made stronger by, beyond itself … */
const GAIN_MOST = 2;
/** … and, in levels for every pixel of `finer`, as a standard deviation: strong textures show anyway, and what is added to them costs most. */
const ADDED_MOST = 6.4;

/** Textures change by so many levels at least; what changes less is a plain ground and its noise. */
const FAINT = { none: 0.7, all: 1.5 } as const;
/** Fourth moments to squares of variances: 3 of textures, far more where a few pixels hold an edge. */
const PEAKED = { all: 4, none: 8 } as const;

/** The same of a wider place, which may hold more than one texture. */
const PEAKED_ABOUT = { all: 6, none: 11 } as const;

/** What is known of a place: mean squares and a mean fourth power, in levels. */
export interface Energies {
  /** of the finest octave */
  fine: number;
  /** of the one below */
  octave: number;
  fourth: number;
}

/** 0 up to `none`, 1 from `all` on (or the other way), smooth between. */
function eased(value: number, { none, all }: { none: number; all: number }): number {
  const t = Math.min(1, Math.max(0, (value - none) / (all - none)));
  return t * t * (3 - 2 * t);
}

/** 1 where all of a place changes alike, 0 where a few pixels hold all of the change. */
const evenness = ({ octave, fourth }: Energies, peaked: { none: number; all: number }): number =>
  eased(fourth / (octave * octave), peaked);

/**
 * By how much the finest octave of a place is strengthened, as a share of itself: up to what the octave below lets
 * expect, where that is texture. (Spectra of natural textures go on evenly from octave to octave: Field 1987. To scale
 * what correlates with the truth costs less of it than to add what does not.)
 * @param about the same of a wider place about it: what is even here may be an edge there
 * @param finer what the finest octave is finer than, in pixels of the result
 */
export function gainOf(place: Energies, about: Energies, finer: number): number {
  const { fine, octave } = place;
  if (!(octave > 0)) return 0;
  const texture =
    eased(Math.sqrt(octave), FAINT) *
    Math.min(evenness(place, PEAKED), evenness(about, PEAKED_ABOUT));
  if (texture === 0) return 0;
  const own = Math.sqrt(Math.max(fine, 1e-6));
  const missing = (FINEST_SHARE * Math.sqrt(octave)) / own - 1;
  return texture * Math.max(0, Math.min(missing, GAIN_MOST, (ADDED_MOST * finer) / own));
}
