import { z } from 'zod';
import { FileForm, StepsChoice } from '../batch/batch';
import { BATCH_PATTERN, NamePattern, USUAL_PATTERN } from '../output/names';
import { formatOf } from '../output/formats';
import { Distance } from '../recipe/work';
import { say } from '../words/say';
import { Author } from './author';
import { Initials } from './initials';
import { Material, Sheet, ShopUnit, USUAL_MATERIALS, USUAL_SHEETS } from './lists';

/** The most entries of a list of the shop. */
export const LIST_MOST = 200;

/** A list whose entries are told apart by one of their words. */
const listOf = <K extends string, T extends z.ZodType<Record<K, string>>>(entry: T, word: K) =>
  z
    .array(entry)
    .max(LIST_MOST)
    .superRefine((list, { addIssue }) => {
      const words = list.map((one) => one[word].toLowerCase());
      const at = words.findIndex((one, i) => words.indexOf(one) < i);
      if (at >= 0) {
        const message = say`${list[at]![word]} is in the list already.`;
        addIssue({ code: 'custom', path: [at, word], message });
      }
    });

/** Somebody who works in the shop, and how they sign. */
export const Person = z.object({ initials: Initials, name: z.string().trim().max(60) });
export type Person = z.infer<typeof Person>;

/** What a new picture is begun by. */
export const BegunBy = z.discriminatedUnion('by', [
  StepsChoice.options[1],
  StepsChoice.options[2],
  StepsChoice.options[3],
]);
export type BegunBy = z.infer<typeof BegunBy>;

/** What work is begun with, before anything is decided about a picture. */
export const Begin = z.object({
  /** pictures of a new job */
  job: BegunBy,
  /** pictures of a new batch */
  batch: BegunBy,
  /** how results are written */
  file: FileForm,
  /** metres from which a print is seen, where its material doesn't tell */
  distance: Distance,
});
export type Begin = z.infer<typeof Begin>;

/** Bounds that the shop sets itself below those of the server; null leaves it at those. */
export const Limits = z.object({
  /** of a file that is taken in */
  uploadMb: z.number().positive().max(100_000).nullable(),
  /** of a picture that is taken in */
  pictureMp: z.number().positive().max(100_000).nullable(),
  /** room for what can be made again */
  keepGb: z.number().positive().max(1_000_000).nullable(),
});
export type Limits = z.infer<typeof Limits>;

/** What a shop decides once for all its jobs. A further setting is a line here, and one in `USUAL`. */
export const Settings = z.object({
  /** how results of jobs are named, and those of batches */
  fileNames: NamePattern,
  batchNames: NamePattern,
  unit: ShopUnit,
  materials: listOf(Material, 'name'),
  sheets: listOf(Sheet, 'name'),
  people: listOf(Person, 'initials'),
  begin: Begin,
  limits: Limits,
});
export type Settings = z.infer<typeof Settings>;
export type SettingName = keyof Settings;
export const SETTING_NAMES = Object.keys(Settings.shape) as SettingName[];

/** The settings of a shop that has decided nothing. */
export const USUAL: Settings = {
  ...{ fileNames: USUAL_PATTERN, batchNames: BATCH_PATTERN, unit: 'cm' },
  ...{ materials: USUAL_MATERIALS, sheets: USUAL_SHEETS, people: [] },
  begin: {
    ...{ job: { by: 'proposed' }, batch: { by: 'suiting' } },
    file: { format: 'tiff', quality: formatOf('tiff').quality.usual },
    distance: 2,
  },
  limits: { uploadMb: null, pictureMp: null, keepGb: null },
};

/** The settings as they are, and the number of their last change. */
export const ShopSettings = z.object({
  settings: Settings,
  change: z.int(),
  /** what the server's configuration bounds; a shop's own limits lie below */
  bounds: z.object({ uploadMb: z.number(), pictureMp: z.number(), keepGb: z.number() }),
});
export type ShopSettings = z.infer<typeof ShopSettings>;

/** A change of some settings. */
export const SettingsChange = z.object({
  settings: Settings.partial().strict(),
  /** the last change that whoever asks knows: what others changed since is not written over */
  known: z.int(),
  author: Author.nullable().default(null),
});
export type SettingsChange = z.infer<typeof SettingsChange>;

/** A change that was made. What can't be read any more is null, and can't be put back. */
export const PastChange = z.object({
  id: z.int(),
  name: z.enum(SETTING_NAMES),
  /** as they are kept */
  before: z.unknown(),
  after: z.unknown(),
  author: Author.nullable(),
  at: z.int(),
});
export type PastChange = z.infer<typeof PastChange>;
