import { execFile, fork } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import {
  mkdir,
  mkdtemp,
  readdir,
  readFile,
  rm,
  stat,
  symlink,
  truncate,
  utimes,
  writeFile,
} from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { BackupRequest } from '@/core/shop/backups';
import { Storage } from '@/core/shop/storage';
import { testPaper } from '@/core/testing';
import { emptyMask, maskBytes } from '@/core/zone/mask';
import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { cancelBackup } from '../db/backups';
import { openDatabase } from '../db/connection';
import { beginJob, changeJob, readJob } from '../db/jobs';
import { claimTask, readTask } from '../db/tasks';
import { keepMask } from '../files/masks';
import { store } from '../files/store';
import { takeIn } from '../files/take-in';
import { entryOf } from '../entry';
import { requestRun } from '../tasks/request-run';
import { runAgain } from '../tasks/run-again';
import { doTask } from '../tasks/task-process';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { MANIFEST, type Manifest } from './manifest';
import { checkBackup, restoreBackup } from './restore-backup';
import { backupsOf, beginBackup } from './works';
import { writeBackup } from './write-backup';

let shop: TestShop;
let folder: string;
let archive: string;
let digests: string[];

const run = (...words: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(process.execPath, ['bin/lontano.mjs', ...words], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

/** A job with a picture, and its finished run. */
async function made(width: number): Promise<{ job: number; digest: string; task: string }> {
  const { digest, fileName } = await takeIn(
    shop.db,
    streamOf(await testJpeg(width, 40)),
    `${width}.jpg`,
  );
  const job = await beginJob(shop.db, {
    ...{
      title: `Job ${width}`,
      customer: '',
      due: null,
      distance: 2,
      device: null,
      material: null,
    },
    pictures: [{ digest, fileName, page: 1 }],
    paper: testPaper({ width: { value: 8, unit: 'cm' } }),
  });
  const { piece } = await readJob(shop.db, job);
  const { id } = await requestRun(shop.db, piece.id, { revision: 0, trialId: 'a' });
  await doTask(shop.db, (await claimTask(shop.db, 'me'))!, 'me');
  const [file] = (await readTask(shop.db, id)).artifacts;
  return { job, digest: file!.digest!, task: id };
}

beforeAll(async () => {
  shop = await openTestShop();
  folder = await mkdtemp(join(tmpdir(), 'lontano-backup-test-'));
  archive = join(folder, 'shop.zip');
  const approved = await made(60);
  const other = await made(70);
  await changeJob(shop.db, approved.job, { state: 'approved' });
  digests = [approved.digest, other.digest];
  const mask = maskBytes(emptyMask({ width: 60, height: 40 }));
  const digest = createHash('sha256').update(mask).digest('hex');
  await keepMask(store.masks(), { digest, width: 60, height: 40 }, gzipSync(mask));
  await writeFile(join(shop.folder, 'words.json'), '{}');
  await writeBackup(shop.folder, archive);
});
afterAll(async () => {
  await shop.close();
  await rm(folder, { recursive: true, force: true });
});

let restores = 0;
const anew = () => join(folder, `restored ${++restores}`);
const refusal = (path: string, to = anew()) =>
  restoreBackup(path, to).then(
    () => 'restored',
    (error: Error) => error.message,
  );

/** The archive's files, to be put into another one otherwise. */
async function contents(): Promise<Map<string, Buffer>> {
  const zip = await yauzl.openPromise(archive, { lazyEntries: true, autoClose: false });
  const found = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) {
    const parts: Buffer[] = [];
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    found.set(entry.fileName, Buffer.concat(parts));
  }
  zip.close();
  return found;
}

/** Another archive, after something was done to what is in it. */
async function another(
  change: (files: Map<string, Buffer>, manifest: Manifest) => void,
  options: (name: string) => Partial<yazl.Options> = () => ({}),
): Promise<string> {
  const files = await contents();
  const manifest = JSON.parse(files.get(MANIFEST)!.toString()) as Manifest;
  change(files, manifest);
  if (files.has(MANIFEST)) files.set(MANIFEST, Buffer.from(JSON.stringify(manifest)));
  const zip = new yazl.ZipFile();
  for (const [name, bytes] of files) zip.addBuffer(bytes, name, options(name));
  zip.end();
  const path = join(folder, `other ${restores}.zip`);
  await pipeline(zip.outputStream, createWriteStream(path));
  return path;
}

describe('a backup', () => {
  it('holds all that can’t be made again, and says so of the rest', async () => {
    const names = [...(await contents()).keys()];
    expect(names[0]).toBe('lontano.sqlite');
    expect(names.at(-1)).toBe(MANIFEST);
    const kinds = names.map((name) => name.split('/')[0]);
    expect(kinds.filter((kind) => kind === 'originals')).toHaveLength(2);
    expect(kinds.filter((kind) => kind === 'masks')).toHaveLength(1);
    expect(kinds.filter((kind) => kind === 'results')).toHaveLength(1);
    expect(kinds).toContain('words.json');
    const all = join(folder, 'all.zip');
    const whole = await writeBackup(shop.folder, all, { results: 'all' });
    expect(whole).toMatchObject({ entries: names.length, leftOut: 0 });
    // Nobody else reads it.
    expect((await stat(archive)).mode & 0o077).toBe(0);
    expect((await readdir(folder)).filter((name) => name.startsWith('.'))).toEqual([]);
  });

  it('is restored into an empty folder, where the same runs give the same bytes', async () => {
    const to = anew();
    const { entries } = await restoreBackup(archive, to);
    expect(entries).toBeGreaterThan(4);
    const db = new Database(join(to, 'lontano.sqlite'));
    const files = db.prepare('select path, digest, gone_at from artifacts order by rowid').all();
    expect(files).toMatchObject([
      { digest: digests[0], gone_at: null },
      { digest: digests[1], gone_at: expect.any(Number) },
    ]);
    db.close();
    // All is as its records say, and what was left out is made again to the same bytes.
    const audit = await run('audit', to, '--json');
    expect(JSON.parse(audit.out)).toMatchObject({ found: [] });
    const before = process.env.LONTANO_DATA;
    process.env.LONTANO_DATA = to;
    const restored = await openDatabase(join(to, 'lontano.sqlite'));
    const again: string[] = [];
    try {
      const tasks: string[] = await restored('tasks').orderBy('rank').pluck('id');
      for (const id of tasks) again.push((await runAgain(restored, id)).id);
    } finally {
      process.env.LONTANO_DATA = before;
    }
    const child = fork(entryOf('server/tasks/task-process'), {
      env: { ...process.env, LONTANO_DATA: to },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const states = () => restored('tasks').whereIn('id', again).pluck('state');
    await expect.poll(states, { timeout: 60_000 }).toEqual(['done', 'done']);
    const made = await restored('artifacts').whereIn('task_id', again).pluck('digest');
    expect(made.sort()).toEqual([...digests].sort());
    child.kill('SIGTERM');
    await restored.destroy();
  }, 120_000);

  it('is made while somebody writes, and is whole', async () => {
    let going = true;
    const writing = (async () => {
      for (let i = 0; going; i++) {
        await shop.db('jobs').update({ customer: `c${i}` });
        await new Promise((resolve) => setTimeout(resolve, 1));
      }
    })();
    const path = join(folder, 'busy.zip');
    await writeBackup(shop.folder, path);
    going = false;
    await writing;
    expect(await refusal(path)).toBe('restored');
  });

  it('is refused where an original is damaged or gone, and leaves nothing behind', async () => {
    const [digest] = await shop.db('originals').pluck('digest');
    const original = store.original(digest);
    const bytes = await readFile(original);
    const path = join(folder, 'damaged.zip');
    await writeFile(original, 'other bytes');
    await expect(writeBackup(shop.folder, path)).rejects.toThrow(/is damaged/);
    await rm(original);
    await expect(writeBackup(shop.folder, path)).rejects.toThrow(/is not there/);
    await writeFile(original, bytes);
    expect((await readdir(folder)).filter((name) => /damaged|^\./.test(name))).toEqual([]);
  });
});

describe('an archive that is not as it should be', () => {
  it('is refused in words, and nothing is restored', async () => {
    const original = 'originals/';
    const of = (files: Map<string, Buffer>) =>
      [...files.keys()].find((name) => name.startsWith(original))!;
    const cases: [string, () => Promise<string>, RegExp][] = [
      ['cut off', async () => cutOff(), /damaged: it is no ZIP/],
      ['no ZIP', async () => text('hello'), /damaged: it is no ZIP/],
      ['no manifest', () => another((files) => void files.delete(MANIFEST)), /no manifest/],
      [
        'other bytes',
        () =>
          another((files) => void files.set(of(files), Buffer.alloc(files.get(of(files))!.length))),
        /is not what it was/,
      ],
      ['a file less', () => another((files) => void files.delete(of(files))), /is missing/],
      [
        'a file more',
        () =>
          another((files) => void files.set('originals/../x', Buffer.from('x'))).catch(() =>
            text(''),
          ),
        /no ZIP|none of a shop/,
      ],
      [
        'an unlisted file',
        () => another((files) => void files.set('extra.sh', Buffer.from('x'))),
        /extra\.sh is not in its manifest/,
      ],
      [
        'a path that leads out',
        () => another((_, manifest) => void (manifest.entries[1]!.name = '../../etc/passwd')),
        /\.\.\/\.\.\/etc\/passwd is no file of a shop/,
      ],
      [
        'a link',
        () =>
          another(
            () => {},
            (name) => (name.startsWith(original) ? { mode: 0o120777 } : {}),
          ),
        /is a link/,
      ],
      [
        'a size that is not true',
        () => another((_, manifest) => void (manifest.entries[1]!.bytes += 1)),
        /another size/,
      ],
      [
        'more than fits',
        () =>
          another((files, manifest) => {
            manifest.entries.push({
              name: `originals/ff/${'f'.repeat(64)}`,
              ...{ bytes: 9e15, digest: 'f'.repeat(64) },
            });
            files.set(`originals/ff/${'f'.repeat(64)}`, Buffer.from(''));
          }),
        /another size|MB/,
      ],
      [
        'a later version',
        () => another((files, manifest) => laterVersion(files, manifest)),
        /later version of Lontano/,
      ],
      ['no such file', async () => join(folder, 'nowhere.zip'), /There is no file/],
    ];
    for (const [what, make, why] of cases) {
      const to = anew();
      expect(await refusal(await make(), to), what).toMatch(why);
      expect(await stat(to).catch(() => null), what).toBeNull();
    }
    expect((await readdir(folder)).filter((name) => name.startsWith('.'))).toEqual([]);
  }, 60_000);

  it('is not restored over anything', async () => {
    const to = anew();
    await mkdir(to);
    await writeFile(join(to, 'mine'), 'mine');
    expect(await refusal(archive, to)).toMatch(/is not empty/);
    expect(await readdir(to)).toEqual(['mine']);
  });

  async function text(words: string): Promise<string> {
    const path = join(folder, 'text.zip');
    await writeFile(path, words);
    return path;
  }
  async function cutOff(): Promise<string> {
    const path = join(folder, 'cut.zip');
    await writeFile(path, await readFile(archive));
    await truncate(path, 5000);
    return path;
  }
  function laterVersion(files: Map<string, Buffer>, manifest: Manifest): void {
    const db = new Database(files.get('lontano.sqlite')!);
    db.prepare(
      "insert into knex_migrations (name, batch, migration_time) values ('9999-later', 9, 0)",
    ).run();
    const bytes = db.serialize();
    db.close();
    files.set('lontano.sqlite', bytes);
    const entry = manifest.entries.find(({ name }) => name === 'lontano.sqlite')!;
    entry.bytes = bytes.length;
    entry.digest = createHash('sha256').update(bytes).digest('hex');
  }
});

describe('a check of an archive', () => {
  const how = { told: () => {}, signal: new AbortController().signal };

  it('reads all of it and keeps nothing; what is damaged is said as in restoring', async () => {
    const shares: number[] = [];
    const checks = async () =>
      (await readdir(tmpdir())).filter((name) => name.startsWith('lontano-check-'));
    const before = new Set(await checks());
    const found = await checkBackup(archive, { ...how, told: (share) => shares.push(share) });
    expect(found.entries).toBeGreaterThan(4);
    expect(shares.at(-1)).toBe(1);
    const other = await another((files) => {
      const name = [...files.keys()].find((one) => one.startsWith('originals/'))!;
      files.set(name, Buffer.alloc(files.get(name)!.length));
    });
    await expect(checkBackup(other, how)).rejects.toThrow(/is not what it was/);
    await expect(
      checkBackup(archive, { ...how, signal: AbortSignal.abort(new Error('given up')) }),
    ).rejects.toThrow('given up');
    expect((await checks()).filter((name) => !before.has(name))).toEqual([]);
  });
});

describe('a backup that is given up', () => {
  it('leaves nothing, and what one left that was killed goes with the next', async () => {
    const to = join(folder, 'given up');
    const stale = join(to, '.lontano-backup-old');
    await mkdir(stale, { recursive: true });
    await writeFile(join(stale, 'part.zip'), 'half');
    const long = new Date(Date.now() - 3_600_000);
    for (const path of [join(stale, 'part.zip'), stale]) await utimes(path, long, long);
    await mkdir(join(to, '.lontano-backup-new'));
    const stop = new AbortController();
    const told = (share: number) => share > 0.2 && stop.abort(new Error('given up'));
    await expect(
      writeBackup(shop.folder, join(to, 'a.zip'), { told, signal: stop.signal }),
    ).rejects.toThrow();
    // One that may still be written stays.
    expect(await readdir(to)).toEqual(['.lontano-backup-new']);
  });
});

describe('backups from the screen', () => {
  const named = () => join(folder, 'archive disk');
  const about = () => backupsOf(shop.db);
  const ask = (request: unknown) =>
    beginBackup(shop.db, BackupRequest.parse(request)).then(
      () => 'begun',
      (error: Error) => error.message,
    );
  const write = { kind: 'write', folder: 'Archive disk', allResults: false };
  const first = async () => (await about()).works[0]!;

  beforeAll(async () => {
    await writeFile(
      join(shop.folder, 'folders.json'),
      JSON.stringify({ backups: [{ name: 'Archive disk', path: named() }] }),
    );
  });

  it('are written into a folder that the configuration names, one at a time, and compared', async () => {
    expect(await about()).toEqual({
      folders: [{ name: 'Archive disk', archives: [], trouble: null }],
      works: [],
    });
    const both = await Promise.all([ask(write), ask(write)]);
    expect(both.sort()).toEqual([expect.stringMatching(/^Another backup goes on/), 'begun']);
    await expect.poll(first, { timeout: 30_000 }).toMatchObject({ state: 'done', progress: 1 });
    expect((await first()).words).toMatch(/1 results are in it by their recipes/);
    const { archives } = (await about()).folders[0]!;
    expect(archives).toHaveLength(1);
    const { file } = archives[0]!;
    const to = anew();
    await restoreBackup(join(named(), file), to);
    const restored = new Database(join(to, 'lontano.sqlite'));
    expect(restored.prepare('select state, words from backups').all()).toEqual([
      { state: 'done', words: 'The shop was restored from this archive.' },
    ]);
    restored.close();

    await ask({ kind: 'check', folder: 'Archive disk', file });
    await expect.poll(first, { timeout: 30_000 }).toMatchObject({ kind: 'check', state: 'done' });
    expect((await first()).words).toMatch(/^Whole: \d+ files/);
    await truncate(join(named(), file), 4000);
    await ask({ kind: 'check', folder: 'Archive disk', file });
    await expect.poll(first, { timeout: 30_000 }).toMatchObject({ state: 'failed' });
    expect((await first()).words).toMatch(/The archive is damaged/);
  }, 120_000);

  it('reach no file but those that the folder lists, and no folder but those that are named', async () => {
    await symlink(archive, join(named(), 'link.zip'));
    for (const file of ['link.zip', '../shop.zip', '/etc/passwd', 'nothing.zip']) {
      const answer = await ask({ kind: 'check', folder: 'Archive disk', file });
      expect(answer, file).toMatch(/no such archive/);
    }
    expect(await ask({ ...write, folder: '/tmp' })).toMatch(/names no folder of backups “\/tmp”/);
    expect((await about()).folders[0]!.archives.map(({ file }) => file)).not.toContain('link.zip');
  });

  /** A row of one that nobody does any more, whose last word lies so far from now. */
  const silent = (file: string, beat: number) =>
    shop.db('backups').insert({
      ...{ kind: 'write', folder: 'Archive disk', file, state: 'running' },
      ...{ began_at: Date.now() - 60_000, beat_at: Date.now() + beat },
    });

  it('are whole where they have their name, though what wrote one was killed before it said so', async () => {
    await writeFile(join(named(), 'whole.zip'), Buffer.alloc(2000));
    await silent('whole.zip', -60_000);
    expect(await first()).toMatchObject({ file: 'whole.zip', state: 'done', progress: 1 });
    expect((await first()).words).toMatch(/^2\.0 kB\. It is whole/);
    await rm(join(named(), 'whole.zip'));
  });

  it('that are cancelled leave nothing, and one that was killed says so', async () => {
    const before = (await about()).folders[0]!.archives.length;
    await ask(write);
    const { id } = await first();
    await cancelBackup(shop.db, id);
    expect(await first()).toMatchObject({ id, state: 'cancelled' });
    await expect(cancelBackup(shop.db, id)).rejects.toThrow(/over already/);
    // Silent for a minute, and by a clock that was set back since.
    for (const beat of [-60_000, 3_600_000]) {
      await silent('x.zip', beat);
      expect(await first()).toMatchObject({ file: 'x.zip', state: 'failed' });
      expect((await first()).words).toMatch(/was ended before it was done/);
    }
    const listed = async () =>
      (await readdir(named())).filter((name) => name.startsWith('.')).length;
    await expect.poll(listed, { timeout: 10_000 }).toBe(0);
    expect((await about()).folders[0]!.archives.length).toBe(before);
  }, 60_000);
});

describe('the terminal', () => {
  it('backs a shop up, restores it, and says what takes how much', async () => {
    const zip = join(folder, 'by hand.zip');
    const backup = await run('backup', zip, '--data', shop.folder);
    expect(backup).toMatchObject({ code: 0 });
    expect(backup.out).toMatch(/by hand\.zip: \d+ files, .*1 results are in it by their recipes/);
    const to = anew();
    expect((await run('restore', zip, to)).out).toMatch(/the shop as it was on \d{4}-/);
    expect(await run('restore', zip, to)).toMatchObject({ code: 2 });
    const { out } = await run('storage', to, '--json');
    const { entries } = Storage.parse(JSON.parse(out));
    const files = Object.fromEntries(entries.map(({ kind, files: count }) => [kind, count]));
    expect(files).toMatchObject({ originals: 2, 'painted masks': 1, 'results that are needed': 1 });
    expect((await run('storage', to)).out).toMatch(/originals .* 2 files {2}may go: a day after/);
    expect(await run('backup', zip, '--data', join(folder, 'nowhere'))).toMatchObject({ code: 3 });
  }, 60_000);
});
