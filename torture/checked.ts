import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { Audit } from '../src/core/shop/audit';
import { canonicalJson } from '../src/core/recipe/canonical';
import { checkBatches } from './batches';
import type { Archives } from './archives';
import type { HotFolder } from './dropped';
import type { Ledger } from './ledger';
import { checkPrints } from './print-shop';

/** Runs of a closed shop that are done: what they made, by what they were to make (a recipe and facts, as JSON). */
export type Results = Map<string, { pieceId: number; trialId: string; digests: Set<string> }>;

/**
 * Compares a closed shop with what it said that it kept, and with itself.
 * @param restored a folder that an archive is restored into
 * @returns what is wrong, and the results by their recipes
 */
export function check(
  data: string,
  ledger: Ledger,
  { hot, archives }: { hot: HotFolder; archives: Archives },
  restored: string,
): { wrong: string[]; results: Results; printed: number; archived: number } {
  const wrong: string[] = [];
  const audit = Audit.parse(
    JSON.parse(
      outputOf(process.execPath, ['bin/lontano.mjs', 'audit', data, '--json', '--grace', '0']),
    ),
  );
  for (const { about, words } of audit.found) {
    // What was painted is named by a change that comes a moment later, or never where that was refused.
    if (!about.startsWith('masks/')) wrong.push(`audit: ${about}: ${words}`);
  }

  const db = new Database(join(data, 'lontano.sqlite'), { readonly: true });
  const column = (query: string) => db.prepare(query).pluck().all() as unknown[];
  const originals = new Set(column('select digest from originals'));
  for (const digest of ledger.originals) {
    if (!originals.has(digest)) wrong.push(`the original ${digest} is lost`);
  }
  const jobs = new Map(
    (db.prepare('select id, title, deleted_at from jobs').all() as JobRow[]).map((job) => [
      job.id,
      job,
    ]),
  );
  for (const [id, title] of ledger.jobs) {
    const job = jobs.get(id);
    if (!job || job.title !== title) wrong.push(`job ${id}, ${title}, is lost`);
    else if (job.deleted_at && !ledger.deleted.has(id)) wrong.push(`job ${id} is not on the board`);
  }
  const labels = column('select label from changes');
  const titles = [...jobs.values()].map(({ title }) => title);
  const times = new Map<unknown, number>();
  for (const one of [...labels, ...titles]) times.set(one, (times.get(one) ?? 0) + 1);
  for (const one of ledger.sent) {
    if ((times.get(one) ?? 0) > 1) wrong.push(`${one} is there ${times.get(one)} times`);
  }
  for (const [piece, kept] of ledger.changes) {
    const there = new Set(
      db.prepare('select label from changes where piece_id = ?').pluck().all(piece),
    );
    for (const label of kept) if (!there.has(label)) wrong.push(`${label} is lost`);
  }
  const states = new Map(
    (db.prepare('select id, state, error from tasks').all() as TaskRow[]).map((task) => [
      task.id,
      task,
    ]),
  );
  for (const id of ledger.runs) {
    const task = states.get(id);
    if (!task) wrong.push(`the run ${id} is lost`);
    else if (task.state === 'failed' && !/disk/i.test(task.error ?? '')) {
      wrong.push(`the run ${id} failed: ${task.error}`);
    } else if (task.state === 'queued' || task.state === 'running') {
      wrong.push(`the run ${id} did not end`);
    }
  }
  const results: Results = new Map();
  const made = db
    .prepare(
      `select piece_id, payload, digest from tasks join artifacts on task_id = tasks.id where state = 'done' and kind = 'render'`,
    )
    .all() as { piece_id: number; payload: string; digest: string }[];
  for (const { piece_id: pieceId, payload, digest } of made) {
    const { recipe, facts, trialId } = JSON.parse(payload) as Made;
    // What a file says of its order is part of its bytes.
    const key = canonicalJson({ recipe, facts });
    const known = results.get(key) ?? { pieceId, trialId, digests: new Set<string>() };
    known.digests.add(digest);
    results.set(key, known);
  }
  for (const { pieceId, digests } of results.values()) {
    if (digests.size > 1) wrong.push(`equal runs of picture ${pieceId} have other bytes`);
  }
  wrong.push(...checkBatches(db, ledger), ...hot.check(db));
  const prints = checkPrints(data, db, ledger);
  wrong.push(...prints.wrong);
  const backups = archives.check(db, restored);
  wrong.push(...backups.wrong);
  db.close();
  return { wrong, results, printed: prints.printed, archived: backups.written };
}

/** How what is on its way to devices stands, while the shop is open. */
export function openSendings(data: string): unknown[] {
  const db = new Database(join(data, 'lontano.sqlite'), { readonly: true });
  try {
    return db
      .prepare('select key, state, progress, spoilt, words from sendings where finished_at is null')
      .all();
  } finally {
    db.close();
  }
}

/** What is compared of a run: what it was to make, and of which trial. */
interface Made {
  recipe: unknown;
  facts: unknown;
  trialId: string;
}

interface JobRow {
  id: number;
  title: string;
  deleted_at: number | null;
}
interface TaskRow {
  id: string;
  state: string;
  error: string | null;
}

/** What a command says; one that found something ends with an error, and says what it found. */
function outputOf(command: string, words: string[]): string {
  try {
    return execFileSync(command, words, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] });
  } catch (error) {
    return (error as { stdout: string }).stdout;
  }
}
