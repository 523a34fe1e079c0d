import { z } from 'zod';
import { SEPARABLE } from '../resample/kernels';

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
    title: 'Automatic',
    note: 'Chosen by what the picture is, by the factor and by what was found.',
  },
  'learned-photo': {
    title: 'Network for photographs, quick',
    note: 'Crispest on photographs. Fine texture may be invented: look at its map.',
  },
  'learned-photo-finest': {
    title: 'Network for photographs, finest',
    note: 'The same network asked in eight ways: a tenth of a decibel truer, at eight times the time.',
  },
  'learned-art': {
    title: 'Network for drawings',
    note: 'Firm edges for lettering, logos and line work. Makes skin and stone look drawn.',
  },
  traced: {
    title: 'Traced',
    note: 'Areas and edges drawn fresh, sharp at any size. For flat artwork and lettering alone.',
  },
  nearest: {
    title: 'Nearest neighbour',
    note: 'Repeats pixels. Right for pixel squares; stairs on everything else.',
  },
  bilinear: { title: 'Bilinear', note: 'Never rings, always soft. For soft or noisy pictures.' },
  bicubic: { title: 'Bicubic', note: 'Crisper than bilinear, with a faint halo. A safe middle.' },
  mitchell: {
    title: 'Soft bicubic',
    note: 'Hardly rings and shows no stairs; a little soft. Kind to faces.',
  },
  lanczos2: {
    title: 'Lanczos-2',
    note: 'Close to bicubic, a touch crisper on fine lines.',
  },
  lanczos3: {
    title: 'Lanczos-3',
    note: 'Keeps most of the fine detail; rings a little at hard edges.',
  },
  'lanczos3-jinc': {
    title: 'Round Lanczos',
    note: 'Slanted edges as clean as upright ones; a little softer, and slow.',
  },
  stepped: {
    title: 'Stepped bicubic',
    note: 'Many small enlargements. Softer than one step, whatever is told of it.',
  },
};
