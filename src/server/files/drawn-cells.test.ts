import { beforeEach, expect, it, vi } from 'vitest';
import type { Drawing } from '../codecs/shapes/drawing';

const drawn = vi.hoisted(() => vi.fn());
vi.mock('../codecs/pictures', () => ({ drawnCell: drawn }));
const { drawnCells } = await import('./drawn-cells');

const drawing = (width: number): Drawing => ({
  file: 'a.svg',
  name: 'a.svg',
  page: 1,
  drawn: { source: { x: 0, y: 0, width: 9, height: 9 }, turn: 0 },
  size: { width, height: 9 },
  channels: 3,
});
const cell = (x = 0) => ({ x, y: 0, width: 9, height: 9 });

beforeEach(() => drawn.mockReset().mockImplementation(() => Promise.resolve(new Uint8Array(3))));

it('draws a cell once while it is looked at, whoever asks', async () => {
  await Promise.all([drawnCells.cell(drawing(1), cell()), drawnCells.cell(drawing(1), cell())]);
  await drawnCells.cell(drawing(1), cell(9));
  await drawnCells.cell(drawing(2), cell());
  expect(drawn).toHaveBeenCalledTimes(3);
});

it('tries again what could not be drawn', async () => {
  drawn.mockRejectedValueOnce(new Error('no memory'));
  await expect(drawnCells.cell(drawing(3), cell())).rejects.toThrow('no memory');
  await expect(drawnCells.cell(drawing(3), cell())).resolves.toHaveLength(3);
});

it('keeps a screenful and forgets what was not asked for longest', async () => {
  for (let x = 0; x < 24; x++) await drawnCells.cell(drawing(4), cell(x));
  await drawnCells.cell(drawing(4), cell(0));
  await drawnCells.cell(drawing(4), cell(99));
  drawn.mockClear();
  await drawnCells.cell(drawing(4), cell(0));
  expect(drawn).not.toHaveBeenCalled();
  await drawnCells.cell(drawing(4), cell(1));
  expect(drawn).toHaveBeenCalledTimes(1);
});
