import type { TracedBack } from '../../inspect/findings';
import type { Kind } from '../../inspect/kind';
import { UPSCALING } from '../../learned/enlarger';
import type { ModelName, Models } from '../../learned/models';
import { MOST_TRACED } from '../../tracing/traced';
import { formatNumber } from '../../measure/format';
import { isLearned, type Learned, type Method, type Plain } from './methods';
import { say } from '../../words/say';

/** What the automatic choice goes by. */
export interface Choosing {
  kind: Kind;
  /** result's pixels over the original's, along the axis that grows more */
  factor: number;
  /** whether compression left more behind than a ringing kernel may be given */
  harsh: boolean;
  /** standard deviation of its noise, in levels */
  noise: number;
  /** the original's */
  pixels: number;
  /** how true a drawing is when it is traced; null where that isn't known */
  tracedBack: TracedBack | null;
  models: Pick<Models, 'photo' | 'art'>;
}

/** The network that a learned method asks. */
export const MODEL_OF: Record<Learned, Extract<ModelName, 'photo' | 'art'>> = {
  'learned-photo': 'photo',
  'learned-photo-finest': 'photo',
  'learned-art': 'art',
};

/** Below this factor there is nothing between pixels that a network could tell. */
const WORTH_LEARNED = 1.2;
/** From so many levels of noise on a crisp kernel hardens it. */
const NOISY = 5;

/** From this factor on what a network draws is soft, however firm its own pixels are. */
const WORTH_TRACED = 8;
/** A tracing is true that comes so near to the file, on the mean and where it is farthest off, in levels. */
const TRUE = { off: 2, worst: 32 };

const isTrue = ({ tracedBack, pixels }: Choosing): boolean =>
  tracedBack !== null &&
  pixels <= MOST_TRACED &&
  tracedBack.off <= TRUE.off &&
  tracedBack.worst <= TRUE.worst;

/** A method with why it was taken. */
export interface Chosen {
  method: Exclude<Method, 'auto'>;
  sentence: string;
}

/** What automatic comes to for a picture. */
export function chooseMethod(by: Choosing): Chosen {
  const { kind, factor, models } = by;
  if (kind === 'pixel squares') {
    return {
      method: 'nearest',
      sentence: say`Nearest neighbour, since its squares are meant to be seen.`,
    };
  }
  if (factor <= 1) {
    return {
      method: 'lanczos3',
      sentence: say`Lanczos-3: it is reduced, and that keeps most detail.`,
    };
  }
  const drawn = kind === 'flat artwork' || kind === 'line art';
  if (drawn && factor >= WORTH_TRACED && isTrue(by)) {
    const off = formatNumber(by.tracedBack!.off, 1);
    return {
      method: 'traced',
      sentence: say`Traced, since that stays sharp at this size; drawn small again it is off the file by ${off} levels on the mean.`,
    };
  }
  if (factor >= WORTH_LEARNED && drawn && models.art) {
    return {
      method: 'learned-art',
      sentence: say`Network for drawings: ${kind} needs firm edges.`,
    };
  }
  if (factor >= WORTH_LEARNED && models.photo) {
    return {
      method: 'learned-photo',
      sentence:
        kind === 'mixed'
          ? say`Network for photographs, quick; its lettering may want another method in a zone.`
          : say`Network for photographs, quick: crisper than any kernel, and true to the file when reduced.`,
    };
  }
  return choosePlain(by);
}

/** The same without a network. */
export function choosePlain({ harsh, noise }: Choosing): Chosen & { method: Plain } {
  if (harsh) {
    return {
      method: 'bicubic',
      sentence: say`Bicubic, since Lanczos-3 would ring around what harsh compression left.`,
    };
  }
  if (noise > NOISY) {
    return { method: 'bicubic', sentence: say`Bicubic, since Lanczos-3 would harden its noise.` };
  }
  return {
    method: 'lanczos3',
    sentence: say`Lanczos-3, since the file is clean enough to keep its finest detail.`,
  };
}

/** How a chosen method is carried out: by which network, if any, and by which kernel. */
export interface Carried {
  chosen: Chosen;
  model: string | null;
  /** whether the network is asked in all ways to turn a picture */
  finest: boolean;
  plain: Plain | 'traced';
}

/**
 * What carries a learned enlargement on to the size that was ordered. Its edges are as hard as its
 * pixels: a crisper kernel would make stairs and dots of them.
 */
const carriesOn = (factor: number): Plain => (factor > UPSCALING ? 'mitchell' : 'lanczos3');

/** A method for a picture; one whose network is missing, or has nothing to do, is carried out plainly. */
export function carryOut(method: Method, by: Choosing): Carried {
  const chosen = method === 'auto' ? chooseMethod(by) : { method, sentence: '' };
  if (chosen.method === 'traced') return traced(chosen, by);
  if (!isLearned(chosen.method)) {
    return { chosen, model: null, finest: false, plain: chosen.method };
  }
  return learned(chosen as Chosen & { method: Learned }, by);
}

/** Drawn fresh from what the network for drawings makes of it, as far as that stays small enough to be traced. */
function traced(chosen: Chosen, by: Choosing): Carried {
  const { pixels, models } = by;
  if (pixels > MOST_TRACED) return learned({ ...chosen, method: 'learned-art' }, by);
  const fits = pixels * UPSCALING * UPSCALING <= MOST_TRACED;
  return { chosen, model: fits ? models.art : null, finest: false, plain: 'traced' };
}

function learned(chosen: Chosen & { method: Learned }, by: Choosing): Carried {
  const finest = chosen.method === 'learned-photo-finest';
  const model = by.factor > 1 ? by.models[MODEL_OF[chosen.method]] : null;
  return { chosen, model, finest, plain: model ? carriesOn(by.factor) : choosePlain(by).method };
}
