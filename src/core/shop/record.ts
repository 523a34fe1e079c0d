import { z } from 'zod';
import { compressionWords } from '../inspect/findings';
import { findingsInWords } from '../inspect/words';
import { MODELS, type ModelName } from '../learned/models';
import { formatBytes, formatNumber, formatPpi, formatSeconds } from '../measure/format';
import { formatLength, MM_PER_INCH } from '../measure/units';
import { outputWords } from '../output/output';
import { canonicalJson, digestOfValue } from '../recipe/canonical';
import { CORE_VERSION, type Recipe } from '../recipe/recipe';
import type { Trial, Work } from '../recipe/work';
import { stepOfKind, summaryOf, type RecipeStep } from '../steps';
import { EVIDENCE_ROWS, figureWords } from '../evidence/rows';
import { ShopEvent, standingApproval, type Approval } from './event';
import { eventWords } from './event-words';
import { say } from '../words/say';
import type { JobHead, Piece } from './job';
import { artifactOf, runTitle, type Run, type SheetTask } from './task';

const Row = z.object({ label: z.string(), text: z.string() });
type Row = z.infer<typeof Row>;

/** A part of a record: what it is about, and what is said of it, line by line. */
export const RecordSection = z.object({ title: z.string(), rows: z.array(Row) });
export type RecordSection = z.infer<typeof RecordSection>;

/** All that is known of a job, in words and numbers. */
export const JobRecord = z.object({
  jobId: z.int(),
  number: z.string(),
  title: z.string(),
  customer: z.string(),
  head: z.array(Row),
  pieces: z.array(
    z.object({
      id: z.int(),
      fileName: z.string(),
      digest: z.string(),
      page: z.int(),
      sections: z.array(RecordSection),
    }),
  ),
  /** what happened, the oldest first */
  events: z.array(z.object({ at: z.int(), words: z.string() })),
  /** by which application it was written */
  writtenBy: z.string(),
});
export type JobRecord = z.infer<typeof JobRecord>;

/** One picture of a job with what was made of it. */
export interface RecordedPiece {
  piece: Piece;
  runs: readonly Run[];
  sheets: readonly SheetTask[];
}

/**
 * The record of a job as it stands.
 * @param events the newest first, as they are kept
 * @param version of the application
 * @param day how a time is written
 */
export function recordOf(
  job: JobHead,
  pieces: readonly RecordedPiece[],
  events: readonly ShopEvent[],
  { version, day }: { version: string; day(at: number): string },
): JobRecord {
  const { id: jobId, number, title, customer, due, state, note } = job;
  return {
    ...{ jobId, number, title, customer },
    head: [
      { label: say`Customer`, text: customer || '–' },
      { label: say`Due`, text: due ?? '–' },
      { label: say`State`, text: state },
      ...(note ? [{ label: say`Note`, text: note }] : []),
    ],
    pieces: pieces.map(({ piece, runs, sheets }) => ({
      ...{ id: piece.id, fileName: piece.fileName, digest: piece.digest },
      page: piece.work.framing.page,
      sections: [
        originalSection(piece),
        findingsSection(piece),
        orderSection(piece.work),
        zonesSection(piece.work),
        ...piece.work.trials.map((trial) => trialSection(piece, trial)),
        ...approvedSection(standingApproval(events, piece.id)),
        ...sheets.slice(0, 1).flatMap((sheet) => evidenceSection(sheet, day)),
        ...runs.filter(({ state: of }) => of === 'done').map((run) => runSection(run, day)),
      ].filter(({ rows }) => rows.length > 0),
    })),
    events: [...events].reverse().map((event) => ({ at: event.at, words: eventWords(event) })),
    writtenBy: `Lontano ${version}, core ${CORE_VERSION}`,
  };
}

