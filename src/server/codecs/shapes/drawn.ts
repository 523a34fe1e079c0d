import { open } from 'node:fs/promises';
import { frameSize, UNFRAMED, type Rect } from '@/core/frame/framing';
import { cells, type Region } from '@/core/raster/region';
import { fromSamples, toSamples } from '@/core/raster/samples';
import { beforeTurn, turnRaster } from '@/core/raster/turn';
import { writeRawRows } from '../raw';
import { openShapes } from './open-shapes';
import { toNominal, toPoints } from './nominal';
import { withTreated } from './treated';
import { CELL, type Drawing } from './drawing';

/** Interleaved 8-bit samples of one cell, or of a part of one. */
export async function drawCell(drawing: Drawing, cell: Region): Promise<Buffer> {
  const { file, name, page, drawn, size, channels, treated = [] } = drawing;
  const replaced = treated.map(({ picture }) => picture);
  const shapes = await openShapes(file, name, page, replaced);
  const { turn } = drawn;
  const upright = frameSize(size, { ...UNFRAMED, turn });
  const part = beforeTurn(cell, turn, upright);
  const source = beforeTurn(drawn.source, turn, toNominal(shapes.size));
  const shown: Rect = {
    x: source.x + (part.x * source.width) / upright.width,
    y: source.y + (part.y * source.height) / upright.height,
    width: (part.width * source.width) / upright.width,
    height: (part.height * source.height) / upright.height,
  };
  const points = toPoints(shown, shapes.size);
  const pixels = { width: part.width, height: part.height };
  const rgba = await (treated.length === 0
    ? shapes.draw(points, pixels)
    : withTreated(treated, (pictures) =>
        shapes.draw(points, pixels, { pictures, drawn, size, cell: part }),
      ));
  const raster = turnRaster(fromSamples(rgba, part.width, part.height, 4, 8, channels), turn);
  return Buffer.from(toSamples(raster, 8).buffer);
}

/** Draws one band of cells into its place in the file. */
export async function drawBand(drawing: Drawing, raw: string, band: Region): Promise<void> {
  const { size, channels } = drawing;
  const lineBytes = size.width * channels;
  const rows = Buffer.alloc(lineBytes * band.height);
  for (const cell of cells(band, CELL, size)) {
    const samples = await drawCell(drawing, cell);
    const bytes = cell.width * channels;
    for (let y = 0; y < cell.height; y++) {
      samples.copy(rows, y * lineBytes + cell.x * channels, y * bytes, (y + 1) * bytes);
    }
  }
  const file = await open(raw, 'r+');
  try {
    await writeRawRows(file, rows, band.y, lineBytes);
  } finally {
    await file.close();
  }
}
