import type { Kind } from '../../inspect/kind';
import { UPSCALING } from '../../learned/enlarger';
import type { ModelName, Models } from '../../learned/models';
import { isLearned, type Learned, type Method, type Plain } from './methods';

/** What the automatic choice goes by. */
export interface Choosing {
  kind: Kind;
  /** result's pixels over the original's, along the axis that grows more */
  factor: number;
  /** whether compression left more behind than a ringing kernel may be given */
  harsh: boolean;
  /** standard deviation of its noise, in levels */
  noise: number;
  models: Pick<Models, 'photo' | 'art'>;
}

/** The network that a learned method asks. */
export const MODEL_OF: Record<Learned, Extract<ModelName, 'photo' | 'art'>> = {
  'learned-photo': 'photo',
  'learned-art': 'art',
};

/** Below this factor there is nothing between pixels that a network could tell. */
const WORTH_LEARNED = 1.2;
/** From so many levels of noise on a crisp kernel hardens it. */
const NOISY = 5;

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
      sentence: 'Nearest neighbour, since its squares are meant to be seen.',
    };
  }
  if (factor <= 1) {
    return {
      method: 'lanczos3',
      sentence: 'Lanczos-3: it is reduced, and that keeps most detail.',
    };
  }
  const drawn = kind === 'flat artwork' || kind === 'line art';
  if (factor >= WORTH_LEARNED && drawn && models.art) {
    return { method: 'learned-art', sentence: `Network for drawings: ${kind} needs firm edges.` };
  }
  if (factor >= WORTH_LEARNED && models.photo) {
    return {
      method: 'learned-photo',
      sentence:
        kind === 'mixed'
          ? 'Network for photographs; its lettering may want another method in a zone.'
          : 'Network for photographs: crisper than any kernel, and true to the file when reduced.',
    };
  }
  return choosePlain(by);
}

/** The same without a network. */
export function choosePlain({ harsh, noise }: Choosing): Chosen & { method: Plain } {
  if (harsh) {
    return {
      method: 'bicubic',
      sentence: 'Bicubic, since Lanczos-3 would ring around what harsh compression left.',
    };
  }
  if (noise > NOISY) {
    return { method: 'bicubic', sentence: 'Bicubic, since Lanczos-3 would harden its noise.' };
  }
  return {
    method: 'lanczos3',
    sentence: 'Lanczos-3, since the file is clean enough to keep its finest detail.',
  };
}

/** How a chosen method is carried out: by which network, if any, and by which kernel. */
export interface Carried {
  chosen: Chosen;
  model: string | null;
  plain: Plain;
}

/**
 * What carries a learned enlargement on to the size that was ordered. Its edges are as hard as its
 * pixels: a crisper kernel would make stairs and dots of them.
 */
const carriesOn = (factor: number): Plain => (factor > UPSCALING ? 'mitchell' : 'lanczos3');

/** A method for a picture; one whose network is missing, or has nothing to do, is carried out plainly. */
export function carryOut(method: Method, by: Choosing): Carried {
  const chosen = method === 'auto' ? chooseMethod(by) : { method, sentence: '' };
  if (!isLearned(chosen.method)) return { chosen, model: null, plain: chosen.method };
  const model = by.factor > 1 ? by.models[MODEL_OF[chosen.method]] : null;
  return { chosen, model, plain: model ? carriesOn(by.factor) : choosePlain(by).method };
}
