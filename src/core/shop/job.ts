import { z } from 'zod';
import { Findings } from '../inspect/findings';
import { Paper } from '../measure/paper';
import type { TakenOut } from '../placed/placed';
import { Author } from './author';
import { Patch } from './change';
import { Distance, Work } from '../recipe/work';
import { ShopEvent } from './event';
import { JobState } from './job-state';
import { ProofTask, Run } from './task';
import { say } from '../words/say';

export { JobState };

/** A calendar day, as the order says it. */
const Day = z.iso.date();

/** A file's name for showing: one line, without path or control characters, of bearable length. */
export const FileName = z
  .string()
  .transform((name) =>
    name
      .normalize()
      .replace(/[\p{C}\u2028\u2029]/gu, '')
      .replace(/^.*[\\/]/, '')
      .trim(),
  )
  .transform((name) => (name.length > 120 ? `${name.slice(0, 80)}…${name.slice(-30)}` : name))
  .transform((name) => name || 'unnamed');

const line = (longest: number) => z.string().trim().max(longest);

/** Whatever is to be kept in mind about a job. */
const JobNote = line(1000);

/** A picture that was taken in, for a job. */
export const NewPicture = z.object({
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  fileName: FileName,
  page: z.int().positive().default(1),
});
export type NewPicture = z.infer<typeof NewPicture>;

/** What a picture is planned for. */
const Ordered = z.object({
  paper: Paper,
  distance: Distance,
  device: line(60).nullable().default(null),
  material: line(60).nullable().default(null),
});

/** The most pictures that are begun with at once. */
const PICTURES = 100;

/** A name of what is asked for: asked again after an answer that was lost, it is not done twice. */
const Once = z.uuid().optional();

/** What a new job is begun with. */
export const NewJob = Ordered.extend({
  title: line(120).min(1),
  customer: line(120),
  due: Day.nullable(),
  note: JobNote.optional(),
  pictures: z.array(NewPicture).min(1).max(PICTURES),
  once: Once,
});
export type NewJob = z.infer<typeof NewJob>;

/** What of a job can be changed on the board. */
export const JobChange = z
  .object({
    state: JobState,
    /** off the board, kept in the archive */
    archived: z.boolean(),
    title: line(120).min(1),
    customer: line(120),
    due: Day.nullable(),
    note: JobNote,
  })
  .partial()
  .refine((change) => Object.keys(change).length > 0, say`says nothing that is to be changed`);
export type JobChange = z.infer<typeof JobChange>;

/** More pictures for a job, ordered as its first one unless it says otherwise. */
export const NewPieces = z.object({
  pictures: z.array(NewPicture).min(1).max(PICTURES),
  once: Once,
});
export type NewPieces = z.infer<typeof NewPieces>;

/** What a job is, apart from its pictures. */
export const JobHead = z.object({
  id: z.int(),
  number: z.string(),
  title: z.string(),
  customer: z.string(),
  due: Day.nullable(),
  state: JobState,
  archived: z.boolean(),
  note: z.string(),
});
export type JobHead = z.infer<typeof JobHead>;

/** A picture that was taken out of a page of shapes, and what was found in it. */
export const TakenOutPicture = z.object({
  picture: z.int(),
  digest: z.string(),
  findings: Findings,
}) satisfies z.ZodType<TakenOut>;

/** One entry of a piece's history. */
export const HistoryEntry = z.object({
  id: z.int(),
  label: z.string(),
  at: z.int(),
  author: Author.nullable(),
});
export type HistoryEntry = z.infer<typeof HistoryEntry>;

/** One picture of a job, with all that was decided about it. */
export const Piece = z.object({
  id: z.int(),
  jobId: z.int(),
  digest: z.string(),
  fileName: z.string(),
  findings: Findings,
  /** pictures that were taken out of its page */
  takenOut: z.array(TakenOutPicture),
  work: Work,
  /** why the first trial was proposed as it is, by step */
  reasons: z.array(z.object({ step: z.string(), sentence: z.string() })),
  /** counts every change, undo and redo; a write must name the one it was based on */
  revision: z.int(),
  /** who made this revision; null where nobody said so */
  author: Author.nullable(),
  /** the way from the beginning to the newest change of this line; `current` is where it stands */
  history: z.array(HistoryEntry),
  current: z.int(),
});
export type Piece = z.infer<typeof Piece>;

/** A job on the bench. */
export const JobView = JobHead.extend({
  /** all its pictures, in order */
  pieces: z.array(
    z.object({ id: z.int(), digest: z.string(), page: z.int(), fileName: z.string() }),
  ),
  /** the one on the bench */
  piece: Piece,
  runs: z.array(Run),
  proofs: z.array(ProofTask),
  /** what happened to it, the newest first */
  events: z.array(ShopEvent),
});
export type JobView = z.infer<typeof JobView>;

/** A change of a piece: what of its work is changed, based on a revision. */
export const PieceChange = z.object({
  revision: z.int(),
  label: line(120).min(1),
  patch: Patch,
  author: Author.nullable().default(null),
});
export type PieceChange = z.input<typeof PieceChange>;

/** Moves along a piece's history: to one of its entries. */
export const PieceMove = z.object({
  revision: z.int(),
  to: z.int(),
  author: Author.nullable().default(null),
});
export type PieceMove = z.input<typeof PieceMove>;

/** Asks for a run of a trial as it stands at a revision: of the finished picture, or as it is after one of its steps. */
export const RunRequest = z.object({
  revision: z.int(),
  trialId: z.string(),
  /** place of the step in the trial's treatment; null for all of them */
  after: z.int().min(0).nullable().default(null),
});
export type RunRequest = z.input<typeof RunRequest>;

/** What the upload of a file answers. */
export const TakenIn = z.object({
  digest: z.string(),
  fileName: z.string(),
  /** whether the shop had this very file already */
  known: z.boolean(),
  findings: Findings,
});
export type TakenIn = z.infer<typeof TakenIn>;
