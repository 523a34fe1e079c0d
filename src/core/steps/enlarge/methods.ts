import { z } from 'zod';
import { SEPARABLE } from '../resample/kernels';
import { say } from '../../words/say';

/** Ways to resample that need nothing but the pixels, named as the trade names them. */
export const Plain = z.enum(['nearest', ...SEPARABLE, 'lanczos3-jinc', 'stepped']);
export type Plain = z.infer<typeof Plain>;

/** Ways that ask a network first. */
export const Learned = z.enum(['learned-photo', 'learned-photo-finest', 'learned-art']);
export type Learned = z.infer<typeof Learned>;

/** Drawn fresh from areas and edges that are found in the picture. */
export const Traced = z.literal('traced');

/** Every way to enlarge, as a treatment and the terminal name it. */
export const Method = z.enum(['auto', ...Learned.options, Traced.value, ...Plain.options]);
export type Method = z.infer<typeof Method>;

export const isLearned = (method: Method): method is Learned =>
  Learned.options.some((one) => one === method);

/** Whether a method's kernel swings below zero, so that there is ringing to limit. */
export const rings = (method: Method): boolean =>
  Plain.options.some((one) => one === method) && method !== 'nearest' && method !== 'bilinear';

/** Whether it matters to a method in what light pixels are mixed. */
export const mixesLight = (method: Method): boolean => Plain.options.some((one) => one === method);

/** What each method is good and bad at, in one honest line. */
export const methodNotes: Record<Method, { title: string; note: string }> = {
  auto: {
    title: say`Automatic`,
    note: say`Chosen by what the picture is, by the factor and by what was found.`,
  },
  'learned-photo': {
    title: say`Network for photographs, quick`,
    note: say`Crispest on photographs. Fine texture may be invented: look at its map.`,
  },
  'learned-photo-finest': {
    title: say`Network for photographs, finest`,
    note: say`The same network asked in eight ways: a tenth of a decibel truer, at eight times the time.`,
  },
  'learned-art': {
    title: say`Network for drawings`,
    note: say`Firm edges for lettering, logos and line work. Makes skin and stone look drawn.`,
  },
  traced: {
    title: say`Traced`,
    note: say`Areas and edges drawn fresh, sharp at any size. For flat artwork and lettering alone.`,
  },
  nearest: {
    title: say`Nearest neighbour`,
    note: say`Repeats pixels. Right for pixel squares; stairs on everything else.`,
  },
  bilinear: {
    title: say`Bilinear`,
    note: say`Never rings, always soft. For soft or noisy pictures.`,
  },
  bicubic: {
    title: say`Bicubic`,
    note: say`Crisper than bilinear, with a faint halo. A safe middle.`,
  },
  mitchell: {
    title: say`Soft bicubic`,
    note: say`Hardly rings and shows no stairs; a little soft. Kind to faces.`,
  },
  lanczos2: {
    title: say`Lanczos-2`,
    note: say`Close to bicubic, a touch crisper on fine lines.`,
  },
  lanczos3: {
    title: say`Lanczos-3`,
    note: say`Keeps most of the fine detail; rings a little at hard edges.`,
  },
  'lanczos3-jinc': {
    title: say`Round Lanczos`,
    note: say`Slanted edges as clean as upright ones; a little softer, and slow.`,
  },
  stepped: {
    title: say`Stepped bicubic`,
    note: say`Many small enlargements. Softer than one step, whatever is told of it.`,
  },
};