function originalSection({ fileName, digest, findings, work }: Piece): RecordSection {
  const { width, height, bytes, ppi, profile, bitDepth, vector, pages } = findings;
  const rows: Row[] = [
    { label: say`File`, text: `${fileName}, ${formatBytes(bytes)}, ${compressionWords(findings)}` },
    { label: 'SHA-256', text: digest },
  ];
  if (pages > 1) rows.push({ label: say`Page`, text: say`${work.framing.page} of ${pages}` });
  if (!vector) {
    rows.push(
      { label: say`Pixels`, text: say`${width} × ${height}, ${bitDepth} bit` },
      { label: say`Size tag`, text: ppi ? say`${formatPpi(ppi.x)} ppi` : say`none` },
      { label: say`Profile`, text: profile ?? say`none` },
    );
  }
  return { title: say`Original`, rows };
}

function findingsSection({ findings }: Piece): RecordSection {
  const found = findings.vector ? [] : findingsInWords(findings).filter(({ matters }) => matters);
  return {
    title: say`What it suffers from`,
    rows: found.map(({ name, figure, sentence }) => ({
      label: name,
      text: `${figure}. ${sentence}`,
    })),
  };
}

const FITS = {
  crop: say`filling it`,
  margin: say`whole, with margins`,
  stretch: say`distorted`,
} as const;

function orderSection({ paper, distance, device, material, framing }: Work): RecordSection {
  const { width, height, fit, bleed } = paper;
  const sides = [width, height].map((side) => (side ? formatLength(side) : say`as follows`));
  const rows: Row[] = [
    { label: say`Paper`, text: say`${sides.join(' × ')}, the picture ${FITS[fit]}` },
    { label: say`Seen from`, text: say`${formatNumber(distance)} m` },
    { label: say`Printed with`, text: device ?? say`not chosen` },
    { label: say`Printed on`, text: material ?? say`not chosen` },
  ];
  if (bleed.mm > 0) rows.push({ label: say`Bleed`, text: `${formatNumber(bleed.mm)} mm` });
  if (framing.crop) rows.push({ label: say`Crop`, text: numbersIn(framing.crop) });
  if (framing.straighten !== 0)
    rows.push({ label: say`Straightened`, text: `${framing.straighten}°` });
  return { title: say`Order`, rows };
}

function zonesSection({ zones }: Work): RecordSection {
  return {
    title: say`Zones`,
    rows: zones.map(({ name, parts, painted, feather, inverted }) => {
      const words = parts.map(({ kind, ...part }) => `${kind} (${numbersIn(part)})`);
      if (painted) words.push(say`painted (${painted.digest.slice(0, 12)})`);
      if (feather > 0) words.push(say`feathered by ${formatNumber(feather)} px`);
      if (inverted) words.push(say`inverted`);
      return { label: name, text: words.join('; ') || say`empty` };
    }),
  };
}

/** Each step of a trial in words, with where it works; and how its file is written. */
function trialSection({ work, reasons }: Piece, trial: Trial): RecordSection {
  const zoneName = (id: string) => work.zones.find((zone) => zone.id === id)?.name ?? say`a zone`;
  const rows = trial.treatment
    .filter(({ on }) => on)
    .map((step): Row => {
      const place = step.zone
        ? step.elsewhere
          ? say`, everywhere but ${zoneName(step.zone)}`
          : say`, in ${zoneName(step.zone)}`
        : '';
      const reason = reasons.find(({ step: of }) => of === step.kind)?.sentence;
      const first = trial.id === work.trials[0]!.id && reason ? ` (${reason})` : '';
      return {
        label: stepOfKind(step.kind).title,
        text: `${summaryOf(step) || say`nothing to do`}${place}${first}`,
      };
    });
  return {
    title: trial.name,
    rows: [
      ...(trial.house
        ? [
            {
              label: say`House recipe`,
              text: say`${trial.house.name}, version ${trial.house.version}`,
            },
          ]
        : []),
      ...rows,
      { label: say`Resolution`, text: say`${formatPpi(trial.ppi)} ppi` },
      { label: say`Written as`, text: outputWords(trial.output) },
    ],
  };
}

