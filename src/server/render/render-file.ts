import { open, rename, rm } from 'node:fs/promises';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { costOf } from '@/core/render/cost';
import { scheduleOf, type NodeJob } from '@/core/render/schedule';
import { drawToFile } from '../codecs/pictures';
import { drawingOf } from '../codecs/shapes/drawing';
import { store } from '../files/store';
import type { Described } from '../output/described';
import type { RowSums } from '../output/samples';
import { writerOf } from '../output/writer';
import { Problem } from '../problem';
import { refuseTooLarge } from './limits';
import type { PartTask } from './part-worker';
import { scratchFor, type ScratchFile } from './scratch-file';
import { digestOnThread, onAllThreads, threadCount } from './threads';

export interface RenderJob {
  original: {
    file: string;
    name: string;
    /** where its decoded pixels are; not asked for where it is drawn from shapes */
    raw: () => Promise<string>;
  };
  recipe: Recipe;
  /** folder of painted masks, where it isn't the shop's own */
  masks?: string;
  /** the profile that the result carries, or null */
  profile: Uint8Array | null;
  out: string;
  /** what this attempt's half-written files are called; two of the same run don't share them */
  claim?: string;
  /** asked last of all, before the result takes its place: false where it is another's to write */
  stillOwned?: () => Promise<boolean>;
  /** share of the work that is done, 0–1 */
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

export interface Rendered {
  seconds: number;
  /** what the finished file says of itself */
  found: Described;
  /** SHA-256 of its bytes, in hexadecimal digits */
  digest: string;
}

/**
 * Renders a recipe to a file with bounded memory, on all threads. The file is written beside its place,
 * read back, and only then renamed: `out` is whole or not there.
 * @throws Problem where the disk or the format can't hold it, or another claim owns the result; the
 *   signal's reason where aborted
 */
export async function renderFile(job: RenderJob): Promise<Rendered> {
  const started = performance.now();
  const { recipe, profile, out, claim = 'own', signal } = job;
  const part = `${out}.part-${claim}`;
  const drawing = `${part}.drawn`;
  const scratch: ScratchFile[] = [];
  const writer = writerOf({ recipe, profile, part, signal });
  try {
    const { jobs } = scheduleOf(graphOf(recipe), threadCount());
    for (const [i, one] of jobs.slice(0, -1).entries()) {
      scratch.push(scratchFor(one, `${part}.scratch${i}`));
    }
    await refuseTooLarge(recipe, out, scratch);
    const report = progressOf(job, jobs);
    let raw = drawing;
    if (recipe.original.drawn) {
      const { file, name } = job.original;
      await drawToFile(drawingOf(recipe, file, name), drawing, report.drawn, signal);
    } else raw = await job.original.raw();
    for (const [index, one] of jobs.slice(0, -1).entries()) {
      const block = scratch[index]!;
      await (await open(block.path, 'w')).close();
      const to = (i: number) => ({ block, index: i });
      await computeJob(job, one, { raw, materialised: scratch.slice(0, index), to }, (done) =>
        report.computed(index, done),
      );
    }
    const samples = await writer.begin();
    const result = { raw, materialised: scratch, to: () => ({ samples }) };
    const sums = await computeJob(job, jobs.at(-1)!, result, (done) =>
      report.computed(jobs.length - 1, done),
    );
    const finished = await writer.end();
    signal?.throwIfAborted();
    // Both read the whole file: one on this thread, one on another.
    const [{ found, complaints }, digest] = await Promise.all([
      writer.verify(sums),
      digestOnThread(finished),
    ]);
    if (complaints.length > 0) {
      throw new Problem('work', `The written file did not pass its check. ${complaints.join(' ')}`);
    }
    await flushed(finished);
    if (job.stillOwned && !(await job.stillOwned())) {
      throw new Problem('conflict', 'This run has another owner by now, which writes its result.');
    }
    await rename(finished, out);
    job.onProgress?.(1);
    return { seconds: (performance.now() - started) / 1000, found, digest };
  } finally {
    await writer.clear();
    const left = [drawing, ...scratch.map(({ path }) => path)];
    await Promise.all(left.map((path) => rm(path, { force: true })));
  }
}

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
  const { beginning, result, encoding } = costOf(recipe);
  const all = beginning + result + encoding;
  const before = beginning / all;
  const kilopixels = ({ node }: NodeJob) => (node.size.width * node.size.height) / 1024;
  const scratch = jobs.slice(0, -1).map(kilopixels);
  const total = scratch.reduce((sum, one) => sum + one, 0);
  return {
    drawn: (share: number) => onProgress?.(share * before),
    /** kilopixels of one of the jobs are done */
    computed: (index: number, done: number) => {
      if (index === jobs.length - 1) {
        const share = Math.min(1, done / kilopixels(jobs[index]!));
        onProgress?.(before + (result / all) * share);
      } else {
        const earlier = scratch.slice(0, index).reduce((sum, one) => sum + one, 0);
        onProgress?.(before * Math.min(1, (earlier + done) / total));
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

/** Computes one job's node on all threads. @returns the sums of the rows of samples, part by part */
async function computeJob(
  { recipe, masks = store.masks(), signal }: RenderJob,
  { node, parts, rows }: NodeJob,
  { raw, materialised, to }: Flow,
  onDone: (kilopixels: number) => void,
): Promise<RowSums[]> {
  const common = { raw, recipe, masks, materialised: [...materialised], hash: node.hash, rows };
  const tasks = parts.map((part, i) => ({ ...common, part, to: to(i) }));
  const answers = await onAllThreads(tasks, onDone, signal);
  return answers.map(({ sums }, i) => ({ part: parts[i]!, sums: sums! }));
}
