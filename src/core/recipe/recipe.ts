import { z } from 'zod';
import { Rect, Turn } from '../frame/framing';
import { Colour } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { RecipeStep } from '../steps';
import { Affine, PLACED_LIMIT } from '../placed/placed';
import { Output } from '../output/output';
import { RECIPE_VERSION, recipeForward } from './versions';

/** Changes when any kernel's result changes: part of what makes a recipe reproducible. */
export const CORE_VERSION = '14';

/** A picture on a page of shapes that was taken out, treated, and is drawn in its place. */
const PlacedRecipe = z.object({
  /** its number among the page's pictures */
  picture: z.int().positive(),
  place: Affine,
  get recipe(): z.ZodType<Recipe> {
    return Recipe;
  },
});
export type PlacedRecipe = z.infer<typeof PlacedRecipe>;

/** How a picture that is drawn from shapes comes to its pixels. */
export const Drawn = z.object({
  /** part of the page, turned as below, in pixels of its nominal grid */
  source: Rect,
  turn: Turn,
  /** pictures on the page that are drawn as they were treated; all others as they are */
  placed: z.array(PlacedRecipe).max(PLACED_LIMIT).default([]),
});
export type Drawn = z.infer<typeof Drawn>;

/** A recipe in which nothing is left to decide: the same one gives the same bytes. */
export const Recipe = z.preprocess(
  recipeForward,
  z.object({
    version: z.literal(RECIPE_VERSION),
    core: z.string(),
    original: z.object({
      digest: z.string(),
      page: z.int().positive(),
      /** of the pixels that the steps begin with */
      width: z.int().positive(),
      height: z.int().positive(),
      /** null where the file holds pixels */
      drawn: Drawn.nullable(),
    }),
    /** what becomes of transparency */
    alpha: z.enum(['none', 'kept', 'laid']),
    /** what transparent parts are laid on */
    colour: Colour,
    target: z.object({
      width: z.int().positive(),
      height: z.int().positive(),
      ppi: Ppi,
      /** how many of them lie beyond the trim on every side */
      bleed: z.int().min(0).default(0),
    }),
    steps: z.array(RecipeStep),
    /** the original's own bytes are written, with another size tag: its compression is not undone */
    tagOnly: z.boolean().default(false),
    /** dithered always or never */
    output: Output,
  }),
);
/** Where a region of a result lies for dithering; null where it isn't dithered. */
export const ditherOf = <R extends { x: number; y: number }>(
  { output }: Recipe,
  region: R,
): R | null => (output.dither === 'always' && output.depth === 8 ? region : null);

// A picture on a page has a recipe of its own: only an interface can name itself.
// eslint-disable-next-line @typescript-eslint/no-empty-object-type
export interface Recipe extends z.infer<typeof Recipe> {}
