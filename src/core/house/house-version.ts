import { z } from 'zod';

/** What a house recipe is called, in the list and on trials. */
export const HouseName = z.string().trim().min(1).max(60);

/** A version of a house recipe, by which a trial was begun. */
export const HouseVersion = z.object({
  id: z.int(),
  version: z.int().min(1),
  name: HouseName,
});
export type HouseVersion = z.infer<typeof HouseVersion>;
