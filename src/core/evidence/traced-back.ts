import type { TracedBack } from '../inspect/findings';
import type { Kind } from '../inspect/kind';
import { compositeOver } from '../raster/alpha';
import { UPSCALING } from '../learned/enlarger';
import { luminance } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { cells, whole, type Region } from '../raster/region';
import { LEVEL } from '../raster/samples';
import type { Source } from '../raster/source';
import { resample } from '../steps/resample/resample';
import { upscale } from '../steps/upscale/upscale';
import { detailOf } from './self-test';
import { trace } from '../tracing/trace';
import { drawTraced } from '../tracing/traced';

/** Sides of the squares that are traced, the most of them, and of how many those are chosen. */
const SQUARE = 128;
const SQUARES = 2;
const LOOKED_AT = 36;
/** A smaller picture shows no area. */
const LEAST = 8;
const WHITE = [1, 1, 1] as const;

/**
 * How near a drawing comes to itself when it is traced and drawn small again, in its squares with most edges. Without a
 * network, which makes it truer: what holds without holds with it.
 * @returns null of pictures that are no drawings, and where one is too small
 */
export async function tracedBack(source: Source, kind: Kind): Promise<TracedBack | null> {
  if (kind !== 'flat artwork' && kind !== 'line art') return null;
  const { width, height } = source.size;
  if (Math.min(width, height) < LEAST) return null;
  const offs: TracedBack[] = [];
  for (const raster of await busiest(source)) offs.push(await offOf(raster));
  return {
    off: offs.reduce((sum, { off }) => sum + off, 0) / offs.length,
    worst: Math.max(...offs.map(({ worst }) => worst)),
  };
}

/** The squares with most edges. */
async function busiest(source: Source): Promise<Raster[]> {
  const all = cells(whole(source.size), SQUARE, source.size);
  const every = Math.ceil(all.length / LOOKED_AT);
  const rated: { raster: Raster; edges: number }[] = [];
  for (let i = 0; i < all.length; i += every) {
    const square = await source.read(all[i]!);
    const raster = square.form.alpha ? compositeOver(square, WHITE) : square;
    rated.push({ raster, edges: detailOf(luminance(raster), whole(raster)) });
  }
  rated.sort((a, b) => b.edges - a.edges);
  return rated.slice(0, SQUARES).map(({ raster }) => raster);
}

async function offOf(raster: Raster): Promise<TracedBack> {
  const { width, height } = raster;
  const large = { width: width * UPSCALING, height: height * UPSCALING };
  const input = { region: whole(raster), raster };
  const plain = { model: null, luma: 0, colour: 0 };
  const grids = { from: raster, to: large };
  const fine = await upscale.apply(input, plain, whole(large), grids, { network: noNetwork });
  const part = { source: whole(large), turn: 0 as const, straighten: 0, ...large };
  const drawn = drawTraced(trace(fine, UPSCALING), part, whole(large));
  const numbers = {
    ...{ method: 'bicubic' as const, light: 'gamma' as const, limit: 0, step: 10 },
    ...{ source: whole(large), turn: 0 as const, straighten: 0, width, height },
  };
  const enlarged = { region: whole(large), raster: drawn };
  const back = resample.apply(enlarged, numbers, whole(raster), { from: large, to: raster });
  return distance(back, raster);
}

const noNetwork = () => Promise.reject(new Error('traced back without a network'));

/** Mean distance of two pictures, and the greatest that all of 3 x 3 pixels have on the mean, in levels. */
function distance(a: Raster, b: Raster): TracedBack {
  const { width, height } = a;
  const off = new Float32Array(width * height);
  a.planes.forEach((plane, c) =>
    plane.forEach((value, i) => {
      off[i]! += Math.abs(value - b.planes[c]![i]!) / a.planes.length / LEVEL;
    }),
  );
  let [sum, worst] = [0, 0];
  const mean = (region: Region): number => {
    let around = 0;
    for (let y = region.y; y < region.y + region.height; y++)
      for (let x = region.x; x < region.x + region.width; x++) around += off[y * width + x]!;
    return around / region.width / region.height;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      sum += off[y * width + x]!;
      if (x + 3 <= width && y + 3 <= height)
        worst = Math.max(worst, mean({ x, y, width: 3, height: 3 }));
    }
  return { off: sum / off.length, worst };
}
