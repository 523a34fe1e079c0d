import { createHash } from 'node:crypto';
import { union, type Region } from '@/core/raster/region';
import { followedBy, inverseOf, partOn, shownIn, type Spot } from '@/core/placed/place';
import type { Affine, PlacedPicture } from '@/core/placed/placed';
import { withoutSlices } from '@/core/placed/slices';
import { uncover } from './pdf-clip';
import { unwrapped } from './pdf-filters';
import { copied, fill, heapOf, withBitmap, withMemory, type Pdfium, type Samples } from './pdfium';
import type { Treated } from './treated';

/** Kinds of page objects. */
const IMAGE = 3;
const FORM = 5;
/** Objects that are looked through for pictures; a page can hold millions. */
const OBJECT_LIMIT = 20_000;
const FORM_DEPTH = 6;
/** Shape that colour is laid through: one bit a pixel, in no colours of its own. */
const STENCIL = { bits: 1, colours: 0 } as const;

const AS_IT_IS: Affine = [1, 0, 0, 1, 0, 0];
/** Pictures are upside down in their own square: its origin is the lower left corner. */
const UPSIDE_DOWN: Affine = [1, 0, 0, -1, 0, 1];

/** A picture where a page shows it. */
export interface ImageObject {
  object: number;
  /** from its own square, whose origin is the lower left corner, to the page's user space */
  matrix: Affine;
  /** from what its own matrix leads to, to the page's user space */
  parent: Affine;
}

/** A picture of a page with all places where it is shown, by their order among the page's image objects. */
export interface PagePicture {
  placed: PlacedPicture;
  objects: number[];
}

/** The pictures on a page, also within forms, and how much else there is. */
export function objectsOf(library: Pdfium, page: number) {
  const images: ImageObject[] = [];
  let others = 0;
  let left = OBJECT_LIMIT;
  const visit = (object: number, parent: Affine, depth: number): void => {
    if (left-- <= 0) {
      others++;
      return;
    }
    const kind = library.FPDFPageObj_GetType(object);
    const matrix = followedBy(matrixOf(library, object), parent);
    if (kind === IMAGE) images.push({ object, matrix, parent });
    else if (kind === FORM && depth < FORM_DEPTH) {
      const count = library.FPDFFormObj_CountObjects(object);
      for (let i = 0; i < count; i++) {
        visit(library.FPDFFormObj_GetObject(object, i), matrix, depth + 1);
      }
    } else others++;
  };
  const count = library.FPDFPage_CountObjects(page);
  for (let i = 0; i < Math.min(count, OBJECT_LIMIT); i++) {
    visit(library.FPDFPage_GetObject(page, i), AS_IT_IS, 0);
  }
  return { images, others };
}

const matrixOf = (library: Pdfium, object: number): Affine =>
  withMemory(library, 24, (at) =>
    library.FPDFPageObj_GetMatrix(object, at)
      ? ([...heapOf(library).floats.subarray(at >> 2, (at >> 2) + 6)] as Affine)
      : AS_IT_IS,
  );

function setMatrix(library: Pdfium, object: number, matrix: Affine): void {
  withMemory(library, 24, (at) => {
    heapOf(library).floats.set(matrix, at >> 2);
    library.FPDFPageObj_SetMatrix(object, at);
  });
}

/**
 * The pictures of a page that nothing was put into yet, each once however often it is shown.
 * @param toGrid from the page's user space to its nominal grid
 */
export function picturesOn(
  library: Pdfium,
  page: number,
  images: readonly ImageObject[],
  toGrid: Affine,
): PagePicture[] {
  const names = namesOf(library, images);
  const found = new Map<string, PagePicture & { area: number }>();
  images.forEach(({ object, matrix }, i) => {
    const size = pixelSize(library, object);
    const widthPt = Math.hypot(matrix[0], matrix[1]);
    const heightPt = Math.hypot(matrix[2], matrix[3]);
    if (!size || !(widthPt > 0 && heightPt > 0)) return;
    const name = names?.[i] ?? `${i}`;
    const known = found.get(name);
    const area = widthPt * heightPt;
    const place = gridPlace({ matrix }, toGrid);
    const largest = known && known.area >= area ? known.placed : { widthPt, heightPt, place };
    const times = (known?.placed.times ?? 0) + 1;
    const kept = isStencil(library, page, object) ? STENCIL_KEPT : names ? null : UNKNOWN_KEPT;
    found.set(name, {
      placed: { ...largest, ...size, times, kept },
      objects: [...(known?.objects ?? []), i],
      area: Math.max(known?.area ?? 0, area),
    });
  });
  const all = [...found.values()];
  const kept = withoutSlices(all.map(({ placed }) => placed));
  return all.map(({ objects }, i) => ({ placed: kept[i]!, objects }));
}

