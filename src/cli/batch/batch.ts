import { mkdir, readdir } from 'node:fs/promises';
import { join, parse, resolve } from 'node:path';
import { formatOf, type Format } from '@/core/output/formats';
import { verdict } from '@/core/measure/verdict';
import { freeName } from '@/core/output/names';
import { planOf } from '@/core/recipe/plan';
import { gistOf } from '@/core/steps';
import { digestOfFile } from '@/server/files/digest';
import { inWords, Problem } from '@/server/problem';
import { Leave } from '@/server/render/leave';
import { loadThreads, threadCount } from '@/server/render/threads';
import { endWorking, withInput, type Input } from '../input';
import { prepared, type Prepared } from '../prepared';
import { recipeOf, writeResult } from '../write-result';
import { digestOfRequest, needsNoLook, orderOf, wholeRequest, type BatchOptions } from './asked';
import { BatchJournal, type Result } from './journal';
import { conclude, teller, type Outcome } from './telling';

/**
 * Makes a print file of every picture in a folder, several at once. What an earlier call of the same made is not made
 * again; what fails is said, and the rest is made.
 */
export async function batch(from: string, to: string, options: BatchOptions): Promise<void> {
  const [folder, out] = [resolve(from), resolve(to)];
  if (folder === out) {
    throw new Problem(
      'usage',
      'Results don’t go among the originals: name another folder for them.',
    );
  }
  const asked = await wholeRequest(options);
  const by = await digestOfRequest(asked);
  const files = await filesIn(folder);
  await mkdir(out, { recursive: true });
  const journal = await BatchJournal.open(out);
  const names = await namesFor(files, out, journal, asked.format);
  const leaving = leaveWhenTold();
  const make = async (file: string): Promise<Outcome> => {
    const source = join(folder, file);
    const origin = { file, digest: await digestOfFile(source), by };
    const before = await journal.find(origin);
    if (before) return { file, state: 'made before', ...before };
    const name = names.get(file)!;
    await journal.begin(file, name);
    const result = await makeOne(source, join(out, name), asked, leaving.signal);
    journal.note(origin, result);
    return { file, state: 'made', ...result };
  };
  const outcomes: Outcome[] = [];
  const tell = teller(files.length, asked.json === true);
  let next = 0;
  const lane = async (): Promise<void> => {
    while (next < files.length && !leaving.signal.aborted) {
      const file = files[next++]!;
      const outcome = await make(file).catch((error: unknown): Outcome | null => {
        if (leaving.signal.aborted) return null;
        if (!(error instanceof Problem)) console.error(error);
        return { file, state: 'failed', why: inWords(error) };
      });
      if (!outcome) return;
      outcomes.push(outcome);
      tell(outcome);
    }
  };
  loadThreads();
  try {
    // One more than there are threads: while some are computed, another is read or packed.
    await Promise.all(Array.from({ length: threadCount() + 1 }, lane));
    await journal.close();
  } finally {
    leaving.end();
    await endWorking();
  }
  conclude(outcomes, files.length, asked.json === true);
}

const makeOne = (
  source: string,
  out: string,
  asked: BatchOptions,
  signal: AbortSignal,
): Promise<Result> =>
  withInput(source, { page: asked.page, pixelsOnly: needsNoLook(asked) }, async (input) => {
    const ready = await prepared(input, asked.format, orderOf(asked, input.findings));
    const { found } = await writeResult(input, ready, recipeOf(ready), {
      ...{ out, signal, together: true },
    });
    const { width, height, ppi } = found;
    const missing = input.findings.damaged;
    const seen = needsNoLook(asked) ? null : seenIn(input, ready);
    return { out: parse(out).base, width, height, ppi: ppi?.x ?? 0, missing, seen };
  });

/** What is said of a picture that was looked at. */
function seenIn({ findings }: Input, { original, work }: Prepared): Result['seen'] {
  const [trial] = work.trials;
  const planned = planOf(original, work, trial!.ppi);
  if (!planned.ok) return null;
  const { short } = verdict(planned.plan, work.distance, findings);
  const steps = trial!.treatment.filter(({ on }) => on).map(gistOf);
  return { kind: findings.kind, verdict: short, steps };
}

/** Aborted where the command is told to end: what was done of a result stays, to be gone on with. */
function leaveWhenTold(): { signal: AbortSignal; end(): void } {
  const leaving = new AbortController();
  const leave = () => leaving.abort(new Leave());
  const told = ['SIGINT', 'SIGTERM'] as const;
  for (const signal of told) process.once(signal, leave);
  return {
    signal: leaving.signal,
    end: () => told.forEach((signal) => process.off(signal, leave)),
  };
}

/** The files of a folder by name; hidden ones are none. */
async function filesIn(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => {
    throw new Problem('input', `There is no folder ${folder}.`);
  });
  const files = entries.filter((entry) => !entry.isDirectory() && !entry.name.startsWith('.'));
  if (files.length === 0) throw new Problem('input', `There are no files in ${folder}.`);
  return files.map(({ name }) => name).sort((a, b) => (a < b ? -1 : 1));
}

/** A name for each result: that of its picture, or what it is called already. Nothing else is written over. */
async function namesFor(
  files: readonly string[],
  out: string,
  journal: BatchJournal,
  format: Format,
): Promise<Map<string, string>> {
  const [ending] = formatOf(format).endings;
  const names = new Map<string, string>();
  for (const file of files) {
    const before = await journal.nameOf(file);
    if (before?.endsWith(`.${ending}`)) names.set(file, before);
  }
  const taken = new Set([...(await readdir(out)), ...names.values()]);
  for (const file of files) {
    if (names.has(file)) continue;
    const name = freeName(`${parse(file).name}.${ending}`, taken);
    taken.add(name);
    names.set(file, name);
  }
  return names;
}
