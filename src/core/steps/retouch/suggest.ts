import { cells, clip, grow, whole } from '../../raster/region';
import type { Source } from '../../raster/source';
import { findDust, type Suspect } from './find-dust';
import { findSource, sourceInput } from './find-source';
import type { Spot } from './retouch';

/** Parts of the picture that are looked at one after another, and what is seen of their neighbours. */
const PART = 384;
const RIM = 48;
/** The most spots that are suggested: those that stand out most. */
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
  const suspects: Suspect[] = [];
  for (const [i, part] of parts.entries()) {
    const region = grow(part, RIM, size);
    for (const suspect of findDust(await source.read(region))) {
      const points = suspect.points.map(
        ([x, y]) => [x + region.x, y + region.y] as [number, number],
      );
      // A spot belongs to the part that its first point lies in.
      const [[x, y]] = points as [[number, number]];
      const inside = clip({ x: Math.floor(x), y: Math.floor(y), width: 1, height: 1 }, size);
      if (inside.x < part.x || inside.x >= part.x + part.width) continue;
      if (inside.y < part.y || inside.y >= part.y + part.height) continue;
      suspects.push({ ...suspect, points });
    }
    if (onProgress((i + 1) / parts.length) === false) return [];
  }
  const strongest = suspects.sort((a, b) => b.standsOut - a.standsOut).slice(0, MOST);
  const spots: Spot[] = [];
  for (const [i, { standsOut: _, ...shape }] of strongest.entries()) {
    const region = sourceInput(shape, size);
    const near = strongest.filter((other) => other !== strongest[i]);
    const input = { region, raster: await source.read(region) };
    const offset = findSource(shape, input, size, near);
    if (offset) spots.push({ id: `found-${i}`, how: 'heal', offset, ...shape });
  }
  return spots;
}
