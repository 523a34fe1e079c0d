import { z } from 'zod';

/** What a shop's files are, by what may become of them. */
export const StorageKind = z.enum([
  'records',
  'originals',
  'painted masks',
  'profiles',
  'results that are needed',
  'results that may go',
  'decoded pictures',
  'thumbnails',
  'half done',
]);
export type StorageKind = z.infer<typeof StorageKind>;

/** How much room a kind of files takes. */
export const StorageEntry = z.object({ kind: StorageKind, files: z.int(), bytes: z.number() });
export type StorageEntry = z.infer<typeof StorageEntry>;

/** What takes how much of a shop's disk. */
export const Storage = z.object({
  entries: z.array(StorageEntry),
  /** how much of what can be made again may be kept, and what is free */
  againLimit: z.number(),
  free: z.number(),
});
export type Storage = z.infer<typeof Storage>;

/** Kinds that originals and recipes make again. */
export const CAN_BE_MADE_AGAIN: readonly StorageKind[] = [
  'results that may go',
  'decoded pictures',
];

/** When files of a kind may go. */
export const MAY_GO: Record<StorageKind, string> = {
  records: 'never',
  originals: 'a day after their job was deleted; what no job uses, after a week',
  'painted masks': 'a day after nothing names them any more',
  profiles: 'never',
  'results that are needed': 'once they are printed, or no batch waits for them',
  'results that may go': 'when room is needed; the same bytes are made again by their recipes',
  'decoded pictures': 'when room is needed; they are read from their originals again',
  thumbnails: 'with their originals',
  'half done': 'once nothing writes on them, or at the next start',
};
