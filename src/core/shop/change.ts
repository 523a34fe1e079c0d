// Its named exports are not seen from Node's modules.
import jsonPatch, { type Operation } from 'fast-json-patch';
import { z } from 'zod';

/** What was changed of a work, as JSON Patch (RFC 6902): additions, replacements and removals alone. */
export const Patch = z
  .array(
    z.discriminatedUnion('op', [
      z.object({ op: z.enum(['add', 'replace']), path: z.string().max(300), value: z.json() }),
      z.object({ op: z.literal('remove'), path: z.string().max(300) }),
    ]),
  )
  .max(20_000);
export type Patch = z.infer<typeof Patch>;

/** What leads from one value to another. */
export const patchBetween = (from: object, to: object): Patch =>
  // Whatever stands in a work came from JSON, and what is not defined is not in it.
  Patch.parse(jsonPatch.compare(plain(from), plain(to)));

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * A value with a patch applied; the value itself stays.
 * @throws where the patch doesn't fit it
 */
export const patched = (value: object, patch: Patch): unknown =>
  jsonPatch.applyPatch(plain(value), patch as Operation[], true, true, true).newDocument;
