import { narrowed } from '../../raster/raster';
import { cells, contains, grow, whole, type Region } from '../../raster/region';
import type { Source } from '../../raster/source';
import { findDust, type Suspect } from './find-dust';
import { findSource, sourceInput } from './find-source';
import type { Spot } from './retouch';

/**
 * Parts of the picture that are looked at one after another, and what is seen of their neighbours:
 * enough for what nearly every spot is healed from, so that the picture is read once.
 */
const PART = 384;
const RIM = 96;
/** The most spots that are suggested, of a part and of all: those that stand out most. */
const MOST = 250;

/**
 * Spots that look like dust and scratches, each with its source, strongest first.
 * @param onProgress share of the picture that was looked at, 0–1; answering false ends the search
 */
export async function suggestSpots(
  source: Pick<Source, 'size' | 'read'>,
  onProgress: (share: number) => boolean | void = () => {},
): Promise<Spot[]> {
  const { size } = source;
  const parts = cells(whole(size), PART, size);
  const found: Found[] = [];
  for (const [i, part] of parts.entries()) {
    found.push(...(await suspectsIn(part, source)));
    if (onProgress((i + 1) / parts.length) === false) return [];
  }
  return strongest(found).map(({ points, radius, softness, offset }, i) => ({
    ...{ id: `found-${i}`, how: 'heal' },
    ...{ offset, points, radius, softness },
  }));
}

type Found = Suspect & { offset: [number, number] };

const strongest = <S extends Suspect>(suspects: readonly S[]): S[] =>
  [...suspects].sort((a, b) => b.standsOut - a.standsOut).slice(0, MOST);

/** What stands out in a part, with what it is healed from. A spot belongs to the part that its first point lies in. */
async function suspectsIn(part: Region, source: Pick<Source, 'size' | 'read'>): Promise<Found[]> {
  const { size } = source;
  const region = grow(part, RIM, size);
  const seen = { region, raster: await source.read(region) };
  const suspects = findDust(seen.raster).map((suspect) => ({
    ...suspect,
    points: suspect.points.map(([x, y]): [number, number] => [x + region.x, y + region.y]),
  }));
  const own = suspects.filter(({ points }) => {
    const [x, y] = points[0]!;
    return contains(part, {
      // The end of a scratch may lie beyond the picture's border.
      x: Math.min(size.width - 1, Math.max(0, Math.floor(x))),
      y: Math.min(size.height - 1, Math.max(0, Math.floor(y))),
      ...{ width: 1, height: 1 },
    });
  });
  const found: Found[] = [];
  for (const suspect of strongest(own)) {
    const needed = sourceInput(suspect, size);
    const input = contains(region, needed)
      ? narrowed(seen, needed)
      : { region: needed, raster: await source.read(needed) };
    const others = suspects.filter((other) => other !== suspect);
    const offset = findSource(suspect, input, size, others);
    if (offset) found.push({ ...suspect, offset });
  }
  return found;
}
