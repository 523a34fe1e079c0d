import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import sharp from 'sharp';
import { formatBytes } from '@/core/measure/format';
import type { TakenIn } from '@/core/shop/job';
import { decode } from '../codecs/decode';
import { config } from '../config';
import { findOriginal, keepOriginal } from '../db/originals';
import { Problem } from '../problem';
import { makeFolderOf, store } from './store';

/** Longest side of a thumbnail, in pixels. */
const THUMBNAIL = 264;

/**
 * Takes a customer's file in: streams it to disk while its digest is computed, decodes it, and
 * keeps the original byte for byte. The same file again is recognised and not stored twice. What
 * can't be used leaves nothing behind.
 * @param fileName for sentences and for showing; already made safe
 */
export async function takeIn(
  db: Knex,
  body: ReadableStream<Uint8Array>,
  fileName: string,
): Promise<TakenIn> {
  await mkdir(store.uploads(), { recursive: true });
  const upload = join(store.uploads(), randomUUID());
  try {
    const digest = await receive(body, upload, fileName);
    const known = await findOriginal(db, digest);
    if (known) return { digest, fileName, known: true, findings: known.findings };

    const raw = await makeFolderOf(store.raw(digest));
    const { findings, profile } = await decode(upload, fileName, raw);
    await makeThumbnail(upload, await makeFolderOf(store.thumbnail(digest)));
    await rename(upload, await makeFolderOf(store.original(digest)));
    await keepOriginal(db, { digest, name: fileName, findings, profile });
    return { digest, fileName, known: false, findings };
  } finally {
    await rm(upload, { force: true });
  }
}

async function receive(
  body: ReadableStream<Uint8Array>,
  path: string,
  fileName: string,
): Promise<string> {
  const hash = createHash('sha256');
  const limit = config().uploadBytes;
  let bytes = 0;
  const counted = new Transform({
    transform(chunk: Buffer, _, done) {
      bytes += chunk.length;
      if (bytes > limit) {
        done(
          new Problem(
            'input',
            `${fileName} is larger than ${formatBytes(limit)}, the most that is taken in. Nothing was kept; ask for a smaller file.`,
          ),
        );
        return;
      }
      hash.update(chunk);
      done(null, chunk);
    },
  });
  await pipeline(
    Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]),
    counted,
    createWriteStream(path),
  );
  return hash.digest('hex');
}

/** A small upright picture for the board, in sRGB. */
async function makeThumbnail(file: string, path: string): Promise<void> {
  const part = `${path}.part`;
  await sharp(file, { limitInputPixels: false })
    .autoOrient()
    .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toFile(part);
  await rename(part, path);
}

/** The decoded pixels of an original; made again from its file where they were cleared away. */
export async function decodedPath(digest: string, fileName: string): Promise<string> {
  const raw = store.raw(digest);
  const there = await access(raw).then(
    () => true,
    () => false,
  );
  if (!there) await decode(store.original(digest), fileName, await makeFolderOf(raw));
  return raw;
}