/** What was signed for, and what was measured of it then. */
function approvedSection(approval: Approval | null): RecordSection[] {
  if (!approval) return [];
  const { trialName, fileName, initials, note, unseen, evidence } = approval;
  const rows: Row[] = [
    { label: say`By`, text: initials },
    { label: say`File`, text: say`${fileName}, of ${trialName}` },
    { label: say`Not seen at 1:1`, text: `${formatNumber(unseen * 100, 0)} %` },
  ];
  if (note) rows.push({ label: say`Note`, text: note });
  const measured = EVIDENCE_ROWS.map((row) => ({
    label: `${row.title}, ${row.unit}`,
    text: figureWords(row, evidence && row.of(evidence)),
  }));
  return [{ title: say`Approved`, rows: [...rows, ...(evidence ? measured : [])] }];
}

/** What the newest comparison sheet measured. */
function evidenceSection(sheet: SheetTask, day: (at: number) => string): RecordSection[] {
  const { rows, panes } = sheet.payload.words;
  if (rows.length === 0) return [];
  return [
    {
      title: say`Measured ${day(sheet.queuedAt)}`,
      rows: rows.map(({ title, figures }) => ({
        label: title,
        text: figures.map((figure, i) => `${panes[i]!.name} ${figure}`).join('; '),
      })),
    },
  ];
}

/** A file that was made: what it is, and by which numbers it can be made again. */
function runSection(run: Run, day: (at: number) => string): RecordSection {
  const { recipe } = run.payload;
  const file = artifactOf(run, 'result');
  const result = run.result!;
  const cm = (pixels: number, ppi: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 2);
  const models = modelsIn(recipe);
  return {
    title: say`Run of ${runTitle(run.payload)}, ${day(run.finishedAt ?? run.queuedAt)}`,
    rows: [
      {
        label: say`File`,
        text: say`${file?.fileName ?? '–'}, ${formatBytes(file?.bytes ?? 0)}, made in ${formatSeconds(result.seconds)}`,
      },
      { label: 'SHA-256', text: file?.digest ?? say`not kept` },
      {
        label: say`Read back`,
        text: say`${result.width} × ${result.height} pixels, ${formatNumber(result.ppi.x)} ppi, ${cm(result.width, result.ppi.x)} × ${cm(result.height, result.ppi.y)} cm, ${result.profile ?? say`no profile`}`,
      },
      ...recipe.steps.map((step) => ({ label: step.kind, text: stepNumbers(step) })),
      ...(models.length > 0 ? [{ label: say`Models`, text: models.join(', ') }] : []),
      { label: say`Settled recipe`, text: digestOfValue(recipe) },
      { label: say`Made again`, text: madeAgainWords(recipe) },
    ],
  };
}

/** Whether a settled recipe gives the same bytes today. */
export const isOfThisCore = ({ core }: Pick<Recipe, 'core'>): boolean => core === CORE_VERSION;

/** The same in a sentence. */
export const madeAgainWords = (recipe: Pick<Recipe, 'core'>): string =>
  isOfThisCore(recipe)
    ? say`The same original by this recipe gives the same bytes.`
    : say`It was made by core ${recipe.core}; this is core ${CORE_VERSION}, which would give other pixels.`;

/** Words longer than this stand for tables and masks. */
const LONGEST = 60;

function stepNumbers({ strength, zone, numbers }: RecipeStep): string {
  const share = strength === 100 ? '' : `${formatNumber(strength)} %, `;
  const place = zone ? say`, in a zone (${digestOfValue(zone).slice(0, 12)})` : '';
  return `${share}${numbersIn(numbers)}${place}`;
}

/** Numbers by their names; tables by their digest. */
function numbersIn(numbers: object): string {
  return Object.entries(numbers)
    .filter(([, value]) => value !== null && value !== undefined)
    .map(([name, value]) => {
      const plain = typeof value === 'number' ? formatNumber(value, 4) : canonicalJson(value);
      const text = typeof value === 'string' ? value : plain;
      return `${name} ${text.length > LONGEST ? digestOfValue(value).slice(0, 12) : text}`;
    })
    .join(', ');
}

/** The networks whose digests a recipe names. */
function modelsIn(recipe: Recipe): string[] {
  const text = canonicalJson(recipe.steps);
  return (Object.keys(MODELS) as ModelName[])
    .filter((name) => text.includes(MODELS[name].digest))
    .map((name) => `${MODELS[name].file} ${MODELS[name].digest.slice(0, 12)}`);
}
