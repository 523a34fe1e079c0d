import * as v1 from './v1';
import * as v2 from './v2';
import * as v3 from './v3';
import * as v4 from './v4';
import * as v5 from './v5';

/**
 * Version of the forms of works, recipes and treatment files. Older ones are brought forward when they
 * are read, one version at a time; a change of a form adds a file here.
 */
export const RECIPE_VERSION = 6;

/** A work of an earlier version in the present form. Anything else is left to the schema. */
export const workForward = (value: unknown): unknown =>
  v5.work(v4.work(v3.work(v2.work(v1.work(value)))));

/** A recipe of an earlier version as it would stand today; it stays marked with its own core. */
export const recipeForward = (value: unknown): unknown =>
  v5.recipe(v4.recipe(v3.recipe(v2.recipe(v1.recipe(value)))));

/** A treatment file of an earlier version; the first ones were of version 3. */
export const treatmentFileForward = (value: unknown): unknown =>
  v5.treatmentFile(v4.treatmentFile(v3.treatmentFile(value)));
