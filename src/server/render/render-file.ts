import { createHash } from 'node:crypto';
import { copyFile, link, open, rename, rm } from 'node:fs/promises';
import type { Facts } from '@/core/output/facts';
import { canonicalJson } from '@/core/recipe/canonical';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { costOf, treating } from '@/core/render/cost';
import { scheduleOf, type NodeJob } from '@/core/render/schedule';
import { drawToFile } from '../codecs/pictures';
import {
  carriedProfile,
  convertedBy,
  profileBytes as kept,
  type ProfileBytes,
} from '../colour/profiles';
import { drawingOf, type TreatedFile } from '../codecs/shapes/drawing';
import { partOf, store } from '../files/store';
import type { Described } from '../output/described';
import { keptExif } from '../output/exif';
import type { RowSums } from '../output/samples';
import type { ResultWriter, ShareDone, Verified } from '../output/result-writer';
import { tagOnly } from '../output/tag-only';
import { writerOf } from '../output/writer';
import { isDiskFull, Problem } from '../problem';
import { Journal } from './journal';
import { Leave } from './leave';
import { refuseTooLarge } from './limits';
import type { PartTask } from './part-worker';
import { isBlockWhole, scratchFor, type ScratchFile } from './scratch-file';
import { digestOnThread, onAllThreads, packedOnThread, threadCount } from './threads';

