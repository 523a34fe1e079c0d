import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Knex } from 'knex';
import type { PlacedPicture, TakenOut } from '@/core/placed/placed';
import { takeOutPicture } from '../codecs/pictures';
import type { StoredPage } from '../db/originals';
import { findTakenOut, keepTakenOut } from '../db/taken-out';
import { Problem } from '../problem';
import { digestOfFile } from './digest';
import { makeFolderOf, store } from './store';
import { inspectedPage, keepFile } from './take-in';

/** The pictures that were taken out of a page, as they are known now. */
export async function takenOutOf(db: Knex, parent: string, page: number): Promise<TakenOut[]> {
  const found = await findTakenOut(db, parent, page);
  return Promise.all(
    found
      .flatMap(({ picture, digest }) => (digest ? [{ picture, digest }] : []))
      .map(async ({ picture, digest }) => ({
        ...{ picture, digest },
        findings: (await inspectedPage(db, digest, 1)).findings,
      })),
  );
}

/** The pictures of a page with what was found out about taking them out. */
export async function placedOn(db: Knex, { digest, page, findings }: StoredPage) {
  const pictures = findings.vector?.pictures ?? [];
  const found = await findTakenOut(db, digest, page);
  return pictures.map((one, i): PlacedPicture => {
    const why = found.find(({ picture }) => picture === i + 1)?.why;
    return why ? { ...one, kept: why } : one;
  });
}

/**
 * Takes a picture out of its page, once: it becomes an original of its own, kept as long as the document is.
 * @param picture its number among the page's pictures, from 1
 * @throws Problem where there is none, or it can't be had; that is kept as well
 */
export async function takeOut(db: Knex, page: StoredPage, picture: number): Promise<TakenOut> {
  const known = (await findTakenOut(db, page.digest, page.page)).find(
    (one) => one.picture === picture,
  );
  if (known?.digest) {
    const { findings } = await inspectedPage(db, known.digest, 1);
    return { picture, digest: known.digest, findings };
  }
  const [placed] = page.findings.vector?.pictures.slice(picture - 1, picture) ?? [];
  if (!placed) throw new Problem('missing', `There is no picture ${picture} on this page.`);
  if (placed.kept) throw new Problem('input', placed.kept);
  const out = await makeFolderOf(join(store.uploads(), randomUUID()));
  const name = `${page.name}, picture ${picture}`;
  try {
    const task = { file: store.original(page.digest), name: page.name, page: page.page };
    await takeOutPicture({ ...task, picture, out });
    const digest = await digestOfFile(out);
    const findings = await keepFile(db, out, digest, name);
    await keepTakenOut(db, page.digest, page.page, { picture, digest, why: null });
    return { picture, digest, findings };
  } catch (error) {
    // What is the file's own fault stays so; what the machine lacked just now may be there later.
    if (error instanceof Problem && error.kind === 'input') {
      await keepTakenOut(db, page.digest, page.page, { picture, digest: null, why: error.message });
    }
    throw error;
  } finally {
    await rm(out, { force: true });
  }
}

/** Pictures that a new order takes out by itself, the largest on paper first. */
const AT_FIRST = 4;

/**
 * Takes out what an order will need: pictures that carry less than it asks.
 * @param ppiOf what a picture carries on the ordered paper
 */
export async function takeOutFor(
  db: Knex,
  page: StoredPage,
  ppi: number,
  ppiOf: (placed: PlacedPicture) => number,
): Promise<TakenOut[]> {
  const pictures = (page.findings.vector?.pictures ?? [])
    .map((placed, i) => ({ placed, picture: i + 1, area: placed.widthPt * placed.heightPt }))
    .filter(({ placed }) => placed.kept === null && ppiOf(placed) < ppi)
    .sort((a, b) => b.area - a.area)
    .slice(0, AT_FIRST);
  const taken: TakenOut[] = [];
  for (const { picture } of pictures) {
    try {
      taken.push(await takeOut(db, page, picture));
    } catch (error) {
      // It is drawn as it is; why, the page says.
      if (!(error instanceof Problem)) throw error;
    }
  }
  return taken;
}
