import { z } from 'zod';

/** How a process of the shop is. */
export const Alive = z.object({
  up: z.boolean(),
  /** when that began, in milliseconds since 1970 */
  since: z.number(),
  /** how often it ended by itself since the shop was opened */
  ended: z.int(),
});
export type Alive = z.infer<typeof Alive>;

/** How the shop's own processes are, as its supervisor tells it. */
export const ProcessNews = z.object({ web: Alive, tasks: Alive, devices: Alive });
export type ProcessNews = z.infer<typeof ProcessNews>;
