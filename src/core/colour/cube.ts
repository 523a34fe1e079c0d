import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { scratchMemory } from '../raster/rows';
import { formOf } from './form';

/** Nodes along each colour: as many as the engine's own cubes have, so that they are its very colours. */
export const NODES = 49;
const INKS = 4;
/** Pixels that are converted at a time. */
const AT_ONCE = 1 << 16;

/** Amounts of ink of evenly spaced colours: four a node, blue changing first, red last. */
export type InkCube = Float32Array;

/** @param exactly converts colours one by one */
export function inkCube(exactly: (raster: Raster) => Raster): InkCube {
  const count = NODES ** 3;
  const colours = emptyRaster(count, 1, RGB);
  for (let i = 0; i < count; i++) {
    colours.planes[0]![i] = Math.floor(i / NODES ** 2) / (NODES - 1);
    colours.planes[1]![i] = (Math.floor(i / NODES) % NODES) / (NODES - 1);
    colours.planes[2]![i] = (i % NODES) / (NODES - 1);
  }
  const { planes } = exactly(colours);
  const cube = new Float32Array(INKS * count);
  for (let i = 0; i < count; i++)
    for (let c = 0; c < INKS; c++) cube[INKS * i + c] = planes[c]![i]!;
  return cube;
}

/**
 * The same picture in amounts of ink, between nodes by the tetrahedron that a colour lies in; alpha stays as it is.
 * @throws RangeError where the raster has other colours than three
 */
export function throughCube(raster: Raster, cube: InkCube): Raster {
  const { form, width, height, planes } = raster;
  if (form.colours !== 3) {
    throw new RangeError(`colour: ${form.colours} planes where 3 are converted`);
  }
  const result = emptyRaster(width, height, formOf('cmyk', form.alpha));
  const count = width * height;
  const most = Math.min(AT_ONCE, count);
  const memory = scratchMemory(4 * (cube.length + (3 + INKS) * most));
  memory.floats.set(cube);
  const colours = cube.length;
  const inks = colours + 3 * most;
  for (let start = 0; start < count; start += most) {
    const pixels = Math.min(most, count - start);
    for (let c = 0; c < 3; c++) {
      memory.floats.set(planes[c]!.subarray(start, start + pixels), colours + c * most);
    }
    const [r, g, b] = [0, 1, 2].map((c) => 4 * (colours + c * most)) as [number, number, number];
    memory.cube4(4 * inks, 4 * most, r, g, b, 0, NODES, pixels);
    for (let c = 0; c < INKS; c++) {
      const from = inks + c * most;
      result.planes[c]!.set(memory.floats.subarray(from, from + pixels), start);
    }
  }
  if (form.alpha) result.planes[INKS]!.set(planes[3]!);
  return result;
}
