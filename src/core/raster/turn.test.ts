import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Turn } from '../frame/framing';
import { testPicture } from '../testing';
import { cut } from './raster';
import { whole } from './region';
import { beforeTurn, turnRaster } from './turn';

const before = testPicture({ width: 31, height: 19 });
const turns = fc.constantFrom<Turn>(0, 90, 180, 270);

it('a part of a turned picture is the turned part of the picture', () => {
  const part = fc.record({
    x: fc.integer({ min: 0, max: 18 }),
    y: fc.integer({ min: 0, max: 18 }),
    width: fc.integer({ min: 1, max: 12 }),
    height: fc.integer({ min: 1, max: 12 }),
  });
  fc.assert(
    fc.property(turns, part, (turn, asked) => {
      const all = turnRaster(before, turn);
      const region = {
        ...asked,
        width: Math.min(asked.width, all.width - asked.x),
        height: Math.min(asked.height, all.height - asked.y),
      };
      const source = beforeTurn(region, turn, before);
      const turned = turnRaster(cut({ region: whole(before), raster: before }, source), turn);
      expect(turned).toEqual(cut({ region: whole(all), raster: all }, region));
    }),
  );
});

it('four quarter turns lead back', () => {
  let raster = before;
  for (let i = 0; i < 4; i++) raster = turnRaster(raster, 90);
  expect(raster).toEqual(before);
  expect(turnRaster(turnRaster(before, 90), 270)).toEqual(before);
  expect(turnRaster(turnRaster(before, 180), 180)).toEqual(before);
});
