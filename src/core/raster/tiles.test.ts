import { describe, expect, it } from 'vitest';
import { cut } from './raster';
import { whole, type Region } from './region';
import { testPicture } from '../testing';
import { levelSize, TILE, tiledSource } from './tiles';

const size = { width: 600, height: 300 };
const picture = testPicture(size);

function fetching(fail: (asked: string) => boolean = () => false) {
  const asked: string[] = [];
  const source = tiledSource(size, async (column, row, region: Region) => {
    const name = `${column},${row}`;
    asked.push(name);
    if (fail(name)) throw new Error('gone');
    return cut({ region: whole(size), raster: picture }, region);
  });
  return { source, asked };
}

describe('a tiled source', () => {
  it('gives the picture’s own pixels across tiles, asking for each tile once', async () => {
    const { source, asked } = fetching();
    const region = { x: 200, y: 200, width: 120, height: 90 };
    const [first, again] = await Promise.all([source.read(region), source.read(region)]);
    const expected = cut({ region: whole(size), raster: picture }, region);
    expect(first).toEqual(expected);
    expect(again).toEqual(expected);
    expect(asked.sort()).toEqual(['0,0', '0,1', '1,0', '1,1']);
    expect(TILE).toBe(256);
  });

  it('asks again for a tile that did not arrive', async () => {
    let broken = true;
    const { source, asked } = fetching((name) => broken && name === '2,0');
    const region = { x: 530, y: 10, width: 20, height: 20 };
    await expect(source.read(region)).rejects.toThrow('gone');
    broken = false;
    await expect(source.read(region)).resolves.toMatchObject({ width: 20, height: 20 });
    expect(asked).toEqual(['2,0', '2,0']);
  });
});

it('halved sizes never vanish', () => {
  expect(levelSize({ width: 720, height: 480 }, 3)).toEqual({ width: 90, height: 60 });
  expect(levelSize({ width: 5, height: 3 }, 6)).toEqual({ width: 1, height: 1 });
});
