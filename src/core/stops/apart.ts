import { luminance } from '../raster/colour';
import { clip } from '../raster/region';
import type { Source } from '../raster/source';

/** Two results are compared in squares of so many pixels. */
const SIDE = 64;
/** Places over the whole paper that are looked at beside those that are named. */
const ACROSS = 8;
const DOWN = 6;

/** A place on the paper, as shares of its width and height. */
export interface PaperPlace {
  x: number;
  y: number;
}

/** How far two results are apart at a place, in levels of luminance on the mean. */
export interface Apart extends PaperPlace {
  levels: number;
}

/** How often the worst places are looked about, each time half as far. */
const ROUNDS = 2;

/**
 * Where two results on the same paper differ most: of the places named, of an even grid of others, and of what lies about
 * the worst of those.
 * @param between is awaited after each place
 * @returns as many as `most`, the farthest apart first, none within a tenth of the paper of another
 */
export async function whereApart(
  one: Source,
  other: Source,
  named: readonly PaperPlace[],
  most: number,
  between: () => Promise<void> = async () => {},
): Promise<Apart[]> {
  const even = Array.from({ length: ACROSS * DOWN }, (_, i) => ({
    x: ((i % ACROSS) + 0.5) / ACROSS,
    y: (Math.floor(i / ACROSS) + 0.5) / DOWN,
  }));
  const found: Apart[] = [];
  const lookAt = async (places: readonly PaperPlace[]) => {
    for (const place of places) {
      found.push({ ...place, levels: await apartAt(one, other, place) });
      await between();
    }
  };
  await lookAt([...named, ...even]);
  for (let round = 1; round <= ROUNDS; round++) {
    const [dx, dy] = [0.5 ** round / ACROSS, 0.5 ** round / DOWN];
    await lookAt(worst(found, most).flatMap((place) => about(place, dx, dy)));
  }
  return worst(found, most);
}

const AROUND = [-1, 0, 1].flatMap((v) => [-1, 0, 1].map((u) => [u, v] as const));

/** The places about one, at most eight, that lie on the paper. */
const about = ({ x, y }: PaperPlace, dx: number, dy: number): PaperPlace[] =>
  AROUND.filter(([u, v]) => u !== 0 || v !== 0)
    .map(([u, v]) => ({ x: x + u * dx, y: y + v * dy }))
    .filter((at) => Math.min(at.x, at.y) > 0 && Math.max(at.x, at.y) < 1);

/** The farthest apart first, none near another. */
function worst(found: readonly Apart[], most: number): Apart[] {
  const chosen: Apart[] = [];
  for (const place of [...found].sort((a, b) => b.levels - a.levels)) {
    if (chosen.length === most || place.levels < LEAST) break;
    const near = ({ x, y }: Apart) => Math.max(Math.abs(x - place.x), Math.abs(y - place.y)) < 0.1;
    if (!chosen.some(near)) chosen.push(place);
  }
  return chosen;
}

/** What differs by less is not seen, in levels. */
const LEAST = 0.25;

async function apartAt(one: Source, other: Source, { x, y }: PaperPlace): Promise<number> {
  const { width, height } = one.size;
  const region = clip(
    {
      x: Math.round(x * width - SIDE / 2),
      y: Math.round(y * height - SIDE / 2),
      ...{ width: SIDE, height: SIDE },
    },
    one.size,
  );
  if (region.width < 1 || region.height < 1) return 0;
  const [across, down] = [other.size.width / width, other.size.height / height];
  const left = Math.floor(region.x * across);
  const top = Math.floor(region.y * down);
  const beside = clip(
    {
      ...{ x: left, y: top },
      width: Math.ceil((region.x + region.width) * across) - left,
      height: Math.ceil((region.y + region.height) * down) - top,
    },
    other.size,
  );
  const [a, b] = await Promise.all([one.read(region), other.read(beside)]);
  const [own, its] = [luminance(a), luminance(b)];
  let sum = 0;
  for (let v = 0, i = 0; v < region.height; v++) {
    const row = Math.min(beside.height - 1, Math.floor((region.y + v + 0.5) * down) - beside.y);
    for (let u = 0; u < region.width; u++, i++) {
      const column = Math.min(
        beside.width - 1,
        Math.floor((region.x + u + 0.5) * across) - beside.x,
      );
      sum += Math.abs(own[i]! - its[row * beside.width + column]!);
    }
  }
  return (255 * sum) / own.length;
}
