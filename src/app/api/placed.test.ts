import { access } from 'node:fs/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { patchBetween } from '@/core/shop/change';
import { originalOf } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import type { PlacedRecipe } from '@/core/recipe/recipe';
import type { JobView, Piece } from '@/core/shop/job';
import { Run } from '@/core/shop/task';
import { spotOn } from '@/core/placed/place';
import { TILE } from '@/core/raster/tiles';
import { endPictureProcesses } from '@/server/codecs/pictures';
import { readJob } from '@/server/db/jobs';
import { changePiece } from '@/server/db/pieces';
import { DELETED_ROUNDS, deleteJob, purge } from '@/server/db/deleting';
import { claimTask } from '@/server/db/tasks';
import { removeFilesOf } from '@/server/files/sweep';
import { store } from '@/server/files/store';
import { treatedPath } from '@/server/files/treated';
import { endThreads } from '@/server/render/threads';
import { doTask } from '@/server/tasks/task-process';
import { requestRun } from '@/server/tasks/request-run';
import { buildPdf, jpegObject } from '@/server/testing/pdf';
import { openTestShop, testPixels, type TestShop } from '@/server/testing/shop';
import * as drawn from './originals/[digest]/pages/[page]/drawn/route';
import * as pictures from './originals/[digest]/pages/[page]/pictures/[picture]/route';
import * as treated from './originals/[digest]/pages/[page]/treated/route';
import { at, begin, call, HOST } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(async () => {
  await Promise.all([endThreads(), endPictureProcesses()]);
  await shop.close();
});

let made = 0;
/** A page of 300 x 200 points with a JPEG of 120 x 80 pixels on 120 x 80 points, in a frame. */
async function pagePdf(more = ''): Promise<Buffer> {
  const jpeg = await testPixels(120, 80)
    .jpeg({ quality: 60 - ++made })
    .toBuffer();
  const content = `0.8 0.9 1 rg 0 0 300 200 re f q 120 0 0 80 40.3 60.6 cm /P Do Q ${more}`;
  const page = { width: 300, height: 200, content, resources: '/XObject<</P 1 0 R>>' };
  return buildPdf([page], [jpegObject(jpeg, 120, 80)]);
}

const begun = async (more?: string): Promise<JobView> => begin(await pagePdf(more), 'page.pdf');

const placedOf = ({ digest, findings, takenOut, work }: Piece): PlacedRecipe[] => {
  const original = originalOf(digest, findings, takenOut);
  const resolved = resolveRecipe(original, work, work.trials[0]!);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe.original.drawn!.placed;
};

