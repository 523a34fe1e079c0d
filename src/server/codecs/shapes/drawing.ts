import { open } from 'node:fs/promises';
import { cells, type Region, type Size } from '@/core/raster/region';
import type { DrawnPart } from '@/core/placed/place';
import type { Recipe } from '@/core/recipe/recipe';
import { rawHeader } from '../raw';

/**
 * Side of the cells that shapes are drawn in, on an absolute grid: the preview and the file are
 * made of the very same ones.
 */
export const CELL = 1024;

/** A treated picture of a page: its number there, and the uncompressed TIFF that holds it. */
export interface TreatedFile {
  picture: number;
  file: string;
}

/** A picture that is drawn from shapes, at a size. */
export interface Drawing {
  /** the file of shapes, and what to call it */
  file: string;
  name: string;
  page: number;
  drawn: DrawnPart;
  /** pictures on it that are drawn as they were treated, each from its file */
  treated?: readonly TreatedFile[];
  /** pixels of the whole picture */
  size: Size;
  /** 4 keeps what is transparent, 3 is opaque */
  channels: 3 | 4;
}

/** What a recipe draws, from the file that its original lies in. @param treated the files of its treated pictures */
export const drawingOf = (
  recipe: Recipe,
  file: string,
  name: string,
  treated: readonly TreatedFile[] = [],
): Drawing => ({
  file,
  name,
  page: recipe.original.page,
  drawn: { source: recipe.original.drawn!.source, turn: recipe.original.drawn!.turn },
  ...(treated.length > 0 && { treated }),
  size: { width: recipe.original.width, height: recipe.original.height },
  channels: recipe.alpha === 'none' ? 3 : 4,
});

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
