import { access } from 'node:fs/promises';
import type { Knex } from 'knex';
import { COLOURS } from '@/core/colour/space';
import { formatOfName, type Format } from '@/core/output/formats';
import { panelsOf, spaceOf } from '@/core/output/output';
import type { Region, Size } from '@/core/raster/region';
import { clip } from '@/core/raster/region';
import { levelSize } from '@/core/raster/tiles';
import type { Depth } from '@/core/raster/samples';
import { Run } from '@/core/shop/task';
import { halvePicture, unpackPicture } from '../codecs/pictures';
import { openRaw, type RawFile } from '../codecs/raw';
import { openTiff } from '../codecs/tiff-samples';
import { taskOfDigest } from '../db/tasks';
import type { SampleForm } from '../output/samples';
import { SHRUNK_LEVEL } from '../output/shrunk';
import { halvedPath } from './halved';
import { noteUse } from './room';
import { makeFolderOf, store } from './store';

/** Pixels that can be read in parts. */
export type Samples = Pick<RawFile, 'size' | 'samples' | 'close'>;

/** The file of a finished run, for looking at. */
export interface Finished {
  digest: string;
  path: string;
  form: SampleForm;
  format: Format;
  /** plain samples in the colours that it is looked at in: read in parts as they lie there */
  plain: boolean;
  /** its colours are its own, and are turned into a screen's before it is looked at */
  converted: boolean;
  /** the page of the original that it was made from, whose profile it carries */
  madeFrom: { digest: string; page: number };
}

/** @returns the finished file of a digest; null where no run made it, or it was cleared away */
export async function findFinished(db: Knex, digest: string): Promise<Finished | null> {
  const found = await taskOfDigest(db, digest);
  const run = found && Run.safeParse(found.task).data;
  // Panels are no picture to be looked at.
  if (!found || !run || isInPanels(run)) return null;
  const { recipe, fileName } = run.payload;
  const { original, output } = recipe;
  const space = spaceOf(output);
  const { width, height } = recipe.target;
  const converted = output.colour !== null;
  return {
    digest,
    path: store.named(found.path),
    form: {
      ...{ size: { width, height }, depth: output.format === 'jpeg' ? 8 : output.depth, space },
      channels: COLOURS[space] + (recipe.alpha === 'kept' ? 1 : 0),
    },
    format: formatOfName(fileName) ?? output.format,
    plain: output.format === 'tiff' && output.compression === 'none' && !converted,
    converted,
    madeFrom: { digest: original.digest, page: original.page },
  };
}

const isInPanels = ({ payload: { recipe } }: Run): boolean => panelsOf(recipe.output) !== null;

/** Pixels of a finished file, halved so many times, to be read in parts. */
export async function openFinished(file: Finished, level: number): Promise<Samples> {
  if (level >= SHRUNK_LEVEL) return openRaw(await shrunkPath(file, level));
  const whole = await openWhole(file);
  return level === 0 ? whole : halvedAsRead(whole, level);
}

/** All of its pixels: in the file itself, where it is not compressed. */
const openWhole = async (file: Finished): Promise<RawFile> =>
  file.plain ? openTiff(file.path) : openRaw(await unpacked(file));

/** Where the pixels of a compressed file lie, to be read in parts. */
async function unpacked({ digest, path, form, format, converted }: Finished): Promise<string> {
  const raw = await makeFolderOf(store.raw(digest, 1));
  if (await isThere(raw)) await noteUse(raw);
  else
    await once(raw, () =>
      unpackPicture({ file: path, out: raw, form, pdf: format === 'pdf', forScreen: converted }),
    );
  return raw;
}

/** Where its small copy lies; made now where its run left none. */
async function shrunkPath(file: Finished, level: number): Promise<string> {
  const {
    digest,
    form: { depth },
  } = file;
  const raw = await makeFolderOf(store.raw(digest, 1));
  const path = halvedPath(raw, level);
  if (await isThere(path)) {
    await noteUse(path);
    return path;
  }
  const size = levelSize(file.form.size, level);
  const from =
    level > SHRUNK_LEVEL
      ? await shrunkPath(file, SHRUNK_LEVEL)
      : file.plain
        ? file.path
        : await unpacked(file);
  await once(path, () => halvePicture({ raw: from, out: path, size, depth }));
  return path;
}

/** The same pixels halved, each a mean of those that it stands for, as they are asked for. */
function halvedAsRead(whole: RawFile, level: number): Samples {
  const size = levelSize(whole.size, level);
  return {
    size,
    close: () => whole.close(),
    samples: async (region) => {
      const covered = onWhole(region, size, whole.size);
      return means(await whole.samples(covered), covered, region, { ...whole, small: size });
    },
  };
}

/** First pixel of the whole picture that a pixel of the small one stands for. */
const first = (at: number, small: number, whole: number): number =>
  Math.floor((at * whole) / small);

function onWhole({ x, y, width, height }: Region, small: Size, whole: Size): Region {
  const left = first(x, small.width, whole.width);
  const top = first(y, small.height, whole.height);
  return clip(
    {
      ...{ x: left, y: top },
      width: first(x + width, small.width, whole.width) - left,
      height: first(y + height, small.height, whole.height) - top,
    },
    whole,
  );
}

function means(
  bytes: Buffer,
  covered: Region,
  region: Region,
  of: { size: Size; small: Size; channels: number; depth: Depth },
): Buffer {
  const { size, small, channels, depth } = of;
  const view = (buffer: Buffer) =>
    depth === 8 ? buffer : new Uint16Array(buffer.buffer, buffer.byteOffset, buffer.length / 2);
  const values = view(bytes);
  const result = Buffer.alloc((region.width * region.height * channels * depth) / 8);
  const into = view(result);
  for (let v = 0, i = 0; v < region.height; v++) {
    const top = first(region.y + v, small.height, size.height) - covered.y;
    const bottom = first(region.y + v + 1, small.height, size.height) - covered.y;
    for (let u = 0; u < region.width; u++) {
      const left = first(region.x + u, small.width, size.width) - covered.x;
      const right = first(region.x + u + 1, small.width, size.width) - covered.x;
      for (let c = 0; c < channels; c++, i++) {
        let sum = 0;
        for (let y = top; y < bottom; y++)
          for (let x = left; x < right; x++) sum += values[(y * covered.width + x) * channels + c]!;
        into[i] = Math.round(sum / ((bottom - top) * (right - left)));
      }
    }
  }
  return result;
}

const making = new Map<string, Promise<void>>();

/** Makes a file once for all who ask meanwhile. */
function once(path: string, make: () => Promise<void>): Promise<void> {
  const under = making.get(path) ?? make().finally(() => making.delete(path));
  making.set(path, under);
  return under;
}

const isThere = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );
