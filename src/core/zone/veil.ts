/** A colour of red, green and blue, 0–255. */
export type Veil = readonly [number, number, number];

/** Colours that a zone may be shown by: of hues far from each other, seen on any tone. The first where none is better. */
export const VEILS: readonly Veil[] = [
  [22, 110, 88],
  [0, 120, 215],
  [200, 30, 140],
  [225, 110, 0],
  [105, 60, 200],
];

/** Hues within so many degrees are the same to the eye, of a picture looked at through a veil. */
const ALIKE = 38;
/** What has less colour than this, of 255, is near enough to grey. */
const GREY = 28;

/** Hue in degrees; null of what is near to grey. */
function hueOf(red: number, green: number, blue: number): number | null {
  const most = Math.max(red, green, blue);
  const chroma = most - Math.min(red, green, blue);
  if (chroma < GREY) return null;
  const sixth =
    most === red
      ? (green - blue) / chroma
      : most === green
        ? 2 + (blue - red) / chroma
        : 4 + (red - green) / chroma;
  return (sixth * 60 + 360) % 360;
}

/**
 * The colour that a picture has least of.
 * @param rgba a small copy of it, four bytes a pixel
 */
export function veilFor(rgba: Uint8ClampedArray): Veil {
  const hues: number[] = [];
  for (let i = 0; i < rgba.length; i += 4) {
    const hue = hueOf(rgba[i]!, rgba[i + 1]!, rgba[i + 2]!);
    if (hue !== null) hues.push(hue);
  }
  const like = (veil: Veil): number => {
    const own = hueOf(...veil)!;
    const off = (hue: number) => Math.abs(((hue - own + 540) % 360) - 180);
    return hues.filter((hue) => off(hue) < ALIKE).length;
  };
  const counts = VEILS.map(like);
  return VEILS[counts.indexOf(Math.min(...counts))]!;
}