const STENCIL_KEPT = 'It is a stencil that the page paints through, no picture of its own.';
/** What is put into one place would show in all others. */
const UNKNOWN_KEPT =
  'The page shows pictures so many times that it is not known where it shows this one.';

/** Bytes of a page's pictures that are compared with each other: one of them can be shown thousands of times. */
const COMPARED_BYTES = 64e6;

/**
 * What tells the stored pictures of image objects from each other: their size, and their bytes where others have that
 * as well. Null where that were too much to look at.
 */
function namesOf(library: Pdfium, images: readonly ImageObject[]): string[] | null {
  const sizes = images.map(({ object }) => {
    const size = pixelSize(library, object);
    const length = library.FPDFImageObj_GetImageDataRaw(object, 0, 0);
    return { name: `${size?.width} ${size?.height} ${length}`, length };
  });
  const times = new Map<string, number>();
  for (const { name } of sizes) times.set(name, (times.get(name) ?? 0) + 1);
  const again = sizes.map(({ name }) => times.get(name)! > 1);
  const compared = sizes.reduce((sum, { length }, i) => sum + (again[i] ? length : 0), 0);
  if (compared > COMPARED_BYTES) return null;
  return sizes.map(({ name }, i) => {
    if (!again[i]) return name;
    const bytes = rawBytes(library, images[i]!.object);
    return `${name} ${createHash('sha256').update(bytes).digest('hex')}`;
  });
}

/** Where an image object lies on its page's nominal grid. */
export const gridPlace = ({ matrix }: Pick<ImageObject, 'matrix'>, toGrid: Affine): Affine =>
  followedBy(followedBy(UPSIDE_DOWN, matrix), toGrid);

const pixelSize = (library: Pdfium, object: number) =>
  withMemory(library, 8, (at) => {
    if (!library.FPDFImageObj_GetImagePixelSize(object, at, at + 4)) return null;
    const [width, height] = heapOf(library).words.subarray(at >> 2, (at >> 2) + 2);
    return width && height ? { width, height } : null;
  });

function rawBytes(library: Pdfium, object: number): Uint8Array {
  const length = library.FPDFImageObj_GetImageDataRaw(object, 0, 0);
  if (length === 0) return new Uint8Array();
  return withMemory(library, length, (at) => {
    library.FPDFImageObj_GetImageDataRaw(object, at, length);
    return heapOf(library).bytes.slice(at, at + length);
  });
}

/** Bytes of an image object's metadata: two sizes, two resolutions, bits, colours, content. */
const METADATA = 28;

const isStencil = (library: Pdfium, page: number, object: number): boolean =>
  withMemory(library, METADATA, (at) => {
    if (!library.FPDFImageObj_GetImageMetadata(object, page, at)) return false;
    const [bits, colours] = heapOf(library).words.subarray((at >> 2) + 4, (at >> 2) + 6);
    return bits === STENCIL.bits && colours === STENCIL.colours;
  });

/**
 * A picture as it is in itself, pixel by pixel, with its own mask as alpha but without what its place clips and how it is laid
 * there; null where it can't be had. Its page is to be closed next.
 */
export function samplesOf(
  library: Pdfium,
  document: number,
  page: number,
  { object }: ImageObject,
): Samples | null {
  const size = pixelSize(library, object);
  if (!size) return null;
  uncover(library, object);
  setMatrix(library, object, [size.width, 0, 0, size.height, 0, 0]);
  const bitmap = library.FPDFImageObj_GetRenderedBitmap(document, page, object);
  if (!bitmap) return null;
  try {
    const taken = copied(library, bitmap);
    const whole = taken.size.width === size.width && taken.size.height === size.height;
    return whole ? withoutIdleAlpha(taken) : null;
  } finally {
    library.FPDFBitmap_Destroy(bitmap);
  }
}

