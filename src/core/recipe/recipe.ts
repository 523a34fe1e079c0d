import { z } from 'zod';
import { Rect, Turn } from '../frame/framing';
import { Colour } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { RecipeStep } from '../steps';
import { Output } from '../output/output';
import { RECIPE_VERSION, recipeForward } from './versions';

/** Changes when any kernel's result changes: part of what makes a recipe reproducible. */
export const CORE_VERSION = '11';

/** How a picture that is drawn from shapes comes to its pixels. */
export const Drawn = z.object({
  /** part of the page, turned as below, in pixels of its nominal grid */
  source: Rect,
  turn: Turn,
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
    }),
    steps: z.array(RecipeStep),
    output: Output,
  }),
);
export type Recipe = z.infer<typeof Recipe>;
