import type { Patch } from '../patches';

/** What traces are looked for in: luminance and colour differences of a part of a picture, in levels. */
export type Square = Pick<Patch, 'luma' | 'cb' | 'cr' | 'width' | 'height'>;

/** A logarithm that nothing makes infinite: what lies far below a level counts as nothing. */
export const logarithm = (value: number): number => Math.log(value + 0.02);