export interface RenderJob {
  original: {
    file: string;
    name: string;
    /** where its decoded pixels are; not asked for where it is drawn from shapes */
    raw: () => Promise<string>;
    /** files of treated pictures on its page; only asked for where it has some */
    treated?: (onProgress: (share: number) => void, signal?: AbortSignal) => Promise<TreatedFile[]>;
  };
  recipe: Recipe;
  /** folder of painted masks, where it isn't the shop's own */
  masks?: string;
  /** the original's profile, or null */
  profile: Uint8Array | null;
  /** where profiles that it is converted to come from, where that isn't the shop */
  profileBytes?: ProfileBytes;
  /** what the file says of the order that it belongs to */
  facts?: Facts | null;
  out: string;
  /**
   * whether other files are made at the same time: each is then left to one thread, which costs less in all, and whoever
   * asks sees to it that its bytes reach the disk
   */
  together?: boolean;
  /** what this attempt's half-written files are called; two of the same run don't share them */
  claim?: string;
  /** where the result's small copy goes, by its digest; none is kept where that isn't said */
  small?: (digest: string) => Promise<string>;
  /** asked last of all, before the result takes its place: false where it is another's to write */
  stillOwned?: () => Promise<boolean>;
  /** share of the work that is done, 0–1 */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

export interface Rendered {
  seconds: number;
  /** whether it went on from what an attempt before left: its seconds aren't those of the whole then */
  resumed: boolean;
  /** what the finished file says of itself */
  found: Described;
  /** SHA-256 of its bytes, in hexadecimal digits */
  digest: string;
}

/**
 * Renders a recipe to a file with bounded memory, on all threads. The file is written beside its place,
 * read back, and only then renamed: `out` is whole or not there. Where parts of an attempt before lie there under the
 * claim's name, it goes on from them; where it is stopped by `Leave`, its own stay.
 * @throws Problem where the disk or the format can't hold it, or another claim owns the result; the
 *   signal's reason where aborted
 */
export async function renderFile(job: RenderJob): Promise<Rendered> {
  const started = performance.now();
  const { recipe, out, claim = 'own', signal } = job;
  const part = partOf(out, claim);
  const small = `${part}.small`;
  const { facts } = job;
  const packed = packedOnThread;
  const profile = await carriedProfile(recipe, job.profile, job.profileBytes ?? kept);
  const exif = recipe.output.exif === 'keep' ? await keptExif(job.original.file) : null;
  const writer = writerOf({
    ...{ recipe, profile, facts, exif, part, packed, signal },
    ...(job.small && { small }),
  });
  const { jobs } = scheduleOf(graphOf(recipe), job.together ? 1 : threadCount());
  const scratch = jobs.slice(0, -1).map((one, i) => scratchFor(one, `${part}.scratch${i}`));
  const attempt = { job, writer, jobs, scratch, drawing: `${part}.drawn` };
  let left = false;
  let journal: Journal | undefined;
  try {
    if (recipe.tagOnly) return await tagged(job, `${part}.tagged`, profile, started);
    journal = await Journal.open(`${part}.done`, planOf(recipe, jobs));
    const resumed = journal.isBegun();
    // What is there already needs no room.
    if (!resumed) await refuseTooLarge(recipe, out, scratch);
    let result = await compute(attempt, journal);
    if (result.complaints.length > 0 && resumed) {
      // What was there before may not have outlived the machine: all is made anew.
      await journal.remove();
      journal = await Journal.open(`${part}.done`, planOf(recipe, jobs));
      result = await compute(attempt, journal);
    }
    const { finished, found, digest, complaints } = result;
    refuseComplaints(complaints);
    await putInPlace(job, finished, out);
    if (job.small) await rename(small, await job.small(digest));
    job.onProgress?.(1);
    return { seconds: (performance.now() - started) / 1000, resumed, found, digest };
  } catch (error) {
    left = signal?.aborted === true && signal.reason instanceof Leave;
    throw error;
  } finally {
    if (left) await journal?.written();
    else {
      await Promise.all([writer.clear(), journal?.remove()]);
      const made = [attempt.drawing, small, ...scratch.map(({ path }) => path)];
      await Promise.all(made.map((path) => rm(path, { force: true })));
    }
  }
}

/** The original's own file with another tag: nothing is computed. */
async function tagged(
  job: RenderJob,
  part: string,
  profile: Uint8Array | null,
  started: number,
): Promise<Rendered> {
  const { original, recipe, signal, out } = job;
  try {
    const tag = { original: original.file, recipe, profile, out: part, signal };
    const { found, complaints } = await tagOnly(tag);
    refuseComplaints(complaints);
    const digest = await digestOnThread(part);
    await putInPlace(job, part, out);
    job.onProgress?.(1);
    return { seconds: (performance.now() - started) / 1000, resumed: false, found, digest };
  } finally {
    await rm(part, { force: true });
  }
}

/** @throws Problem where something is wrong with the written file */
function refuseComplaints(complaints: readonly string[]): void {
  if (complaints.length === 0) return;
  throw new Problem('work', `The written file did not pass its check. ${complaints.join(' ')}`);
}

/** Gives a whole file its name, where that is still this attempt's to give. */
async function putInPlace(job: RenderJob, finished: string, out: string): Promise<void> {
  if (!job.together) await flushed(finished);
  if (job.stillOwned && !(await job.stillOwned())) {
    throw new Problem('conflict', 'This run has another owner by now, which writes its result.');
  }
  await rename(finished, out);
}

/** What a run does and in which parts, in a line. */
const planOf = (recipe: Recipe, jobs: readonly NodeJob[]): string =>
  createHash('sha256')
    .update(canonicalJson([recipe, jobs.map(({ node, parts, rows }) => [node.hash, parts, rows])]))
    .digest('hex');

/** A run on its way: what it is, and where its parts lie. */
interface Attempt {
  job: RenderJob;
  writer: ResultWriter;
  jobs: readonly NodeJob[];
  scratch: readonly ScratchFile[];
  drawing: string;
}

/** Computes what the journal doesn't say is done, and reads the finished file back. */
async function compute({ job, writer, jobs, scratch, drawing }: Attempt, journal: Journal) {
  const { recipe, signal } = job;
  const report = progressOf(job, jobs);
  let raw = drawing;
  if (!recipe.original.drawn) raw = await job.original.raw();
  else if (!journal.done(DRAWN).has(0)) {
    await drawShapes(job, drawing, report.drawn);
    journal.note(DRAWN, 0, new Uint32Array());
  }
  for (const [index, one] of jobs.slice(0, -1).entries()) {
    const block = scratch[index]!;
    // Made where it isn't there yet; what lies in it stays.
    await (await open(block.path, 'a')).close();
    const damaged = [...journal.done(index)].filter(([i, [sum]]) => !isBlockWhole(block, i, sum!));
    journal.forget(
      index,
      damaged.map(([i]) => i),
    );
    const to = (i: number) => ({ block, index: i });
    const flow = { raw, materialised: scratch.slice(0, index), to };
    await computeJob(job, { ...one, index }, flow, journal, (done) => report.computed(index, done));
  }
  const last = { ...jobs.at(-1)!, index: jobs.length - 1 };
  const samples = await writer.begin(journal.done(last.index).size > 0);
  const flow = { raw, materialised: scratch, to: () => ({ samples }) };
  const sums = await computeJob(job, last, flow, journal, (done) =>
    report.computed(last.index, done),
  );
  const finished = await writer.end(report.encoded);
  signal?.throwIfAborted();
  // Both read the whole file: one on this thread, one on another.
  const [{ found, complaints }, digest] = await Promise.all([
    checked(writer, sums, report.verified, signal),
    digestOnThread(finished),
  ]);
  return { finished, found, complaints, digest };
}

/** Reads the finished file back: one that can't be read is as wrong as one that holds something else. */
async function checked(
  writer: ResultWriter,
  sums: readonly RowSums[],
  told: ShareDone,
  signal?: AbortSignal,
): Promise<Verified> {
  try {
    return await writer.verify(sums, told);
  } catch (error) {
    signal?.throwIfAborted();
    if (isDiskFull(error)) throw error;
    console.error(error);
    throw new Problem(
      'work',
      'The written file can’t be read back, and was removed. Start the run again; where that repeats, choose another format.',
    );
  }
}

/** Draws a page, with treated pictures in their places, into a file of decoded pixels. */
async function drawShapes(
  { recipe, original: { file, name, treated }, signal }: RenderJob,
  raw: string,
  onProgress: (share: number) => void,
): Promise<void> {
  const share = treating(recipe) / costOf(recipe).beginning;
  const placed = recipe.original.drawn!.placed.length > 0;
  const files = placed ? await treated!((done) => onProgress(share * done), signal) : [];
  // What is kept to be used again may go at any moment; what is linked to stays.
  const own = files.map(({ picture, file: from }) => ({
    ...{ picture, from },
    file: `${raw}-${picture}.tif`,
  }));
  try {
    await Promise.all(
      own.map(({ from, file: to }) => rm(to, { force: true }).then(() => linked(from, to))),
    );
    const drawing = drawingOf(recipe, file, name, own);
    await drawToFile(drawing, raw, (done) => onProgress(share + (1 - share) * done), signal);
  } finally {
    await Promise.all(own.map(({ file: to }) => rm(to, { force: true })));
  }
}

/** Another name for a file; a copy of it where the other name lies on another disk. */
async function linked(from: string, to: string): Promise<void> {
  await link(from, to).catch(() => copyFile(from, to));
}

/** What the journal calls the drawing of shapes, which comes before all jobs. */
const DRAWN = -1;

/** Sees to it that a file's bytes are on the disk before its name says that it is whole. */
async function flushed(path: string): Promise<void> {
  const file = await open(path, 'r+');
  try {
    await file.datasync();
  } finally {
    await file.close();
  }
}

/** Shares of the work that is done, by what each of its parts costs. */
function progressOf({ recipe, onProgress }: RenderJob, jobs: readonly NodeJob[]) {
  // Shares of the whole add up to one but for the last bits.
  const report = (share: number) => onProgress?.(Math.min(1, share));
  const { beginning, result, encoding } = costOf(recipe);
  const all = beginning + result + encoding;
  const before = beginning / all;
  const kilopixels = ({ node }: NodeJob) => (node.size.width * node.size.height) / 1024;
  const scratch = jobs.slice(0, -1).map(kilopixels);
  const total = scratch.reduce((sum, one) => sum + one, 0);
  const written = before + result / all;
  const half = encoding / all / 2;
  return {
    encoded: (share: number) => report(written + half * share),
    verified: (share: number) => report(written + half * (1 + share)),
    drawn: (share: number) => report(share * before),
    /** kilopixels of one of the jobs are done */
    computed: (index: number, done: number) => {
      if (index === jobs.length - 1) {
        const share = Math.min(1, done / kilopixels(jobs[index]!));
        report(before + (result / all) * share);
      } else {
        const earlier = scratch.slice(0, index).reduce((sum, one) => sum + one, 0);
        report(before * Math.min(1, (earlier + done) / total));
      }
    },
  };
}

/** Where a job's pixels come from and go to. */
interface Flow {
  raw: string;
  materialised: readonly ScratchFile[];
  to: (part: number) => PartTask['to'];
}

/**
 * Computes one job's node on all threads: those of its parts that aren't done.
 * @returns the sums of the rows of samples, part by part
 */
async function computeJob(
  { recipe, profile, profileBytes = kept, masks = store.masks(), signal }: RenderJob,
  { node, parts, rows, index }: NodeJob & { index: number },
  { raw, materialised, to }: Flow,
  journal: Journal,
  onDone: (kilopixels: number) => void,
): Promise<RowSums[]> {
  const profiles = await convertedBy(recipe, profile, profileBytes);
  const common = {
    raw,
    recipe,
    profiles,
    masks,
    materialised: [...materialised],
    hash: node.hash,
    rows,
  };
  const before = journal.done(index);
  const open = parts.flatMap((part, i) => (before.has(i) ? [] : [{ part, i }]));
  const kilopixels = [...before.keys()].reduce(
    (sum, i) => sum + (parts[i]!.width * parts[i]!.height) / 1024,
    0,
  );
  await onAllThreads(
    open.map(({ part, i }) => ({ ...common, part, to: to(i) })),
    {
      signal,
      onDone: (done) => onDone(kilopixels + done),
      onAnswer: (at, { sums }) => journal.note(index, open[at]!.i, sums!),
    },
  );
  const sums = journal.done(index);
  return parts.map((part, i) => ({ part, sums: sums.get(i)! }));
}
