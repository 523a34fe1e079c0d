import type { DrawnPart } from '@/core/placed/place';
import type { Region, Size } from '@/core/raster/region';
import { openTiff } from '../tiff-samples';
import type { TreatedFile } from './drawing';

/** The pixels of a picture as it was treated. */
export interface Treated {
  size: Size;
  read(region: Region): Promise<{ size: Size; channels: 3 | 4; samples: Uint8Array }>;
}

/** Treated pictures that take their places on a page, and the cell of a drawing that is asked for. */
export interface InPlace {
  /** by their numbers on the page */
  pictures: ReadonlyMap<number, Treated>;
  drawn: DrawnPart;
  /** pixels of the whole drawing, turned */
  size: Size;
  /** the cell, on the drawing before it is turned */
  cell: Region;
}

/** Lends treated pictures that lie in uncompressed TIFFs. */
export async function withTreated<T>(
  files: readonly TreatedFile[],
  use: (pictures: ReadonlyMap<number, Treated>) => Promise<T>,
): Promise<T> {
  const opened = await Promise.all(
    files.map(async ({ picture, file }) => ({ picture, tiff: await openTiff(file) })),
  );
  try {
    return await use(
      new Map(
        opened.map(({ picture, tiff }) => [
          picture,
          {
            size: tiff.size,
            read: async ({ width, height, ...at }: Region) => ({
              size: { width, height },
              channels: tiff.channels as 3 | 4,
              samples: await tiff.samples({ ...at, width, height }),
            }),
          },
        ]),
      ),
    );
  } finally {
    await Promise.all(opened.map(({ tiff }) => tiff.close()));
  }
}
