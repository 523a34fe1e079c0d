import { fromFile } from 'geotiff';

type TiffTags = Awaited<
  ReturnType<Awaited<ReturnType<typeof fromFile>>['getImage']>
>['fileDirectory'];
export type TiffTag = Parameters<TiffTags['hasTag']>[0];

/** Looks at the tags of one of a TIFF's pages, counted from 1. */
export async function withTiff<T>(
  path: string,
  look: (tags: TiffTags) => Promise<T>,
  page = 1,
): Promise<T> {
  const tiff = await fromFile(path);
  try {
    const image = await tiff.getImage(page - 1);
    return await look(image.fileDirectory);
  } finally {
    await tiff.close();
  }
}
