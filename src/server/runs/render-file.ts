import { open, rename, rm } from 'node:fs/promises';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { costOf } from '@/core/render/cost';
import { scheduleOf, type NodeJob } from '@/core/render/schedule';
import { encodeFromTiff } from '../codecs/encode';
import { drawToFile } from '../codecs/pictures';
import {
  differingRows,
  lossyDifference,
  mostDifference,
  type RowSums,
  type SampleFile,
} from '../codecs/check-pixels';
import { complaints, readBack, type ReadBack } from '../codecs/read-back';
import { drawingOf } from '../codecs/shapes/drawing';
import { layOutTiff } from '../codecs/tiff-writer';
import { store } from '../files/store';
import { Problem } from '../problem';
import { refuseTooLarge } from './limits';
import type { PartTask } from './part-worker';
import { scratchFor, type ScratchFile } from './scratch-file';
import { onAllThreads, threadCount } from './threads';

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
  readBack: ReadBack;
}

/** Rows of a TIFF's strips: of some hundred kilobytes, as readers like them. */
const STRIP_BYTES = 2 << 20;
const stripRows = (rowBytes: number): number =>
  Math.max(1, Math.min(256, Math.floor(STRIP_BYTES / rowBytes)));

/**
 * Renders a recipe to a file with bounded memory, on all threads. The file is written beside its place,
 * read back, and only then renamed: `out` is whole or not there.
 * @throws Problem where the disk or the format can't hold it, or another claim owns the result; the
 *   signal's reason where aborted
 */
export async function renderFile(job: RenderJob): Promise<Rendered> {
  const started = performance.now();
  const { recipe, out, claim = 'own', signal } = job;
  const part = `${out}.part-${claim}`;
  const files = {
    tiff: `${part}.tif`,
    encoded: part,
    drawing: `${part}.drawn`,
    scratch: [] as string[],
  };
  try {
    const shapes = recipe.original.drawn !== null;
    const schedule = scheduleOf(graphOf(recipe), threadCount());
    const before = schedule.jobs.slice(0, -1).map((one, i) => {
      files.scratch.push(`${part}.scratch${i}`);
      return scratchFor(one, files.scratch[i]!);
    });
    await refuseTooLarge(recipe, out, before);
    const raw = shapes ? files.drawing : await job.original.raw();
    const report = progressOf(job, schedule.jobs);
    if (shapes) {
      const { file, name } = job.original;
      await drawToFile(drawingOf(recipe, file, name), raw, report.drawn, signal);
    }
    const written = await computeJobs(job, schedule.jobs, before, raw, files.tiff, report.computed);
    let finished = files.tiff;
    if (recipe.output.format !== 'tiff') {
      await encodeFromTiff(files.tiff, files.encoded, recipe.output, recipe.target.ppi);
      finished = files.encoded;
    }
    signal?.throwIfAborted();
    const found = await readBack(finished);
    const wrong = complaints(
      found,
      { size: recipe.target, ppi: recipe.target.ppi, profileBytes: job.profile?.length ?? 0 },
      recipe.output.format,
    );
    wrong.push(...(await pixelComplaints(job, finished, written)));
    if (wrong.length > 0) {
      throw new Problem('work', `The written file did not pass its check. ${wrong.join(' ')}`);
    }
    await flushed(finished);
    if (job.stillOwned && !(await job.stillOwned())) {
      throw new Problem('conflict', 'This run has another owner by now, which writes its result.');
    }
    await rename(finished, out);
    job.onProgress?.(1);
    return { seconds: (performance.now() - started) / 1000, readBack: found };
  } finally {
    const left = [files.drawing, files.tiff, files.encoded, `${files.encoded}.jfif`];
    await Promise.all([...left, ...files.scratch].map((path) => rm(path, { force: true })));
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

/** The uncompressed result, and the sums of what was computed for it. */
interface Written {
  samples: SampleFile;
  sums: RowSums[];
}

/** What is wrong with the pixels of a finished file, in sentences. */
async function pixelComplaints(
  { recipe, signal }: RenderJob,
  finished: string,
  { samples, sums }: Written,
): Promise<string[]> {
  const { format, quality } = recipe.output;
  if (format === 'jpeg') {
    const difference = await lossyDifference(finished, samples, signal);
    return difference <= mostDifference(quality)
      ? []
      : [`Its pixels are off what was computed by ${difference.toFixed(1)} levels.`];
  }
  const rows = await differingRows(finished, samples, sums, signal);
  return rows === 0 ? [] : [`${rows} rows of its pixels are not what was computed.`];
}

/** Computes what is materialised, one after the other, and then the result into a TIFF. */
async function computeJobs(
  job: RenderJob,
  jobs: readonly NodeJob[],
  scratch: readonly ScratchFile[],
  raw: string,
  tiff: string,
  onDone: (index: number, kilopixels: number) => void,
): Promise<Written> {
  const { recipe, masks = store.masks(), signal } = job;
  let samples: SampleFile | undefined;
  let sums: RowSums[] = [];
  for (const [index, { node, parts, rows }] of jobs.entries()) {
    const block = scratch[index];
    const materialised = scratch.slice(0, index);
    const common = { raw, recipe, masks, materialised, hash: node.hash, rows };
    let to: (part: number) => PartTask['to'];
    if (block) {
      await (await open(block.path, 'w')).close();
      to = (part) => ({ block, index: part });
    } else {
      samples = await beginTiff(job, tiff);
      const own = { samples };
      to = () => own;
    }
    const answers = await onAllThreads(
      parts.map((part, i) => ({ ...common, part, to: to(i) })),
      (kilopixels) => onDone(index, kilopixels),
      signal,
    );
    sums = answers.map((answer, i) => ({ part: parts[i]!, sums: answer.sums! }));
  }
  return { samples: samples!, sums };
}

/** Lays out a TIFF that parts are written into, in any order. */
async function beginTiff({ recipe, profile }: RenderJob, path: string): Promise<SampleFile> {
  const { width, height, ppi } = recipe.target;
  const { depth } = recipe.output;
  const size = { width, height };
  const channels = recipe.alpha === 'kept' ? 4 : 3;
  const rowsPerStrip = stripRows((width * channels * depth) / 8);
  const layout = layOutTiff({ size, depth, channels, ppi, profile, rowsPerStrip });
  const file = await open(path, 'w');
  try {
    await file.write(layout.header, 0, layout.header.length, 0);
    await file.truncate(layout.bytes);
  } finally {
    await file.close();
  }
  return { path, start: layout.offsets[0]!, size, depth, channels };
}
