import slugify from '@sindresorhus/slugify';
import { format, formatISO } from 'date-fns';
import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { formatPpi } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { formatNumber } from '@/core/measure/format';
import type { Facts } from '@/core/output/facts';
import { formatOf } from '@/core/output/formats';
import { NO_MARKS } from '@/core/output/marks';
import { inFormat } from '@/core/output/output';
import { layOutProof } from '@/core/output/proof-sheet';
import { canonicalJson } from '@/core/recipe/canonical';
import { originalOf, type Original } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import type { Recipe } from '@/core/recipe/recipe';
import type { Trial, Work } from '@/core/recipe/work';
import type { Models } from '@/core/learned/models';
import { paperOf, type ProofFormat, type ProofPayload, type ProofRequest } from '@/core/shop/proof';
import { ProofTask } from '@/core/shop/task';
import { summaryOf } from '@/core/steps';
import { readJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { queueTask } from '../db/tasks';
import { usableModels } from '../files/models';
import { Problem } from '../problem';

/**
 * Resolves trials as they stand and queues a proof of them.
 * @throws Problem where the piece was changed meanwhile, a trial is gone or can't be made, or there is no room
 */
export async function requestProof(
  db: Knex,
  pieceId: number,
  request: ProofRequest,
): Promise<ProofTask> {
  const piece = await readPiece(db, pieceId);
  if (piece.revision !== request.revision) {
    throw new Problem(
      'conflict',
      'This picture was changed meanwhile. Look at it and ask for the proof again.',
      piece,
    );
  }
  const job = await readJob(db, piece.jobId);
  const original = originalOf(piece.digest, piece.findings, piece.takenOut);
  const trials = request.trials.map((id) => {
    const trial = piece.work.trials.find((one) => one.id === id);
    if (!trial) {
      throw new Problem('missing', 'One of the trials is not there any more. Nothing was made.');
    }
    return trial;
  });
  const heading = [job.number, job.title, job.customer].filter(Boolean).join(' · ');
  const { number, title } = job;
  const made = proofOf(original, piece.work, trials, await usableModels(), { ...request, heading });
  const named = [number, slugify(title).slice(0, 40), 'proof'].filter(Boolean).join('-');
  const payload: ProofPayload = {
    ...made,
    fileName: `${named}.${formatOf(request.format).endings[0]}`,
  };
  return ProofTask.parse(
    await queueTask(db, { id: randomUUID(), kind: 'proof', pieceId, payload }),
  );
}

/**
 * What a proof of trials shows and says.
 * @throws Problem where a trial can't be made, all of them are not in the same colours, or there is no room
 */
export function proofOf(
  original: Original,
  work: Work,
  trials: readonly Trial[],
  models: Models,
  {
    on,
    format: file,
    stops,
    heading,
  }: Pick<ProofRequest, 'on' | 'format' | 'stops'> & { heading: string },
): Omit<ProofPayload, 'fileName'> {
  const resolved = trials.map((trial) => {
    const one = resolveRecipe(original, work, asProofed(trial, file), models);
    if (!one.ok) throw new Problem('usage', `${trial.name}: ${one.reason}`);
    return one;
  });
  const recipes = resolved.map(({ recipe }) => recipe);
  const colours = new Set(
    recipes.map(({ output }) => canonicalJson([output.colour, output.untagged])),
  );
  if (colours.size > 1) {
    throw new Problem(
      'usage',
      'These trials are written in different colours: make a proof of each.',
    );
  }
  const [{ recipe, plan }] = resolved as [(typeof resolved)[number]];
  const mm = (pixels: number) => (pixels / recipe.target.ppi) * MM_PER_INCH;
  const size = [plan.trim.width, plan.trim.height].map((side) => formatNumber(mm(side) / 10, 1));
  const words = {
    ...{ heading, stops },
    print: `Proof of ${size.join(' × ')} cm at ${ppisOf(recipes)} ppi · seen from ${work.distance} m · ${format(Date.now(), 'd MMM yyyy')}`,
    trials: trials.map((trial) => ({ name: trial.name, settings: settingsOf(trial) })),
  };
  const settings = Math.max(...words.trials.map((one) => one.settings.length + 1));
  const room = { stops: stops.length, trials: trials.length, settings };
  const sheet = layOutProof(paperOf(on), room);
  if (!sheet.ok) throw new Problem('usage', sheet.reason);
  return { on, format: file, words, recipes };
}

/** A trial as its proof shows it: on the paper's colour, in the proof's format, without anything about it. */
function asProofed(trial: Trial, format: ProofFormat): Trial {
  const plain = {
    ...trial.output,
    alpha: 'paper',
    marks: NO_MARKS,
    panels: null,
    depth: 8,
  } as const;
  return { ...trial, output: inFormat(plain, format) };
}

const ppisOf = (recipes: readonly Recipe[]): string =>
  [...new Set(recipes.map(({ target }) => formatPpi(target.ppi)))].join(' and ');

/** What is done, step by step. */
const settingsOf = (trial: Trial): string[] =>
  trial.treatment
    .filter(({ on }) => on)
    .map((step) => summaryOf(step))
    .filter((line) => line !== '');

/** What the file of a proof says of its order. */
export const factsOfProof = ({
  words,
  recipes,
}: Pick<ProofPayload, 'words' | 'recipes'>): Facts => ({
  ...{ job: '', customer: '', title: `Proof: ${words.heading}` },
  trial: words.trials.map(({ name }) => name).join(', '),
  size: `${ppisOf(recipes)} ppi`,
  date: formatISO(new Date(), { representation: 'date' }),
});
