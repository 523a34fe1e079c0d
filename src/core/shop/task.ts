import { z } from 'zod';
import { Facts } from '../output/facts';
import { Recipe } from '../recipe/recipe';
import { ProofPayload } from './proof';
import { SheetPayload } from './sheet';
import { say } from '../words/say';

export const TaskState = z.enum(['queued', 'running', 'done', 'failed', 'cancelled']);
export type TaskState = z.infer<typeof TaskState>;

/** A file that a task made. */
export const Artifact = z.object({
  /** what it is to the task */
  role: z.enum(['result']),
  fileName: z.string(),
  bytes: z.int(),
  /** SHA-256 of its bytes; null where it was made before digests were kept */
  digest: z.string().nullable(),
  /** when its file was cleared away to make room, or null while it is there; its recipe makes the same bytes again */
  goneAt: z.int().nullable().default(null),
});
export type Artifact = z.infer<typeof Artifact>;

/** Work that the shop's process does, one after the other: what all kinds have in common. */
const TaskHead = z.object({
  id: z.string(),
  /** the task that it belongs to: cancelled together */
  parent: z.string().nullable(),
  jobId: z.int(),
  pieceId: z.int(),
  jobTitle: z.string(),
  state: TaskState,
  /** 0–1 */
  progress: z.number(),
  queuedAt: z.int(),
  /** tasks that wait begin in the order of their ranks */
  rank: z.number(),
  startedAt: z.int().nullable(),
  finishedAt: z.int().nullable(),
  error: z.string().nullable(),
  artifacts: z.array(Artifact),
});

/** What a rendering makes: a trial at its full size. */
export const RenderPayload = z.object({
  trialId: z.string(),
  trialName: z.string(),
  /** after which step of the trial, as "after deblur"; null where it is finished */
  stage: z.string().nullable().default(null),
  recipe: Recipe,
  fileName: z.string(),
  /** the run whose recipe is done again, and the digest of its file; null where a trial was asked for */
  again: z.object({ run: z.string(), digest: z.string().nullable() }).nullable().default(null),
  /** what its file says of the order; null where it was made before files did */
  facts: Facts.nullable().default(null),
  /** the batch that it is made for; null where it was asked for by itself */
  batch: z.int().nullable().default(null),
});

/** What its file says of itself, read back, and how long it took. */
export const RenderResult = z.object({
  width: z.int(),
  height: z.int(),
  ppi: z.object({ x: z.number(), y: z.number() }),
  profile: z.string().nullable(),
  seconds: z.number(),
  /** whether it went on from an attempt before, whose time is not counted */
  resumed: z.boolean().default(false),
});
export type RenderResult = z.infer<typeof RenderResult>;

/** The full-size rendering of a trial, called a run in the interface. */
export const Run = TaskHead.extend({
  kind: z.literal('render'),
  payload: RenderPayload,
  result: RenderResult.nullable(),
});
export type Run = z.infer<typeof Run>;

/** The making of a comparison sheet. */
export const SheetTask = TaskHead.extend({
  kind: z.literal('sheet'),
  payload: SheetPayload,
  result: z.object({ seconds: z.number() }).nullable(),
});
export type SheetTask = z.infer<typeof SheetTask>;

/** The making of a proof. */
export const ProofTask = TaskHead.extend({
  kind: z.literal('proof'),
  payload: ProofPayload,
  result: RenderResult.nullable(),
});
export type ProofTask = z.infer<typeof ProofTask>;

/** A task of any kind. */
export const Task = z.discriminatedUnion('kind', [Run, SheetTask, ProofTask]);
export type Task = z.infer<typeof Task>;
export type TaskKind = Task['kind'];

/** What is told of a task while it goes on: which it is, its place, and how far. */
export const TaskEvent = TaskHead.pick({
  id: true,
  jobId: true,
  pieceId: true,
  state: true,
  progress: true,
  rank: true,
});
export type TaskEvent = z.infer<typeof TaskEvent>;

/** What a run makes: a trial, or what it is after one of its steps. */
export const runTitle = ({ trialName, stage }: z.infer<typeof RenderPayload>): string =>
  stage ? `${trialName} ${stage}` : trialName;

/** What a task makes, in a word or two. */
export const titleOf = (task: Pick<Task, 'kind' | 'payload'>): string =>
  'trialName' in task.payload
    ? runTitle(task.payload)
    : task.kind === 'proof'
      ? 'Proof'
      : say`Comparison sheet`;

/** Whether it is not over. */
export const isOpen = ({ state }: Pick<Task, 'state'>): boolean =>
  state === 'queued' || state === 'running';

/** The file of a task in a role, if it made one. */
export const artifactOf = ({ artifacts }: Task, role: Artifact['role']): Artifact | undefined =>
  artifacts.find((one) => one.role === role);

/** Moves a waiting task before another one, or to the end. */
export const TaskMove = z.object({ before: z.string().max(60).nullable() });
export type TaskMove = z.infer<typeof TaskMove>;
