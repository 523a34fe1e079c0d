import { z } from 'zod';

/** A watched folder, as it was last looked at. */
export const WatchedFolder = z.object({
  name: z.string(),
  /** files that became jobs, and files that were put aside */
  takenIn: z.int(),
  putAside: z.int(),
  /** why nothing is taken from it just now */
  trouble: z.string().nullable(),
  /** in milliseconds since 1970; null before the first time */
  lookedAt: z.int().nullable(),
});
export type WatchedFolder = z.infer<typeof WatchedFolder>;

/** Folders that the server's configuration names; where they lie is the server's affair. */
export const NamedFolders = z.object({
  results: z.array(z.string()),
  watched: z.array(WatchedFolder),
});
export type NamedFolders = z.infer<typeof NamedFolders>;
