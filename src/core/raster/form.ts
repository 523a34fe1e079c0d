/** What the numbers of a raster's colour planes are. */
export type Space =
  /** R, G and B as the original's file encodes them: what its profile describes, sRGB where it has none */
  | 'encoded'
  /** the same as amounts of light */
  | 'light'
  /** lightness alone, as a weighted sum of the encoded colours */
  | 'lightness'
  /** strengths of a zone, 0–1 */
  | 'strength'
  /** amounts of a device's own colours, by the name of its profile */
  | `device ${string}`;

/** What a raster holds: so many colour planes in a space, and alpha after them or none. */
export interface Form {
  readonly colours: number;
  readonly alpha: boolean;
  readonly space: Space;
}

export const RGB: Form = { colours: 3, alpha: false, space: 'encoded' };
export const RGBA: Form = { ...RGB, alpha: true };
export const LIGHTNESS: Form = { colours: 1, alpha: false, space: 'lightness' };
export const STRENGTH: Form = { colours: 1, alpha: false, space: 'strength' };

/** Planes that a raster of a form has. */
export const planeCount = ({ colours, alpha }: Form): number => colours + (alpha ? 1 : 0);

/** The form of encoded colours in so many planes or samples a pixel: 3, or 4 with alpha. */
export const encodedForm = (planes: number): Form => (planes === 4 ? RGBA : RGB);
