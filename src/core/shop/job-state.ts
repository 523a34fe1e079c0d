import { z } from 'zod';

/** Where a job stands on its way through the shop. */
export const JobState = z.enum([
  'received',
  'on the bench',
  'proofed',
  'approved',
  'sent',
  'printed',
]);
export type JobState = z.infer<typeof JobState>;
