import { z } from 'zod';

/** What a file says of the order that it belongs to. */
export const Facts = z.object({
  /** number of the job */
  job: z.string(),
  title: z.string(),
  customer: z.string(),
  /** the trial's name */
  trial: z.string(),
  /** the ordered size, in words */
  size: z.string(),
  /** the day on which the run was asked for */
  date: z.iso.date(),
});
export type Facts = z.infer<typeof Facts>;

/** A file's title: the order's, and its number. */
export const titled = ({ job, title }: Facts): string => [job, title].filter(Boolean).join(' ');

/** The line that is printed beside a picture. */
export const slugLine = ({ job, title, customer, trial, size, date }: Facts): string =>
  [job, customer, title, trial, size, date].filter(Boolean).join('  ·  ');
