import { z } from 'zod';
import { Kind } from '../inspect/kind';
import { Ppi } from '../measure/plan';
import { NamePattern } from '../output/names';
import { Output } from '../output/output';
import { RunCost } from '../render/throughput';
import { Author } from '../shop/author';
import { BoardFacts } from '../shop/board';
import { FileName } from '../shop/job';
import { TaskState } from '../shop/task';
import { SizeRule } from './size-rule';

/** The most pictures of a batch, and of one call about them. */
export const BATCH_MOST = 5000;
export const CALL_MOST = 100;

/** How each picture of a batch is treated. */
export const StepsChoice = z.discriminatedUnion('by', [
  /** by the trial that it has */
  z.object({ by: z.literal('kept') }),
  /** as is proposed for it alone */
  z.object({ by: z.literal('proposed') }),
  /** by the house recipe that suits it; as is proposed where none does */
  z.object({ by: z.literal('suiting') }),
  z.object({ by: z.literal('house'), id: z.int() }),
]);
export type StepsChoice = z.infer<typeof StepsChoice>;

/** What is chosen of how results are written; all else as each trial has it. */
export const FileForm = Output.pick({ format: true, quality: true });
export type FileForm = z.infer<typeof FileForm>;

/** What is decided for all pictures of a batch at once. */
export const BatchPlan = z.object({
  size: SizeRule,
  steps: StepsChoice,
  /** resolution of results; null leaves it as each has it */
  ppi: Ppi.nullable(),
  file: FileForm.nullable(),
  /** what its results are called */
  names: NamePattern,
  /** the folder of the server's configuration that results are put into; null where they are fetched */
  folder: z.string().max(60).nullable(),
});
export type BatchPlan = z.infer<typeof BatchPlan>;

/** What is decided anew for some of its pictures. */
export const ItemChange = BatchPlan.pick({
  size: true,
  steps: true,
  ppi: true,
  file: true,
}).partial();
export type ItemChange = z.infer<typeof ItemChange>;

const Name = z.string().trim().min(1).max(120);

export const NewBatch = z.object({ name: Name, plan: BatchPlan });
export type NewBatch = z.infer<typeof NewBatch>;

/** Whether pictures of it are made: not yet, now, no more for the moment, or all of them are. */
export const BatchState = z.enum(['prepared', 'running', 'paused', 'done']);
export type BatchState = z.infer<typeof BatchState>;

export const BatchChange = z
  .object({
    name: Name,
    /** runs it, or pauses it */
    state: z.enum(['running', 'paused']),
    /** what is decided for results that are made from now on */
    names: NamePattern,
    folder: BatchPlan.shape.folder,
  })
  .partial();
export type BatchChange = z.infer<typeof BatchChange>;

/** A file that was brought to a batch and is no picture that can be used. */
const Refused = z.object({ name: FileName, why: z.string().max(500) });

/** Pictures of jobs that join a batch, and files that could not. */
export const NewItems = z.object({
  pieces: z.array(z.int()).max(CALL_MOST),
  refused: z.array(Refused).max(CALL_MOST).default([]),
  author: Author.nullable().default(null),
});
export type NewItems = z.input<typeof NewItems>;

const items = z.array(z.int()).min(1).max(CALL_MOST);

/** What somebody says of a result: it is good, or goes to the bench. */
export const Judgement = z.enum(['good', 'to the bench']);
export type Judgement = z.infer<typeof Judgement>;

/** One act on some pictures of a batch. */
export const ItemsAct = z.discriminatedUnion('act', [
  z.object({
    act: z.literal('change'),
    items,
    change: ItemChange,
    author: Author.nullable().default(null),
  }),
  /** back to where pictures were before they were changed */
  z.object({
    act: z.literal('undo'),
    moves: z
      .array(
        z.object({
          ...{ item: z.int(), revision: z.int(), to: z.int() },
          ...{ trial: z.string().max(40), own: z.boolean() },
        }),
      )
      .min(1)
      .max(CALL_MOST),
    author: Author.nullable().default(null),
  }),
  z.object({ act: z.literal('judge'), items, judgement: Judgement.nullable() }),
  /** made once more: what failed, was cancelled, or was changed since */
  z.object({ act: z.literal('retry'), items }),
  /** made before all others that wait, or behind them */
  z.object({ act: z.literal('move'), items, to: z.enum(['first', 'last']) }),
  /** made in the places that they had */
  z.object({
    act: z.literal('place'),
    places: z
      .array(z.object({ item: z.int(), position: z.number() }))
      .min(1)
      .max(CALL_MOST),
  }),
  /** out of the batch, or into it again; their jobs stay as they are */
  z.object({ act: z.literal('leave'), items }),
  z.object({ act: z.literal('return'), items }),
]);
export type ItemsAct = z.infer<typeof ItemsAct>;

