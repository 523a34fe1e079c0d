import { z } from 'zod';

/** A picture of one of several jobs. */
export const PictureOfJob = z.object({
  piece: z.int(),
  jobId: z.int(),
  /** the job's number, as 0401 */
  number: z.string(),
  digest: z.string(),
  page: z.int(),
  fileName: z.string(),
});
export type PictureOfJob = z.infer<typeof PictureOfJob>;
