import { formatNumber } from '../measure/format';
import type { History } from './history';
import type { Findings } from './findings';
import { say } from '../words/say';

/** One thing that happened to a file: what of its history tells it, its figure, and a clause that says it. */
export interface Happened {
  of: keyof History;
  figure: string;
  clause: string;
}

/** What is known of how a file was compressed. */
type Compressions = Pick<Findings, 'jpeg' | 'compressedBefore'>;

/** A figure is plain where it is so many deviations from nothing, and large enough to matter. */
const PLAIN = 1.6;
/** … and it may well be where it is so many. */
const MAYBE = 0.6;
/** Noise is of one kind or the other where that is surer than by so many deviations. */
const EITHER = 1;
/** Noise that is stronger, or weaker, in the darks by so many doublings is uneven, where that is surer than this. */
const UNEVEN = { doublings: 0.8, deviations: 1 } as const;
/** Compression above this quality is not worth a word. */
const FINE = 96;

const LEAST: Record<Exclude<keyof History, 'quality' | 'radius' | 'darks' | 'coloured'>, number> = {
  blur: 0.3,
  // Less is not seen when a picture is enlarged.
  noise: 2,
  grain: 0.35,
  sharpening: 40,
  resized: 0.6,
  // A quarter as much again.
  enlarged: 0.32,
};

/**
 * What happened to a photograph before it came, the heaviest first.
 * @param maybe whether what isn't plain is told as well, by clauses that begin with "perhaps"
 */
export function happenedTo(
  history: History,
  { jpeg, compressedBefore }: Compressions,
  maybe = false,
): Happened[] {
  const isAt = (of: keyof typeof LEAST, deviations: number): boolean => {
    const { value, off } = history[of];
    return value >= LEAST[of] && value >= deviations * off;
  };
  const told = (of: keyof typeof LEAST): boolean => isAt(of, maybe ? MAYBE : PLAIN);
  const perhaps = (of: keyof typeof LEAST): string => (isAt(of, PLAIN) ? '' : 'perhaps ');
  const list: Happened[] = [];
  const px = (value: number, digits = 1) => say`${formatNumber(value, digits)} px`;
  const { blur, noise, sharpening } = history;
  if (told('blur')) {
    const clause = say`${perhaps('blur')}soft by ${px(blur.value)}`;
    list.push({ of: 'blur', figure: px(blur.value), clause });
  }
  if (told('noise')) {
    const levels = say`${formatNumber(noise.value, 1)} levels`;
    const clause = [say`${perhaps('noise')}noise of ${levels}`, ...kindOfNoise(history)].join(', ');
    list.push({ of: 'noise', figure: levels, clause });
  }
  if (told('sharpening')) {
    const figure = `${formatNumber(sharpening.value, 0)} %`;
    const clause = say`${perhaps('sharpening')}sharpened before, by about ${figure}`;
    list.push({ of: 'sharpening', figure, clause });
  }
  if (told('enlarged')) {
    const times = say`${formatNumber(2 ** history.enlarged.value, 1)} times`;
    list.push({
      of: 'enlarged',
      figure: times,
      clause: say`${perhaps('enlarged')}made ${times} as large`,
    });
  }
  if (isAt('resized', PLAIN)) {
    list.push({ of: 'resized', figure: say`yes`, clause: say`resized since it was first saved` });
  }
  if (compressedBefore) {
    const figure = say`quality ${compressedBefore.quality}`;
    list.push({ of: 'quality', figure, clause: say`once a JPEG of ${figure}` });
  } else if (jpeg && (jpeg.quality ?? 0) < FINE) {
    const figure = jpeg.quality === null ? say`its own tables` : say`quality ${jpeg.quality}`;
    list.push({ of: 'quality', figure, clause: say`JPEG of ${figure}` });
  }
  return list;
}

/** Of what kind the noise of a picture is, as far as that is sure: its colour, its specks, and where it is stronger. */
export function kindOfNoise({ grain, darks, coloured }: History): string[] {
  const said: string[] = [];
  if (Math.abs(coloured.value - 0.5) >= EITHER * coloured.off)
    said.push(coloured.value > 0.5 ? say`in colour` : say`in brightness alone`);
  if (grain.value >= LEAST.grain && grain.value >= PLAIN * grain.off)
    said.push(say`in specks of ${formatNumber(1 + grain.value, 1)} px`);
  const uneven = Math.max(UNEVEN.doublings, UNEVEN.deviations * darks.off);
  if (Math.abs(darks.value) >= uneven)
    said.push(say`stronger in the ${darks.value > 0 ? say`darks` : say`lights`}`);
  return said;
}

/** All of it as one sentence without its full stop. */
export function sentenceOf(happened: readonly Happened[]): string {
  const clauses = happened.map(({ clause }) => clause);
  const last = clauses.pop() ?? '';
  const all = clauses.length > 0 ? say`${clauses.join('; ')}; and ${last}` : last;
  return all.charAt(0).toUpperCase() + all.slice(1);
}
