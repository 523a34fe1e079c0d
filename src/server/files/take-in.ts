import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import { formatBytes } from '@/core/measure/format';
import { Findings, FINDINGS_VERSION } from '@/core/inspect/findings';
import type { TakenIn } from '@/core/shop/job';
import type { Decoded } from '../codecs/decoded';
import { decodePicture } from '../codecs/pictures';
import { findOriginal, findPage, keepPage, takenInAgain, type StoredPage } from '../db/originals';
import { limitsOf } from '../limits';
import { Problem } from '../problem';
import { noteUse } from './room';
import { makeFolderOf, store } from './store';
import { forgetReduced } from './halved';

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
    const { uploadBytes } = await limitsOf(db);
    const digest = await receive(body, upload, fileName, uploadBytes);
    const known = await findPage(db, digest, 1);
    if (known) {
      await takenInAgain(db, digest);
      return { digest, fileName, known: true, findings: known.findings };
    }
    const findings = await keepFile(db, upload, digest, fileName);
    return { digest, fileName, known: false, findings };
  } finally {
    await rm(upload, { force: true });
  }
}

const keeping = new Map<string, Promise<Findings>>();

/**
 * Decodes a file and keeps it as an original, once for all who bring the same meanwhile.
 * @param upload where it lies; it is moved to its place
 */
export async function keepFile(
  db: Knex,
  upload: string,
  digest: string,
  name: string,
): Promise<Findings> {
  const known = await findPage(db, digest, 1);
  if (known) return known.findings;
  const under =
    keeping.get(digest) ?? keep(db, upload, digest, name).finally(() => keeping.delete(digest));
  keeping.set(digest, under);
  return under;
}

async function keep(db: Knex, upload: string, digest: string, name: string): Promise<Findings> {
  const raw = await makeFolderOf(store.raw(digest, 1));
  const thumbnail = await makeFolderOf(store.thumbnail(digest, 1));
  const original = await makeFolderOf(store.original(digest));
  try {
    const { picturePixels: mostPixels } = await limitsOf(db);
    const task = { file: upload, name, page: 1, raw, thumbnail, mostPixels };
    const decoded = await decodePicture(task);
    const page = asStored(decoded, digest, name, 1);
    await rename(upload, original);
    await keepPage(db, page);
    return page.findings;
  } catch (error) {
    // A file that the shop had before, and that is only looked at anew, keeps what it has.
    if (!(await isOriginal(db, digest))) {
      await Promise.all([raw, thumbnail, original].map((path) => rm(path, { force: true })));
    }
    throw error;
  }
}

/** Whether the shop has a file; said to be so where that can't be told, so that nothing is removed. */
const isOriginal = (db: Knex, digest: string): Promise<boolean> =>
  findOriginal(db, digest).then(
    () => true,
    (error: unknown) => !(error instanceof Problem),
  );

async function receive(
  body: ReadableStream<Uint8Array>,
  path: string,
  fileName: string,
  limit: number,
): Promise<string> {
  const hash = createHash('sha256');
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

/** @throws Problem where what was found makes no sense: what is stored can be read again */
function asStored(
  { findings, maps, profile }: Decoded,
  digest: string,
  name: string,
  page: number,
): StoredPage {
  const sound = Findings.safeParse(findings);
  if (!sound.success) {
    const [issue] = sound.error.issues;
    throw new Problem(
      'input',
      `${name} can't be used: its ${issue!.path.join(' ')} makes no sense. Ask for it saved again.`,
    );
  }
  return {
    digest,
    name,
    page,
    findings: sound.data,
    maps,
    profile: profile && Buffer.from(profile),
  };
}

/**
 * A page of an original, looked at now where nobody did yet, or where findings have grown since.
 * @throws Problem where there is no such original or page
 */
export async function inspectedPage(db: Knex, digest: string, page: number): Promise<StoredPage> {
  const known = await findPage(db, digest, page);
  if (known && known.findings.version === FINDINGS_VERSION) return known;
  const { name } = await findOriginal(db, digest);
  const stored = asStored(await decodeAgain(digest, name, page), digest, name, page);
  await keepPage(db, stored);
  return stored;
}

const decoding = new Map<string, Promise<Decoded>>();

/** Decodes a page of a kept original anew, once for all who ask meanwhile. */
function decodeAgain(digest: string, name: string, page: number): Promise<Decoded> {
  const raw = store.raw(digest, page);
  const under = decoding.get(raw) ?? begin().finally(() => decoding.delete(raw));
  decoding.set(raw, under);
  return under;

  async function begin(): Promise<Decoded> {
    const decoded = await decodePicture({
      file: store.original(digest),
      name,
      page,
      raw: await makeFolderOf(raw),
      thumbnail: await makeFolderOf(store.thumbnail(digest, page)),
    });
    await forgetReduced(raw);
    return decoded;
  }
}

/** The decoded pixels of a page; made again from its file where they were cleared away. */
export async function decodedPath(digest: string, name: string, page: number): Promise<string> {
  const raw = store.raw(digest, page);
  const there = await access(raw).then(
    () => true,
    () => false,
  );
  if (there) await noteUse(raw);
  else await decodeAgain(digest, name, page);
  return raw;
}
