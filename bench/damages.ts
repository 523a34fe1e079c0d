// Files as customers send them: what other programs than ours do to a small picture, in fixed ways.
import sharp, { type Sharp } from 'sharp';
import type { Size } from '../src/core/raster/region';

type Bytes = Uint8Array;

/** R, G, B of every pixel. */
export const pixels = (image: Sharp): Promise<Buffer> =>
  image.removeAlpha().toColourspace('srgb').raw().toBuffer();

/** What becomes of a picture. @param large what it was made of, where it is not reduced at once */
export type Damage = (bytes: Bytes, next: () => number, large: Bytes) => Promise<Buffer>;

/** Every sample changed, as a file holds it. */
const changed = (bytes: Bytes, to: (value: number, i: number) => number): Bytes =>
  new Uint8Array(Uint8ClampedArray.from(bytes, to));

/** What customers send, by its name, of pictures of a size that were made of larger ones. */
export function damages(size: Size, from: Size): Record<string, Damage> {
  const raw = { raw: { ...size, channels: 3 as const } };
  const jpeg = (bytes: Bytes, quality: number) => sharp(bytes, raw).jpeg({ quality }).toBuffer();
  const blurred = (bytes: Bytes, sigma: number) => pixels(sharp(bytes, raw).blur(sigma));

  /** Noise of a level; grained, specks are two pixels wide, and the same in all colours. */
  function noisy(bytes: Bytes, level: number, grained: boolean, next: () => number): Bytes {
    const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    const { width, height } = size;
    if (!grained) return changed(bytes, (value) => value + level * gauss());
    const white = Float64Array.from({ length: width * height }, gauss);
    const at = (x: number, y: number) =>
      white[((y + height) % height) * width + ((x + width) % width)]!;
    return changed(bytes, (value, i) => {
      const [x, y] = [Math.floor(i / 3) % width, Math.floor(i / 3 / width)];
      // Four of them add up to twice the deviation of one.
      return value + (level * (at(x, y) + at(x - 1, y) + at(x, y - 1) + at(x - 1, y - 1))) / 2;
    });
  }

  async function sharpened(bytes: Bytes, radius: number, amount: number): Promise<Bytes> {
    const soft = await blurred(bytes, radius);
    return changed(bytes, (value, i) => value + amount * (value - soft[i]!));
  }

  return {
    soft: async (bytes) => jpeg(await blurred(bytes, 1), 85),
    phone: async (bytes, next) => jpeg(noisy(await blurred(bytes, 0.7), 6, false, next), 70),
    // Reduced both times: what sharp enlarges lies a good third of a pixel off.
    twice: async (_, __, large) => {
      const between = {
        width: Math.round(1.3 * size.width),
        height: Math.round(1.3 * size.height),
      };
      const first = await sharp(large, { raw: { ...from, channels: 3 } })
        .resize({ ...between, kernel: 'cubic' })
        .jpeg({ quality: 70 })
        .toBuffer();
      return sharp(first)
        .resize({ ...size, kernel: 'cubic' })
        .jpeg({ quality: 80 })
        .toBuffer();
    },
    grain: async (bytes, next) => jpeg(noisy(bytes, 8, true, next), 80),
    sharpened: async (bytes) => jpeg(await sharpened(bytes, 1, 1.2), 75),
    'a mix': async (bytes, next) => {
      let now: Bytes = bytes;
      if (next() < 0.5) now = await blurred(now, 0.4 + next());
      if (next() < 0.5) now = noisy(now, 1 + 8 * next(), next() < 0.5, next);
      if (next() < 0.4) now = await sharpened(now, 0.5 + next(), 0.3 + next());
      return jpeg(now, Math.round(45 + 50 * next()));
    },
  };
}
