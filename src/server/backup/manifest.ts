import { z } from 'zod';

/** The list of what an archive holds, in it under this name, behind everything else. */
export const MANIFEST = 'manifest.json';
export const DATABASE = 'lontano.sqlite';

const HEX = '[0-9a-f]';
/** All that a shop's archive may hold: names are digests and task numbers alone, so that none leads elsewhere. */
const NAMES = new RegExp(
  `^(${[
    DATABASE.replace('.', '\\.'),
    'words\\.json',
    `originals/${HEX}{2}/${HEX}{64}`,
    `masks/${HEX}{2}/${HEX}{64}\\.gz`,
    `profiles/${HEX}{64}\\.icc`,
    'results/[0-9a-z-]{8,40}',
  ].join('|')})$`,
);

export const Entry = z.object({
  name: z.string().regex(NAMES, 'is no file of a shop'),
  bytes: z.int().min(0),
  /** SHA-256 */
  digest: z.string().regex(/^[0-9a-f]{64}$/),
});
export type Entry = z.infer<typeof Entry>;

export const Manifest = z.object({
  form: z.literal(1),
  /** in milliseconds since 1970 */
  at: z.int(),
  /** version of the core that results of it were made by */
  core: z.string(),
  entries: z.array(Entry).max(5_000_000),
});
export type Manifest = z.infer<typeof Manifest>;
