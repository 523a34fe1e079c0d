import { z } from 'zod';
import { ProcessNews } from './processes';

/** Something that is not as the shop's records say. */
export const Discrepancy = z.object({
  /** what it is about, as "0403, dome.jpg" or a path in the data folder */
  about: z.string(),
  /** what is wrong, and what to do, in sentences */
  words: z.string(),
});
export type Discrepancy = z.infer<typeof Discrepancy>;

/** How many of each were compared with the records. */
const Checked = z.object({
  originals: z.int(),
  pictures: z.int(),
  changes: z.int(),
  masks: z.int(),
  results: z.int(),
  files: z.int(),
});

/** A comparison of database, files and digests. */
export const Audit = z.object({
  /** when it was over, in milliseconds since 1970 */
  at: z.int(),
  seconds: z.number(),
  checked: Checked,
  found: z.array(Discrepancy),
});
export type Audit = z.infer<typeof Audit>;

/** What the shop's page shows. */
export const ShopState = z.object({
  /** null where nobody supervises, as in development */
  news: ProcessNews.nullable(),
  disk: z.object({
    /** as it was last measured; null where it never was */
    originals: z.number().nullable(),
    /** bytes of what can be made again, and how much of it may be kept */
    again: z.number().nullable(),
    againLimit: z.number(),
    free: z.number(),
  }),
  /** the last one, or null where there was none yet */
  audit: Audit.nullable(),
  auditing: z.boolean(),
});
export type ShopState = z.infer<typeof ShopState>;