/** The same without alpha, where that hides nothing. */
function withoutIdleAlpha(taken: Samples): Samples {
  const { size, channels, samples } = taken;
  if (channels !== 4) return taken;
  for (let i = 3; i < samples.length; i += 4) if (samples[i] !== 255) return taken;
  const opaque = new Uint8Array(size.width * size.height * 3);
  for (let i = 0, to = 0; i < samples.length; i += 4) {
    opaque[to++] = samples[i]!;
    opaque[to++] = samples[i + 1]!;
    opaque[to++] = samples[i + 2]!;
  }
  return { size, channels: 3, samples: opaque };
}

/** The bytes of a picture that is stored as a JPEG, however that is wrapped; null where it is not. */
export function jpegOf(library: Pdfium, { object }: ImageObject): Uint8Array | null {
  const count = library.FPDFImageObj_GetImageFilterCount(object);
  const filters = Array.from({ length: Math.max(0, count) }, (_, i) =>
    withMemory(library, 32, (at) => {
      const length = library.FPDFImageObj_GetImageFilter(object, i, at, 32);
      const word = heapOf(library).bytes.slice(at, at + Math.min(32, length) - 1);
      return Buffer.from(word).toString('latin1');
    }),
  );
  if (filters.pop() !== 'DCTDecode') return null;
  return unwrapped(rawBytes(library, object), filters);
}

/** A treated picture, and where each of its places lies on the drawing. */
export interface Replacement {
  treated: Treated;
  shown: { image: ImageObject; spot: Spot }[];
}

/** What of a replacement shows in a part of a drawing, ready to be put in. */
interface Ready {
  /** null where nothing shows */
  samples: Samples | null;
  /** the picture, and from the unit square to the drawing; null where it doesn't show */
  places: { image: ImageObject; map: Affine | null }[];
}

/** Of a pixel: sides that lie on whole pixels are drawn in by it, so that no rounding adds another one. */
const DRAWN_IN = 0.02;
/** Where what doesn't show is moved to. */
const AWAY: Affine = [1e-3, 0, 0, 1e-3, -1e7, -1e7];

/** Reads what shows of a treated picture in a part of a drawing. */
export async function ready({ treated, shown }: Replacement, part: Region): Promise<Ready> {
  const { size } = treated;
  const seen = shown.map(({ image, spot }) => ({ image, spot, in: shownIn(spot, part, size) }));
  // Another size than it was made for has pixels that belong to two parts.
  const exact = shown.every(
    ({ spot: { pixels } }) => pixels.width === size.width && pixels.height === size.height,
  );
  const [first, ...more] = seen.flatMap((one) => one.in ?? []);
  const crop = !first ? null : exact ? more.reduce(union, first) : { x: 0, y: 0, ...size };
  return {
    samples: crop && (await treated.read(crop)),
    places: seen.map(({ image, spot, in: within }) => {
      const map = within && crop && partOn(spot.map, crop, size);
      return { image, map: map && spot.at ? drawnIn(map) : map };
    }),
  };
}

/** Upright sides a little nearer to each other. */
function drawnIn(map: Affine): Affine {
  const x = DRAWN_IN / Math.hypot(map[0], map[1]);
  const y = DRAWN_IN / Math.hypot(map[2], map[3]);
  return followedBy([1 - 2 * x, 0, 0, 1 - 2 * y, x, y], map);
}

/**
 * Puts it in the picture's place on an open page, until that is closed, under its place's mask, clip and transparency.
 * @param toUser from the drawing's pixels to the page's user space
 */
export function putIn(library: Pdfium, { samples, places }: Ready, toUser: Affine): void {
  for (const { image, map } of places) {
    const { object, parent } = image;
    const back = inverseOf(parent);
    if (!samples || !map || !back) {
      setMatrix(library, object, AWAY);
      continue;
    }
    withBitmap(library, samples.size, (bitmap) => {
      fill(library, bitmap, samples);
      library.FPDFImageObj_SetBitmap(0, 0, object, bitmap);
    });
    const user = followedBy(followedBy(UPSIDE_DOWN, map), toUser);
    setMatrix(library, object, followedBy(user, back));
  }
}
