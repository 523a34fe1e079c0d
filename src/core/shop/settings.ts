import { z } from 'zod';
import { NamePattern, USUAL_PATTERN } from '../output/names';

/** What a shop decides once for all its jobs. */
export const Settings = z.object({
  /** how results are named */
  fileNames: NamePattern.default(USUAL_PATTERN),
});
export type Settings = z.infer<typeof Settings>;

/** A change of some of them. */
export const SettingsChange = z.object({ fileNames: NamePattern }).partial();
export type SettingsChange = z.infer<typeof SettingsChange>;
