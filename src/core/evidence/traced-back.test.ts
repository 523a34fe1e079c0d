import { describe, expect, it } from 'vitest';
import { RGB, RGBA } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { memorySource, random, testPicture } from '../testing';
import { tracedBack } from './traced-back';

/** Rings of three colours about a middle, with soft edges. */
function rings(side: number): Raster {
  const raster = emptyRaster(side, side, RGB);
  const colours = [
    [0.1, 0.2, 0.5],
    [0.95, 0.85, 0.3],
    [0.7, 0.1, 0.1],
  ];
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++)
      for (let k = 0; k < 16; k++) {
        const u = x + ((k % 4) + 0.5) / 4 - side / 2;
        const v = y + ((k >> 2) + 0.5) / 4 - side / 2;
        const ring = Math.floor(Math.hypot(u, v) / 11) % 3;
        colours[ring]!.forEach((value, c) => (raster.planes[c]![y * side + x]! += value / 16));
      }
  return raster;
}

describe('a drawing that is traced and drawn small again', () => {
  it('is near to itself', async () => {
    const found = await tracedBack(memorySource(rings(150)), 'flat artwork');
    expect(found!.off).toBeLessThan(1.5);
    expect(found!.worst).toBeLessThan(25);
  });

  it('is far off where it is no drawing of areas', async () => {
    const next = random(3);
    const raster = testPicture({ width: 96, height: 96 });
    raster.planes.forEach((plane) =>
      plane.forEach((value, i) => (plane[i] = value / 2 + next() / 2)),
    );
    const found = await tracedBack(memorySource(raster), 'line art');
    expect(found!.off).toBeGreaterThan(2);
  });

  it('is judged on white where it is transparent', async () => {
    const raster = emptyRaster(40, 40, RGBA);
    for (let y = 10; y < 30; y++) raster.planes[3]!.fill(1, 40 * y + 10, 40 * y + 30);
    const onWhite = emptyRaster(40, 40, RGB);
    onWhite.planes.forEach((plane) =>
      plane.forEach((_, i) => (plane[i] = 1 - raster.planes[3]![i]!)),
    );
    const found = await tracedBack(memorySource(raster), 'flat artwork');
    expect(found).toEqual(await tracedBack(memorySource(onWhite), 'flat artwork'));
  });

  it('is not asked of photographs, nor of next to no pixels', async () => {
    expect(await tracedBack(memorySource(rings(40)), 'photograph')).toBeNull();
    expect(await tracedBack(memorySource(rings(7)), 'flat artwork')).toBeNull();
  });
});
