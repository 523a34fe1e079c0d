import { z } from 'zod';

/** Something done with an archive of the whole shop: it is written, or compared with its own list. */
export const BackupWork = z.object({
  id: z.int(),
  kind: z.enum(['write', 'check']),
  folder: z.string(),
  file: z.string(),
  state: z.enum(['running', 'done', 'failed', 'cancelled']),
  /** 0–1 */
  progress: z.number(),
  beganAt: z.int(),
  finishedAt: z.int().nullable(),
  /** what came of it, in a sentence */
  words: z.string().nullable(),
});
export type BackupWork = z.infer<typeof BackupWork>;

/** An archive in a folder of backups, as the folder lists it. */
export const BackupArchive = z.object({ file: z.string(), bytes: z.number(), at: z.number() });
export type BackupArchive = z.infer<typeof BackupArchive>;

/** A folder that the server's configuration names for backups. */
export const BackupFolder = z.object({
  name: z.string(),
  /** newest first */
  archives: z.array(BackupArchive),
  /** why it can't be read or written */
  trouble: z.string().nullable(),
});
export type BackupFolder = z.infer<typeof BackupFolder>;

/** Folders of backups, and what was done in them last, newest first. */
export const Backups = z.object({ folders: z.array(BackupFolder), works: z.array(BackupWork) });
export type Backups = z.infer<typeof Backups>;

const folder = z.string().max(60);

/** Asks for an archive of the shop, or for a comparison of one with its own list. */
export const BackupRequest = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('write'),
    folder,
    /** whether results are in it that their recipes make again */
    allResults: z.boolean(),
  }),
  z.object({ kind: z.literal('check'), folder, file: z.string().max(255) }),
]);
export type BackupRequest = z.infer<typeof BackupRequest>;
