import { open } from 'node:fs/promises';
import { frameSize, UNFRAMED, type Rect } from '@/core/frame/framing';
import { cells, type Region, type Size } from '@/core/raster/region';
import { fromSamples, toSamples } from '@/core/raster/samples';
import { beforeTurn, turnRaster } from '@/core/raster/turn';
import type { Drawn, SettledRecipe } from '@/core/treatment/recipe';
import { rawHeader, writeRawRows } from '../raw';
import { openShapes, toNominal, toPoints } from './decode-shapes';

/**
 * Side of the cells that shapes are drawn in, on an absolute grid: the preview and the file are
 * made of the very same ones.
 */
export const CELL = 1024;

/** A picture that is drawn from shapes, at a size. */
export interface Drawing {
  /** the file of shapes, and what to call it */
  file: string;
  name: string;
  page: number;
  drawn: Drawn;
  /** pixels of the whole picture */
  size: Size;
  /** 4 keeps what is transparent, 3 is opaque */
  channels: 3 | 4;
}

/** What a recipe draws, from the file that its original lies in. */
export const drawingOf = (recipe: SettledRecipe, file: string, name: string): Drawing => ({
  file,
  name,
  page: recipe.original.page,
  drawn: recipe.original.drawn!,
  size: { width: recipe.original.width, height: recipe.original.height },
  channels: recipe.alpha === 'none' ? 3 : 4,
});

/** Interleaved 8-bit samples of one cell, or of a part of one. */
export async function drawCell(drawing: Drawing, cell: Region): Promise<Buffer> {
  const { file, name, page, drawn, size, channels } = drawing;
  const shapes = await openShapes(file, name, page);
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
  const rgba = await shapes.draw(toPoints(shown), { width: part.width, height: part.height });
  const raster = turnRaster(fromSamples(rgba, part.width, part.height, 4, 8, channels), turn);
  return Buffer.from(toSamples(raster, 8).buffer);
}

/** The bands of cells that a drawing is made of, top to bottom. */
export const bandsOf = (size: Size): Region[] =>
  cells({ x: 0, y: 0, width: 1, height: size.height }, CELL, size).map(({ y, height }) => ({
    x: 0,
    y,
    width: size.width,
    height,
  }));

/** Begins a file of decoded pixels that a drawing's bands are written to. */
export async function layOutDrawing({ size, channels }: Drawing, raw: string): Promise<void> {
  const file = await open(raw, 'w');
  try {
    const header = rawHeader(size, channels, 8);
    await file.write(header, 0, header.length, 0);
    await file.truncate(header.length + size.width * size.height * channels);
  } finally {
    await file.close();
  }
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
