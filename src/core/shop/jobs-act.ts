import { z } from 'zod';
import { JobChange } from './job';

/** The most jobs that one act is done to. */
export const ACT_MOST = 500;

const jobs = z.array(z.int()).min(1).max(ACT_MOST);

/** One act on several jobs of the board. */
export const JobsAct = z.discriminatedUnion('act', [
  z.object({ act: z.literal('change'), jobs, change: JobChange }),
  /** off the board, with their pictures */
  z.object({ act: z.literal('delete'), jobs }),
  /** brought back after that */
  z.object({ act: z.literal('restore'), jobs }),
  /** another job of each, as it stands now */
  z.object({ act: z.literal('duplicate'), jobs }),
]);
export type JobsAct = z.infer<typeof JobsAct>;

/** What came of it: the others go on where one can't be acted on. */
export const JobsOutcome = z.object({
  /** jobs that it was done to, or that came of it */
  done: z.array(z.int()),
  failed: z.array(z.object({ job: z.int(), words: z.string() })),
  /** what takes it back, one act after the other */
  undo: z.array(JobsAct),
});
export type JobsOutcome = z.infer<typeof JobsOutcome>;
