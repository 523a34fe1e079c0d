import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { z } from 'zod';
import { ShopDevice } from '../src/core/shop/device';
import { emptyMask, maskBytes } from '../src/core/zone/mask';
import { JobView, type Piece } from '../src/core/shop/job';
import type { Patch } from '../src/core/shop/change';
import { testPaper } from '../src/core/testing';
import type { Ledger } from './ledger';
import { goodPage, goodPicture, mutated, type Sample } from './mutants';
import { ask } from './ask';
import { onBatches } from './batches';
import { anotherOutput } from './print-shop';
import type { Random } from './random';
import { later } from './shop';

/** What somebody at a page of the shop does, one thing after the other. */
export interface Somebody {
  url: string;
  ledger: Ledger;
  random: Random;
  /** whether nobody just kills, fills or sets something: then each answer has to be in time */
  calm(): boolean;
  /** whether a full disk is a fair answer just now */
  mayBeFull(): boolean;
  over(): boolean;
  name: string;
}

/** Of so many jobs one is a page with a photograph on it, which is treated by itself. */
const PAGES = 4;

let pictures = 0;
let labels = 0;

const upload = (who: Somebody, what: string, { name, bytes }: Sample) =>
  ask(who, what, '/api/originals', 'POST', bytes, { 'x-file-name': encodeURIComponent(name) });

/** Sends files that something happened to. */
export async function sendMutants(who: Somebody, of: readonly Sample[]): Promise<number> {
  let sent = 0;
  while (!who.over()) {
    const file = mutated(of, who.random);
    const answer = await upload(who, 'a mutated file', file);
    if (!answer) await later(200);
    else {
      sent++;
      const { digest } = (answer.json ?? {}) as { digest?: string };
      if (answer.status === 200 && digest) who.ledger.originals.add(digest);
    }
  }
  return sent;
}

/** Begins jobs, changes them, undoes, runs, cancels, deletes, and looks at what is there. */
export async function work(who: Somebody): Promise<void> {
  const { random, over } = who;
  while (!over()) {
    const { ledger } = who;
    const known = [...ledger.jobs.keys()].filter((id) => !ledger.deleted.has(id));
    if (known.length < 3 || random.below(30) === 0) await beginJob(who);
    else await onJob(who, random.pick(known));
    await later(random.below(60));
  }
}

async function beginJob(who: Somebody): Promise<void> {
  const { ledger } = who;
  const number = ++pictures;
  const page = number % PAGES === 0;
  const bytes = await (page ? goodPage : goodPicture)(number);
  const digest = createHash('sha256').update(bytes).digest('hex');
  const taken = await upload(who, 'a picture', {
    name: `picture ${number}.${page ? 'pdf' : 'jpg'}`,
    bytes,
  });
  if (taken?.status !== 200) return;
  ledger.originals.add(digest);
  const title = `${who.name} job ${++labels}`;
  ledger.sent.add(title);
  const answer = await ask(who, 'begin a job', '/api/jobs', 'POST', {
    ...{ title, customer: who.name, due: null, distance: 2 },
    pictures: [{ digest, fileName: page ? 'page.pdf' : 'picture.jpg' }],
    paper: testPaper({ width: { value: 10, unit: 'cm' } }),
  });
  if (answer?.status !== 200) return;
  const { id } = JobView.parse(answer.json);
  ledger.jobs.set(id, title);
}

async function onJob(who: Somebody, id: number): Promise<void> {
  const { random, ledger } = who;
  const seen = await ask(who, 'a job', `/api/jobs/${id}`);
  if (seen?.status !== 200) return;
  const { piece, runs } = JobView.parse(seen.json);
  const choice = random.below(32);
  if (choice > 27) return onBatches(who, piece.id);
  if (choice > 25) await change(who, piece, anotherOutput(random));
  else if (choice > 23) await send(who, runs);
  else if (choice > 21) await atDevices(who);
  else if (choice > 20) await proof(who, piece);
  else if (choice < 8) await change(who, piece);
  else if (choice < 11) await move(who, piece);
  else if (choice < 12) await paint(who, piece);
  else if (choice < 14) await run(who, piece);
  else if (choice < 15) {
    const open = runs.find(({ state }) => state === 'queued' || state === 'running');
    if (open) await ask(who, 'cancel', `/api/tasks/${open.id}/cancel`, 'POST');
  } else if (choice < 17) await look(who, piece);
  else if (choice < 18 && ledger.jobs.size > 6) await remove(who, id);
  else await ask(who, 'the board', '/api/jobs?search=job');
}

async function change(who: Somebody, piece: Piece, patch?: Patch): Promise<void> {
  const { random, ledger } = who;
  const label = `${who.name} change ${++labels}`;
  ledger.sent.add(label);
  const path = '/trials/0/ppi';
  const some: Patch = [{ op: 'replace', path, value: 40 + random.below(60) }];
  const answer = await ask(who, 'change', `/api/pieces/${piece.id}/changes`, 'POST', {
    ...{ revision: piece.revision, label, patch: patch ?? some },
  });
  if (answer?.status !== 200) return;
  const kept = ledger.changes.get(piece.id) ?? new Set<string>();
  ledger.changes.set(piece.id, kept.add(label));
}

