import { z } from 'zod';
import { Format } from '../output/formats';

/** What a device and the shop say to each other: JSON over HTTP, described in docs/devices.md. */
export const PROTOCOL = 1;

const Mm = z.number().min(0).max(1_000_000);
const Words = z.string().max(500);

/** Names a print on its way: chosen by the shop, so that asking twice prints once. */
export const PrintKey = z.string().regex(/^[0-9a-f]{64}$/);

/** What can be loaded: how wide, and how long a new one is. */
export const DeviceMaterial = z.object({
  name: z.string().min(1).max(60),
  width: Mm,
  /** of a roll or a board; of sheets, each one's */
  length: Mm,
  /** how many of them are loaded at once: boards or sheets; 1 for a roll */
  pieces: z.int().positive(),
});
export type DeviceMaterial = z.infer<typeof DeviceMaterial>;

export const INKS = ['cyan', 'magenta', 'yellow', 'black'] as const;
export type Ink = (typeof INKS)[number];

/** Why a device stands still, and what gets it going. */
export const Trouble = z.object({
  kind: z.enum(['jam', 'no material', 'other material', 'no ink', 'power']),
  words: Words,
  /** what a person can do about it; `again` and `whole` decide on what lay in the device when its power went */
  acts: z.array(z.enum(['clear', 'load', 'ink', 'again', 'whole'])),
});
export type Trouble = z.infer<typeof Trouble>;
export type Act = Trouble['acts'][number];

/** How a device puts dots on its material. */
export const Screen = z.object({
  /** dots an inch */
  dpi: z.number().min(100).max(4800),
  /** dots scattered evenly, or grown in rows at an angle an ink */
  way: z.enum(['scattered', 'rows']),
  /** rows an inch, where they stand in rows */
  lines: z.number().min(20).max(400),
  /** how far ink runs: its Gaussian's sigma, in millimetres */
  spread: z.number().min(0).max(1),
});
export type Screen = z.infer<typeof Screen>;

/** What a device is and how it stands. */
export const DeviceDescription = z.object({
  protocol: z.literal(PROTOCOL),
  name: z.string().min(1).max(60),
  kind: z.enum(['roll', 'flatbed', 'sheet']),
  /** resolution beyond which it shows no more */
  ppi: z.number().min(10).max(2400),
  /** what stays white along each side of the material, and along its beginning and end; millimetres */
  margins: z.object({ side: Mm, end: Mm }),
  formats: z.array(Format),
  spaces: z.array(z.enum(['rgb', 'grey', 'cmyk'])),
  /** the profile that its inks are described by */
  profile: z.string().max(120),
  screen: Screen,
  materials: z.array(DeviceMaterial).min(1).max(40),
  /** what lies in it, and how much of it is left: millimetres of a roll, else pieces */
  loaded: z.object({ material: z.string(), left: z.number().min(0) }),
  /** share of each ink that is left */
  inks: z.object({
    cyan: z.number().min(0).max(1),
    magenta: z.number().min(0).max(1),
    yellow: z.number().min(0).max(1),
    black: z.number().min(0).max(1),
  }),
  printing: z.boolean(),
  trouble: Trouble.nullable(),
  /** files come in parts of at most so many bytes, and are no larger in all */
  partBytes: z.int().positive(),
  mostBytes: z.int().positive(),
  /** whether it only stands in for a machine, and can be told to fail */
  standIn: z.boolean(),
});
export type DeviceDescription = z.infer<typeof DeviceDescription>;

/** Announces a print. Announcing it again changes nothing. */
export const PrintOrder = z.object({
  key: PrintKey,
  title: z.string().max(200),
  fileName: z.string().max(200),
  bytes: z.int().positive(),
  /** SHA-256 of the file, in hexadecimal digits */
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  material: z.string().min(1).max(60),
  copies: z.int().min(1).max(99),
});
export type PrintOrder = z.infer<typeof PrintOrder>;

/** How a print stands. */
export const PrintState = z.enum([
  'receiving',
  'reading',
  'waiting',
  'printing',
  'printed',
  'refused',
  'cancelled',
]);
export type PrintState = z.infer<typeof PrintState>;

/** A page of a print's file, as it is printed once. */
export const PrintItem = z.object({
  page: z.int().min(1),
  copy: z.int().min(1),
  /** upright, in millimetres */
  width: z.number(),
  height: z.number(),
  state: z.enum(['waiting', 'printing', 'printed']),
  /** where it lies or lay on the material, and whether by a quarter turn */
  lies: z.object({ x: z.number(), y: z.number(), turned: z.boolean() }).nullable(),
});
export type PrintItem = z.infer<typeof PrintItem>;

/** What a device says of a print. */
export const PrintStatus = z.object({
  key: PrintKey,
  state: PrintState,
  /** bytes of its file that are there */
  received: z.int().min(0),
  /** share of it that is on the material, 0–1 */
  progress: z.number().min(0).max(1),
  items: z.array(PrintItem),
  /** dots of its first page, upright: what `look` can be asked for */
  dots: z.object({ width: z.int(), height: z.int() }).nullable(),
  /** material that was spoilt by jams and the like, in millimetres of its length */
  spoilt: z.number().min(0),
  /** why it was refused, or what it waits for */
  words: Words.nullable(),
});
export type PrintStatus = z.infer<typeof PrintStatus>;

/** One thing that happened in a device. */
export const DeviceEvent = z.object({
  number: z.int(),
  at: z.int(),
  key: PrintKey.nullable(),
  words: Words,
});
export type DeviceEvent = z.infer<typeof DeviceEvent>;

/** What a person does at a device. */
export const ActRequest = z.object({
  act: z.enum(['clear', 'load', 'ink', 'again', 'whole']),
  /** which material is loaded */
  material: z.string().max(60).optional(),
});
export type ActRequest = z.infer<typeof ActRequest>;

/** How a stand-in is told to fail. */
export const Failure = z.object({
  failure: z.enum(['jam', 'no material', 'no ink', 'offline', 'online', 'power']),
});
export type Failure = z.infer<typeof Failure>;

/** Refusals and errors of a device. */
export const Refusal = z.object({ message: Words, received: z.int().optional() });
export type Refusal = z.infer<typeof Refusal>;