/** What came of it: the others go on where one can't be acted on. */
export const ItemsOutcome = z.object({
  done: z.int(),
  failed: z.array(z.object({ item: z.int(), words: z.string() })),
  /** what takes it back, one act after the other */
  undo: z.array(ItemsAct),
});
export type ItemsOutcome = z.infer<typeof ItemsOutcome>;

/** What the table shows of a picture, as it stands. */
export const ItemFacts = BoardFacts.pick({
  digest: true,
  page: true,
  print: true,
  verdict: true,
}).extend({
  kind: Kind,
  /** what it suffers from, in words */
  suffers: z.array(z.string()),
  /** share of it that is missing, 0–1 */
  damaged: z.number(),
  trialId: z.string(),
  trial: z.string(),
  /** house recipe that the trial was begun by, and whether it still is as that says */
  house: z.object({ id: z.int(), name: z.string(), changed: z.boolean() }).nullable(),
  /** target resolution, and pixels of the result */
  ppi: z.number(),
  pixels: z.object({ width: z.int(), height: z.int() }).nullable(),
  file: FileForm,
  cost: RunCost.nullable(),
  /** why it can't be made */
  trouble: z.string().nullable(),
  /** names what its result follows from */
  made: z.string(),
});
export type ItemFacts = z.infer<typeof ItemFacts>;

/** Where a picture of a batch stands; what was made may be of what was decided before. */
export const ItemState = z.enum([...TaskState.options, 'not yet', 'changed since']);
export type ItemState = z.infer<typeof ItemState>;

/** A row of a batch's table. */
export const BatchItem = z.object({
  id: z.int(),
  position: z.number(),
  piece: z.int(),
  jobId: z.int(),
  number: z.string(),
  fileName: z.string(),
  revision: z.int(),
  facts: ItemFacts,
  state: ItemState,
  /** of its run, 0–1 */
  progress: z.number(),
  task: z.string().nullable(),
  /** why it failed */
  error: z.string().nullable(),
  /** its result's name and size, where there is one; null once that was cleared away */
  result: z.object({ name: z.string(), bytes: z.int() }).nullable(),
  /** its name in the folder of results */
  delivered: z.string().nullable(),
  judgement: Judgement.nullable(),
});
export type BatchItem = z.infer<typeof BatchItem>;

/** Up to which changes somebody knows a batch's rows: of themselves, and of their runs. */
export const ItemsKnown = z.object({
  items: z.coerce.number().int().min(0).default(0),
  tasks: z.coerce.number().int().min(0).default(0),
});
export type ItemsKnown = z.infer<typeof ItemsKnown>;

/** Rows that changed after that, and how many there are by now. */
export const ItemsNews = z.object({
  rows: z.array(BatchItem),
  count: z.int(),
  known: ItemsKnown,
});
export type ItemsNews = z.infer<typeof ItemsNews>;

/** A batch in the list of all. */
export const BatchHead = z.object({
  id: z.int(),
  name: z.string(),
  state: BatchState,
  plan: BatchPlan,
  createdAt: z.int(),
  /** pictures in each state, without those that left */
  states: z.partialRecord(ItemState, z.int()),
  pictures: z.int(),
  judged: z.partialRecord(Judgement, z.int()),
  refused: z.array(Refused),
  /** what keeps it from going on, or its results from their folder */
  trouble: z.string().nullable(),
  /** seconds that are left, at least and at most; null where nothing is */
  left: z.object({ least: z.number(), most: z.number() }).nullable(),
  /** a few of its pictures to know it by */
  pieces: z.array(BoardFacts.pick({ digest: true, page: true })),
});
export type BatchHead = z.infer<typeof BatchHead>;

/** What is told of batches while they are made: the number of the last change, and which run. */
export const BatchNews = z.object({
  last: z.int(),
  running: z.array(BatchHead.pick({ id: true, name: true })),
});
export type BatchNews = z.infer<typeof BatchNews>;

/** What is left to be made of a batch. */
export const LEFT: readonly ItemState[] = ['not yet', 'changed since', 'queued', 'running'];
/** What can be made once more. */
export const AGAIN: readonly ItemState[] = ['failed', 'cancelled', 'changed since'];
