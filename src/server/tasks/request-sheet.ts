import slugify from '@sindresorhus/slugify';
import { randomUUID } from 'node:crypto';
import { format } from 'date-fns';
import type { Knex } from 'knex';
import { EVIDENCE_ROWS, figureWords } from '@/core/evidence/rows';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { leastPpi } from '@/core/measure/plan';
import { originalOf } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import { untreated } from '@/core/recipe/views';
import { stepOf, type Trial } from '@/core/recipe/work';
import { SheetTask } from '@/core/shop/task';
import type { SheetRequest, SheetWords } from '@/core/shop/sheet';
import { summaryOf } from '@/core/steps';
import { readJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { queueTask } from '../db/tasks';
import { usableModels } from '../files/models';
import { Problem } from '../problem';

/**
 * Resolves trials as they stand and queues a comparison sheet of them beside their original.
 * @throws Problem where the piece was changed meanwhile, or a trial is gone or can't be made
 */
export async function requestSheet(
  db: Knex,
  pieceId: number,
  request: SheetRequest,
): Promise<SheetTask> {
  const piece = await readPiece(db, pieceId);
  if (piece.revision !== request.revision) {
    throw new Problem(
      'conflict',
      'This picture was changed meanwhile. Look at it and ask for the sheet again.',
      piece,
    );
  }
  const job = await readJob(db, piece.jobId);
  const original = originalOf(piece.digest, piece.findings, piece.takenOut);
  const models = await usableModels();
  const trials = request.trials.map(({ id, evidence }) => {
    const trial = piece.work.trials.find((one) => one.id === id);
    if (!trial) {
      throw new Problem('missing', 'One of the trials is not there any more. Nothing was made.');
    }
    const resolved = resolveRecipe(original, piece.work, trial, models);
    if (!resolved.ok) throw new Problem('usage', `${trial.name}: ${resolved.reason}`);
    return { trial, evidence, ...resolved };
  });
  const [{ plan, recipe }] = trials as [(typeof trials)[number]];
  const cm = (pixels: number) => formatNumber((pixels / recipe.target.ppi) * 2.54, 1);
  const size = `${cm(plan.trim.width)} × ${cm(plan.trim.height)} cm`;
  const vector = original.vector;
  const words: SheetWords = {
    paper: request.paper,
    heading: [job.number, job.title, job.customer].filter(Boolean).join(' · '),
    print: `${piece.fileName} · ${size} · ${formatPpi(recipe.target.ppi)} ppi · seen from ${piece.work.distance} m`,
    date: format(Date.now(), 'd MMM yyyy'),
    stops: request.stops,
    panes: [
      {
        name: 'Original',
        made: vector ? 'as drawn' : `pixels as they print, ${formatPpi(leastPpi(plan))} ppi`,
        settings: [],
      },
      ...trials.map(({ trial }) => ({
        name: trial.name,
        made: madeWords(trial),
        settings: settingsOf(trial),
      })),
    ],
    rows: EVIDENCE_ROWS.filter(() => trials.some(({ evidence }) => evidence)).map((row) => ({
      title: `${row.title}, ${row.unit}`,
      better: `${row.good} is ${row.means}`,
      figures: [
        figureWords(
          row,
          request.original && row.ofOriginal ? row.ofOriginal(request.original) : null,
        ),
        ...trials.map(({ evidence }) => figureWords(row, evidence && row.of(evidence))),
      ],
    })),
  };
  const payload = {
    fileName: `${[job.number, slugify(job.title).slice(0, 40), 'comparison'].filter(Boolean).join('-')}.pdf`,
    words,
    // Shapes have no pixels of their own: beside them stands what is drawn.
    recipes: [vector ? recipe : untreated(recipe), ...trials.map((one) => one.recipe)],
  };
  return SheetTask.parse(
    await queueTask(db, { id: randomUUID(), kind: 'sheet', pieceId, payload }),
  );
}

const madeWords = (trial: Trial): string => summaryOf(stepOf(trial.treatment, 'enlarge')!);

/** What else is done, step by step. */
const settingsOf = (trial: Trial): string[] =>
  trial.treatment
    .filter(({ kind, on }) => kind !== 'enlarge' && on)
    .map((step) => summaryOf(step))
    .filter((line) => line !== '');
