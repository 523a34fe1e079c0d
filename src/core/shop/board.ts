import { z } from 'zod';
import type { Findings } from '../inspect/findings';
import { orderedWords } from '../measure/ordered-words';
import { leastPpi } from '../measure/plan';
import { verdict } from '../measure/verdict';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import type { Work } from '../recipe/work';
import { JobHead, JobState } from './job';

/** What the board shows of a job beside its head: what follows from its first picture's order. */
export const BoardFacts = z.object({
  digest: z.string(),
  page: z.int(),
  /** the ordered paper, in the unit that it was typed in */
  print: z.string(),
  /** the print's sides in inches; null where it can't be planned */
  inches: z.object({ width: z.number(), height: z.number() }).nullable(),
  /** effective resolution at that size; null for shapes and where it can't be planned */
  ppi: z.number().nullable(),
  /** how it looks from its distance */
  verdict: z.object({ tone: z.enum(['good', 'caution', 'trouble']), short: z.string() }).nullable(),
  /** what it is printed on; null where that isn't chosen yet */
  material: z.string().nullable(),
});
export type BoardFacts = z.infer<typeof BoardFacts>;

/** Changes with what the facts are computed by: kept ones are then computed anew. */
export const BOARD_VERSION = 6;

export function boardFacts(digest: string, findings: Findings, work: Work): BoardFacts {
  const planned = planOf(originalOf(digest, findings), work, work.trials[0]!.ppi);
  const plan = planned.ok ? planned.plan : null;
  const judged =
    plan && verdict(plan, work.distance, { ...findings, kind: work.kind ?? findings.kind });
  return {
    digest,
    page: work.framing.page,
    print: plan ? orderedWords(plan, work.paper) : `${findings.width} × ${findings.height} px`,
    inches: plan && { width: plan.ordered.width, height: plan.ordered.height },
    ppi: plan && !plan.vector ? leastPpi(plan) : null,
    verdict: judged && { tone: judged.tone, short: judged.short },
    material: work.material,
  };
}

/** A job's row on the board. */
export const BoardRow = JobHead.extend({
  /** how many pictures it has */
  pieces: z.int(),
  facts: BoardFacts,
});
export type BoardRow = z.infer<typeof BoardRow>;

/** What the board can be sorted by. */
export const BoardOrder = z.enum(['number', 'title', 'print', 'ppi', 'verdict', 'due', 'state']);
export type BoardOrder = z.infer<typeof BoardOrder>;

/** Rows of a page of the board. */
export const BOARD_PAGE = 60;

/** When jobs are due, as the board is filtered: over, today, within seven days, or never. */
export const DueFilter = z.enum(['late', 'today', 'week', 'never']);
export type DueFilter = z.infer<typeof DueFilter>;

const Flag = z.enum(['0', '1']).transform((flag) => flag === '1');

/** Which page of the board is asked for, as words of an address. */
export const BoardQuery = z.object({
  archived: Flag.default(false),
  state: JobState.optional(),
  /** every word of it must be found in number, title or customer */
  search: z.string().max(200).default(''),
  customer: z.string().max(120).optional(),
  material: z.string().max(60).optional(),
  due: DueFilter.optional(),
  order: BoardOrder.default('due'),
  down: Flag.default(false),
  page: z.coerce.number().int().min(0).max(100_000).default(0),
});
export type BoardQuery = z.infer<typeof BoardQuery>;

/** The words that a search looks for. */
export const searchWords = (search: string): string[] =>
  search.toLowerCase().split(/\s+/).filter(Boolean);

/** The most entries of a list that the board is filtered by. */
export const FILTER_MOST = 200;

export const BoardPage = z.object({
  rows: z.array(BoardRow),
  /** what rows can be filtered by: those that jobs here have, by name */
  customers: z.array(z.string()),
  materials: z.array(z.string()),
  /** rows of all pages */
  total: z.int(),
  /** jobs in each state, and all of them, whatever is searched for */
  states: z.partialRecord(JobState, z.int()),
  jobs: z.int(),
  /** jobs in the archive, and in the whole shop */
  archive: z.int(),
  shop: z.int(),
});
export type BoardPage = z.infer<typeof BoardPage>;