describe('a picture on a page of shapes', () => {
  it('is taken out when its page is ordered, and proposed for', async () => {
    const { piece } = await begun();
    expect(piece.takenOut).toHaveLength(1);
    expect(piece.takenOut[0]!.findings).toMatchObject({ width: 120, height: 80, format: 'jpeg' });
    const [own] = piece.work.trials[0]!.placed;
    expect(own).toMatchObject({ page: 1, picture: 1, on: true });
    expect(own!.treatment.some(({ kind, on }) => on && /compression|restore/.test(kind))).toBe(
      true,
    );
    const [{ recipe, place }] = placedOf(piece) as [PlacedRecipe];
    const { width, height } = piece.findings;
    const whole = resolveRecipe(originalOf('', piece.findings), piece.work, piece.work.trials[0]!);
    if (!whole.ok) throw new Error(whole.reason);
    const { source, picture } = whole.plan;
    const spot = spotOn(place, { width, height }, { source, turn: 0 }, picture);
    expect(recipe.target).toMatchObject(spot.pixels);
  });

  it('looks on the stage and in the file exactly as it does alone', async () => {
    const { piece } = await begun('q 1 0 0 RG 20 20 m 250 180 l S Q');
    const placed = placedOf(piece);
    const [{ recipe, place }] = placed as [PlacedRecipe];
    const file = await treatedPath(shop.db, recipe);
    const alone = await sharp(file).raw().toBuffer();

    await requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'a' });
    const task = await claimTask(shop.db, 'test');
    await doTask(shop.db, task!, 'test', new AbortController().signal);
    const { runs } = await readJob(shop.db, piece.jobId, piece.id);
    const run = Run.parse(runs[0]);
    expect(run).toMatchObject({ state: 'done', error: null });
    const { data, info } = await sharp(store.result(run.id))
      .raw()
      .toBuffer({ resolveWithObject: true });

    const { source } = run.payload.recipe.original.drawn!;
    const grid = { width: piece.findings.width, height: piece.findings.height };
    const { at: spot } = spotOn(place, grid, { source, turn: 0 }, info);
    // The red line lies over it; left of that and above, the picture alone shows.
    let off = 0;
    for (let y = 2; y < spot!.height / 3; y++) {
      for (let x = 2; x < spot!.width / 3; x++) {
        const i = ((spot!.y + y) * info.width + spot!.x + x) * 3;
        const from = (y * spot!.width + x) * 3;
        if (data.compare(alone, from, from + 3, i, i + 3) !== 0) off++;
      }
    }
    expect(off).toBe(0);

    const named = await treated.POST(
      call('POST', { placed }),
      at({ digest: piece.digest, page: '1' }),
    );
    const { name } = (await named.json()) as { name: string };
    const column = Math.floor(spot!.x / TILE);
    const row = Math.floor(spot!.y / TILE);
    const { x, y, width: w, height: h } = source;
    const asked = { width: info.width, height: info.height, x, y, w, h, turn: 0, channels: 3 };
    const words = new URLSearchParams(
      Object.entries({ ...asked, column, row, treated: name }).map(([key, value]) => [
        key,
        String(value),
      ]),
    );
    const tile = await drawn.GET(
      new Request(`http://${HOST}/?${words}`, { headers: { host: HOST } }),
      at({ digest: piece.digest, page: '1' }),
    );
    const samples = Buffer.from(await tile.arrayBuffer());
    const tileWidth = Math.min(TILE, info.width - column * TILE);
    const tileHeight = Math.min(TILE, info.height - row * TILE);
    expect(samples.length).toBe(tileWidth * tileHeight * 3);
    for (let v = 0; v < tileHeight; v++) {
      const there = ((row * TILE + v) * info.width + column * TILE) * 3;
      const line = data.subarray(there, there + tileWidth * 3);
      expect(line.equals(samples.subarray(v * tileWidth * 3, (v + 1) * tileWidth * 3))).toBe(true);
    }
  });

  it('is drawn as it came where its treatment is switched off', async () => {
    const { piece } = await begun();
    const work = structuredClone(piece.work);
    work.trials[0]!.placed[0]!.on = false;
    const patch = patchBetween(piece.work, work);
    const { revision } = piece;
    const changed = await changePiece(shop.db, piece.id, { revision, label: 'off', patch });
    expect(placedOf(changed)).toEqual([]);
  });

  it('is made once, however many ask, and given up by the last who waits', async () => {
    const { piece } = await begun();
    const [{ recipe }] = placedOf(piece) as [PlacedRecipe];
    const giveUp = new AbortController();
    const one = treatedPath(shop.db, recipe, giveUp.signal);
    const other = treatedPath(shop.db, recipe);
    giveUp.abort(new Error('not wanted'));
    await expect(one).rejects.toThrow('not wanted');
    const path = await other;
    expect(await treatedPath(shop.db, recipe)).toBe(path);
    const larger = structuredClone(recipe);
    larger.target.ppi = 155;
    const stop = new AbortController();
    const alone = treatedPath(shop.db, larger, stop.signal);
    stop.abort(new Error('nobody waits'));
    await expect(alone).rejects.toThrow('nobody waits');
    // Whoever asks right afterwards gets it all the same.
    expect(await treatedPath(shop.db, larger)).toMatch(/\.tif$/);
  });

  it('is taken out by hand, once, and what there is not is said', async () => {
    const { piece } = await begun();
    const page = { digest: piece.digest, page: '1' };
    const again = await pictures.POST(call('POST'), at({ ...page, picture: '1' }));
    expect(await again.json()).toMatchObject({ digest: piece.takenOut[0]!.digest, picture: 1 });
    const none = await pictures.POST(call('POST'), at({ ...page, picture: '7' }));
    expect(none.status).toBe(404);
    expect(((await none.json()) as { message: string }).message).toMatch(/no picture 7/);
  });

  it('of another page, and what nobody named, is refused', async () => {
    const [{ piece }, other] = [await begun(), await begun()];
    const foreign = { placed: placedOf(other.piece) };
    const refused = await treated.POST(
      call('POST', foreign),
      at({ digest: piece.digest, page: '1' }),
    );
    expect(refused.status).toBe(404);
    const [own] = placedOf(piece) as [PlacedRecipe];
    const stretched = structuredClone(own);
    stretched.recipe.original.width += 100;
    const wrong = await treated.POST(
      call('POST', { placed: [stretched] }),
      at({ digest: piece.digest, page: '1' }),
    );
    expect(wrong.status).toBe(400);
    const words = `width=100&height=100&x=0&y=0&w=300&h=200&turn=0&channels=3&column=0&row=0&treated=${'a'.repeat(64)}`;
    const unknown = await drawn.GET(
      new Request(`http://${HOST}/?${words}`, { headers: { host: HOST } }),
      at({ digest: piece.digest, page: '1' }),
    );
    expect(unknown.status).toBe(404);
  });

  it('stays as long as its document does, and goes with it', async () => {
    const { piece, id } = await begun();
    const { digest } = piece.takenOut[0]!;
    await purge(shop.db, 2 * DELETED_ROUNDS * 10);
    expect(await shop.db('originals').where({ digest }).first()).toBeTruthy();
    await deleteJob(shop.db, id);
    const purged = await purge(shop.db, DELETED_ROUNDS + 1);
    expect(new Set(purged.originals)).toEqual(new Set([piece.digest, digest]));
    await removeFilesOf(shop.db, purged.originals, purged.results);
    await expect(access(store.original(digest))).rejects.toThrow();
    expect(await shop.db('taken_out').where({ parent: piece.digest })).toEqual([]);
  });
});
