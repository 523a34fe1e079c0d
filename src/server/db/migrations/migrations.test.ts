import { RECIPE_VERSION } from '@/core/recipe/versions';
import { FINDINGS_VERSION } from '@/core/inspect/findings';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import knex from 'knex';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { digestOfFile } from '../../files/digest';
import { makeFolderOf, store } from '../../files/store';
import { endPictureProcesses } from '../../codecs/pictures';
import { testJpeg } from '../../testing/shop';
import { openDatabase } from '../connection';
import { Run } from '@/core/shop/task';
import { BoardQuery } from '@/core/shop/board';
import { readBoard } from '../board';
import { readJob } from '../jobs';
import { artifactPath, readTask } from '../tasks';
import { shop } from './0001-shop';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-migrations-'));
  process.env.LONTANO_DATA = folder;
});
afterAll(async () => {
  await endPictureProcesses();
  await rm(folder, { recursive: true, force: true });
});

/** What the first version of the application wrote of a job. */
async function firstShop(file: string, digest: string): Promise<void> {
  const db = knex({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
  });
  await db.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve([shop]),
      getMigrationName: () => shop.name,
      getMigration: () => Promise.resolve({ up: shop.up, down: () => Promise.resolve() }),
    },
  });
  const findings = {
    ...{ width: 96, height: 64, megapixels: 0.006, bytes: 900, format: 'jpeg', ppi: null },
    ...{ bitDepth: 8, channels: 3, alpha: false, profile: null, orientation: 1, jpeg: null },
    ...{ blocking: { ratio: 1.2 }, notes: [] },
  };
  const paper = { width: { value: 12, unit: 'cm' }, height: null, fit: 'crop' };
  const enlargement = { kind: 'enlarge', strength: 100 };
  const output = { format: 'tiff', quality: 95, depth: 8 };
  const work = {
    ...{ version: 1, paper, distance: 2 },
    trials: [
      {
        ...{ id: 'a', name: 'Trial A', ppi: 160, output },
        treatment: [{ ...enlargement, on: true, settings: { method: 'bicubic' } }],
      },
    ],
  };
  const recipe = {
    ...{ version: 1, core: '1', output, original: { digest, width: 96, height: 64 } },
    target: { width: 756, height: 504, ppi: 160, fit: 'crop' },
    steps: [
      {
        ...enlargement,
        numbers: {
          ...{ method: 'bicubic', width: 756, height: 504 },
          source: { x: 0, y: 0, width: 96, height: 64 },
        },
      },
    ],
  };
  const json = JSON.stringify;
  const profile = Buffer.from('a profile');
  await db('originals').insert({
    digest,
    name: 'p.jpg',
    findings: json(findings),
    profile,
    taken_in_at: 1,
  });
  await db('jobs').insert({
    number: '0401',
    title: 'Old',
    customer: '',
    state: 'proofed',
    created_at: 1,
  });
  await db('pieces').insert({
    job_id: 1,
    digest,
    file_name: 'p.jpg',
    reasons: '[]',
    revision: 3,
    current: 1,
    tip: 1,
  });
  await db('changes').insert({
    piece_id: 1,
    parent: null,
    label: 'First',
    work: json(work),
    at: 1,
  });
  await db('runs').insert({
    ...{
      id: 'run-1-of-old',
      piece_id: 1,
      trial_id: 'a',
      trial_name: 'Trial A',
      file_name: 'p.tif',
    },
    ...{ recipe: json(recipe), state: 'done', queued_at: 1, changed_at: 1 },
    result: json({
      ...{ fileName: 'p.tif', bytes: 99, width: 756, height: 504, ppi: { x: 160, y: 160 } },
      ...{ profile: null, seconds: 1.5 },
    }),
  });
  await db.destroy();
}

it('a shop of the first version keeps its jobs, changes and runs', async () => {
  const picture = join(folder, 'p.jpg');
  await writeFile(picture, await testJpeg(96, 64));
  const digest = await digestOfFile(picture);
  await writeFile(await makeFolderOf(store.original(digest)), await testJpeg(96, 64));
  const file = join(folder, 'lontano.sqlite');
  await firstShop(file, digest);

  const db = await openDatabase(file);
  expect(await readBoard(db, BoardQuery.parse({}))).toMatchObject({
    rows: [{ number: '0401', title: 'Old', archived: false, pieces: 1, facts: { page: 1 } }],
    total: 1,
    states: { proofed: 1 },
  });
  const { piece, runs } = await readJob(db, 1);
  expect(piece).toMatchObject({
    revision: 3,
    history: [{ label: 'First' }],
    // Looked at again, since findings have grown.
    findings: { version: FINDINGS_VERSION, width: 96, kind: expect.any(String) },
    work: {
      version: RECIPE_VERSION,
      zones: [],
      distance: 2,
      framing: { page: 1, turn: 0, crop: null },
      paper: { width: { value: 12, unit: 'cm' }, fit: 'crop', bleed: { mm: 0 } },
      trials: [{ ppi: 160, pixels: 'new', output: { alpha: 'paper' } }],
    },
  });
  expect(runs).toMatchObject([
    {
      kind: 'render',
      result: { width: 756, seconds: 1.5 },
      artifacts: [{ role: 'result', fileName: 'p.tif', bytes: 99, digest: null }],
    },
  ]);
  expect(await artifactPath(db, 'run-1-of-old', 'result')).toBe('results/run-1-of-old');
  expect(Run.parse(await readTask(db, 'run-1-of-old')).payload.recipe).toMatchObject({
    version: RECIPE_VERSION,
    core: '1',
    original: { page: 1, drawn: null },
    alpha: 'none',
    steps: [{ kind: 'resample', numbers: { turn: 0, straighten: 0 } }],
  });
  await db.destroy();
});