async function move(who: Somebody, piece: Piece): Promise<void> {
  const to = who.random.pick(piece.history).id;
  await ask(who, 'move', `/api/pieces/${piece.id}/moves`, 'POST', { revision: piece.revision, to });
}

/** Paints a zone and hangs a step on it. */
async function paint(who: Somebody, piece: Piece): Promise<void> {
  const size = { width: piece.findings.width, height: piece.findings.height };
  const mask = emptyMask(size);
  const start = who.random.below(size.width * size.height - 500);
  mask.ink.fill(200, start, start + 400);
  mask.cover.fill(255, start, start + 400);
  const bytes = maskBytes(mask);
  const digest = createHash('sha256').update(bytes).digest('hex');
  const { width, height } = size;
  const kept = await ask(
    who,
    'paint',
    `/api/masks/${digest}?width=${width}&height=${height}`,
    'PUT',
    gzipSync(bytes),
  );
  if (kept?.status !== 200) return;
  const zone = { parts: [], painted: { digest, width, height }, feather: 0, inverted: false };
  const id = `zone-${++labels}`;
  const patch: Patch = [{ op: 'add', path: '/zones/-', value: { ...zone, id, name: id } }];
  await change(who, piece, patch);
}

async function run(who: Somebody, piece: Piece): Promise<void> {
  const answer = await ask(who, 'run', `/api/pieces/${piece.id}/runs`, 'POST', {
    ...{ revision: piece.revision, trialId: piece.work.trials[0]!.id },
  });
  if (answer?.status === 200) who.ledger.runs.add((answer.json as { id: string }).id);
}

/** Sends a file that is done to the device that takes its size. */
async function send(who: Somebody, runs: JobView['runs']): Promise<void> {
  const done = runs.find(({ state, artifacts }) => state === 'done' && artifacts.length > 0);
  if (!done) return;
  const devices = await devicesOf(who);
  if (devices.length === 0) return;
  const { id, description } = who.random.pick(devices);
  const answer = await ask(who, 'send', `/api/tasks/${done.id}/sendings`, 'POST', {
    ...{ device: id, material: who.random.pick(description!.materials).name },
    ...{ initials: 'tt', why: 'because' },
  });
  if (answer?.status === 200) who.ledger.sendings.add((answer.json as { key: string }).key);
}

async function devicesOf(who: Somebody): Promise<ShopDevice[]> {
  const answer = await ask(who, 'devices', '/api/devices');
  if (answer?.status !== 200) return [];
  return z
    .array(ShopDevice)
    .parse(answer.json)
    .filter(({ description }) => description !== null);
}

/** Gets devices going that stand still. @returns whether one did */
export async function tendDevices(who: Somebody): Promise<boolean> {
  let stood = false;
  for (const { id, description } of await devicesOf(who)) {
    const { trouble } = description!;
    if (!trouble) continue;
    stood = true;
    const act = who.random.pick(trouble.acts);
    // What waits for another material says for which.
    const material = description!.materials.find(({ name }) =>
      trouble.words.includes(`for ${name};`),
    );
    await ask(who, 'act', `/api/devices/${id}/act`, 'POST', {
      ...{ act, ...(act === 'load' && material && { material: material.name }) },
    });
  }
  return stood;
}

const FAILURES = ['jam', 'no material', 'no ink', 'power'] as const;

/** Tends devices, or has something go wrong at one. */
async function atDevices(who: Somebody): Promise<void> {
  if ((await tendDevices(who)) || who.random.below(2)) return;
  const devices = await devicesOf(who);
  if (devices.length === 0) return;
  const failure = who.random.pick(FAILURES);
  const path = `/api/devices/${who.random.pick(devices).id}/failure`;
  await ask(who, failure, path, 'POST', { failure });
}

async function proof(who: Somebody, piece: Piece): Promise<void> {
  const answer = await ask(who, 'proof', `/api/pieces/${piece.id}/proofs`, 'POST', {
    ...{ revision: piece.revision, on: { kind: 'sheet', paper: 'A4' }, format: 'pdf' },
    stops: [{ title: 'the middle', words: '', x: 0.5, y: 0.5 }],
    trials: [piece.work.trials[0]!.id],
  });
  if (answer?.status === 200) who.ledger.runs.add((answer.json as { id: string }).id);
}

async function look(who: Somebody, { digest, findings }: Piece): Promise<void> {
  const page = `/api/originals/${digest}/pages/1`;
  const { width, height, vector } = findings;
  const drawn = `width=600&height=400&x=0&y=0&w=${width}&h=${height}&turn=0&channels=3&column=0&row=0`;
  if (vector) await ask(who, 'a drawn tile', `${page}/drawn?${drawn}`);
  else await ask(who, 'a tile', `${page}/tiles/${who.random.below(3)}/0/0`);
  await ask(who, 'a thumbnail', `${page}/thumbnail`);
  await ask(who, 'the shop', '/api/shop');
}

async function remove(who: Somebody, id: number): Promise<void> {
  const { ledger } = who;
  // From here on nobody expects it to be there; it may be all the same.
  ledger.deleted.add(id);
  const gone = await ask(who, 'delete', `/api/jobs/${id}`, 'DELETE');
  if (gone?.status !== 200 || who.random.below(2)) return;
  const back = await ask(who, 'restore', `/api/jobs/${id}/restore`, 'POST');
  if (back?.status === 200) ledger.deleted.delete(id);
}
