import { z } from 'zod';
import { Guards } from '../guard/guards';
import { Kind } from '../inspect/kind';
import { Ppi } from '../measure/plan';
import { Output } from '../output/output';
import { RECIPE_VERSION } from '../recipe/versions';
import { Treatment } from '../recipe/work';
import { Author } from '../shop/author';
import { Zone } from '../zone/zone';
import { HouseName, HouseVersion } from './house-version';

/** A zone that is computed of every picture anew. */
const ComputedZone = Zone.extend({ painted: z.null() });

/** What a house recipe holds: how pictures are treated, without what belongs to one of them alone. */
export const HouseContent = z.object({
  /** its first form was that of version 6 */
  version: z.literal(RECIPE_VERSION),
  /** what kind of picture it is for; null for any */
  kind: Kind.nullable(),
  /** what it is printed on, by its name in the shop's list; null on anything */
  material: z.string().trim().max(60).nullable(),
  note: z.string().trim().max(500),
  treatment: Treatment,
  guards: Guards,
  zones: z.array(ComputedZone).max(40),
  /** resolution of results; null leaves it to the device, or to what the trial had */
  ppi: Ppi.nullable(),
  /** how results are written; null leaves that as the trial had it */
  output: Output.nullable(),
});
export type HouseContent = z.infer<typeof HouseContent>;

/** What became of pictures that were treated by a recipe. */
export const HouseEvidence = z.object({
  /** pictures that have a trial of it */
  pictures: z.int(),
  /** trials of it that differ from it by now */
  changed: z.int(),
  /** trials of it that somebody signed for */
  approved: z.int(),
  /** pictures of which a file was sent to a device */
  sent: z.int(),
  /** when a trial was last begun by it; null where none is there */
  lastUsed: z.int().nullable(),
});
export type HouseEvidence = z.infer<typeof HouseEvidence>;

/** A version as it was made. */
export const PastHouse = HouseVersion.extend({
  content: HouseContent,
  at: z.int(),
  author: Author.nullable(),
});
export type PastHouse = z.infer<typeof PastHouse>;

/** A house recipe as the shop keeps it: its newest version. */
export const HouseRecipe = PastHouse.extend({
  /** whether it came with the application, and is as it came */
  asShipped: z.boolean(),
});
export type HouseRecipe = z.infer<typeof HouseRecipe>;

/** A house recipe in the list of all. */
export const ListedHouse = HouseRecipe.extend({ evidence: HouseEvidence });
export type ListedHouse = z.infer<typeof ListedHouse>;

/** What a new recipe, or a new version of one, is made of. */
export const HouseDraft = z.object({
  name: HouseName,
  content: HouseContent,
  author: Author.nullable().default(null),
});
export type HouseDraft = z.input<typeof HouseDraft>;

/** A change of one, based on the version that was seen. */
export const HouseChange = HouseDraft.extend({ version: HouseVersion.shape.version });
export type HouseChange = z.input<typeof HouseChange>;
