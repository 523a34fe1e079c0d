import { z } from 'zod';
import { Face, MOST_FACES } from '../faces/face';
import { TrueGrid } from '../frame/framing';
import { PlacedPicture } from '../placed/placed';
import { VISIBLE } from './blocking';
import { Ground, MOST_GROUNDS } from './grounds';
import { CompressedBefore } from './compressed-before';
import { History } from './history';
import { JpegFacts } from './jpeg';
import { Kind } from './kind';
import { LocalBlur } from './local-blur';
import { FULL_TONES, TonePoints } from './tones';
import { say } from '../words/say';

/** Form of the findings; pictures that were looked at in an older one are looked at again. */
export const FINDINGS_VERSION = 13;

/** How near a drawing comes to itself when it is traced and drawn small again, in levels. */
export const TracedBack = z.object({
  off: z.number().min(0),
  /** of the 3 x 3 pixels that it is farthest off */
  worst: z.number().min(0),
});
export type TracedBack = z.infer<typeof TracedBack>;

const share = z.number().min(0).max(1);

/** Blur of a picture's sharpest parts. */
export const Blur = z.object({
  /** pixels that its sharp edges take to rise; 0 where that is less than a pixel */
  width: z.number().min(0),
  /** standard deviation of the Gaussian that blurred it, in pixels: beyond what a sharp picture has */
  sigma: z.number().min(0),
  /** where it was moved rather than out of focus: over how many pixels, and in which direction, in degrees */
  motion: z.object({ length: z.number().positive(), angle: z.number() }).nullable(),
  /** where the lens was out of focus for certain: the radius of the disc that a point became, in pixels */
  disc: z.object({ radius: z.number().positive() }).nullable().default(null),
});
export type Blur = z.infer<typeof Blur>;

/** What the application found out about a page of an original. */
export const Findings = z.object({
  version: z.int().default(1),
  page: z.int().positive().default(1),
  pages: z.int().positive().default(1),
  width: z.int().positive(),
  height: z.int().positive(),
  megapixels: z.number(),
  bytes: z.int(),
  /** jpeg, png … as the file's content says, whatever its name ends in */
  format: z.string(),
  /** resolution tag in pixels per inch, or null where the file carries none */
  ppi: z.object({ x: z.number(), y: z.number() }).nullable(),
  bitDepth: z.union([z.literal(8), z.literal(16)]),
  channels: z.int(),
  alpha: z.boolean(),
  /** the embedded profile's name, or null where the file carries none */
  profile: z.string().nullable(),
  /** EXIF orientation, 1 where there is none */
  orientation: z.int().min(1).max(8),
  jpeg: JpegFacts.nullable(),
  blocking: z.object({
    ratio: z.number(),
    /** 0 none to 100 nothing but blocks */
    strength: z.number().default(0),
    offsetX: z.int().min(0).max(7).default(0),
    offsetY: z.int().min(0).max(7).default(0),
  }),
  /** quality of compression that a file without tables shows it had before */
  formerQuality: z.int().nullable().default(null),
  /** how a JPEG was compressed before, where that was coarser than it is now */
  compressedBefore: CompressedBefore.nullable().default(null),
  /** standard deviations in levels */
  noise: z.object({ luma: z.number(), colour: z.number() }).default({ luma: 0, colour: 0 }),
  /** what happened to a photograph before it came; null of other pictures, and where the network is missing */
  history: History.nullable().default(null),
  /** how true a drawing is when it is traced; null of other pictures */
  tracedBack: TracedBack.nullable().default(null),
  /** share of the pixels that carry detail; null where nothing can be judged by */
  detail: share.nullable().default(null),
  /** how many times as large it was made before it came; null where nothing tells */
  enlarged: z.number().min(1).nullable().default(null),
  /** how its sharp edges are blurred; null where it has none to judge by */
  blur: Blur.nullable().default(null),
  /** where a photograph is sharp and where soft; null where it is alike all over, or nothing tells */
  localBlur: LocalBlur.nullable().default(null),
  /** how far rims go beyond both sides of hard edges, as a share of the edge; null where there are none to judge by */
  rims: z.number().min(0).nullable().default(null),
  /** how far off the middle of an edge rims lie, in pixels; null where there are none to speak of */
  rimReach: z.number().min(0).nullable().default(null),
  clipped: z.object({ dark: share, bright: share }).default({ dark: 0, bright: 0 }),
  /** darkest and brightest tones of R, G, B, 0–1 */
  tones: TonePoints.default(FULL_TONES),
  /** flat colours that a drawing lies on, the most frequent first; of photographs none */
  grounds: z.array(Ground).max(MOST_GROUNDS).default([]),
  /** the largest first; of other pictures than photographs, and where the network is missing, none */
  faces: z.array(Face).max(MOST_FACES).default([]),
  /** share of the picture that is texture, such as cloth, leaves or stone */
  textured: share.default(0),
  /** share of the smooth parts that climbs in steps */
  banding: share.default(0),
  /** beside hard edges, in levels */
  ringing: z.number().default(0),
  fringes: z.number().default(0),
  /** true grid of a picture that was blown up by repeating pixels */
  grid: TrueGrid.nullable().default(null),
  kind: Kind.default('photograph'),
  kindReason: z.string().default(''),
  /** share of the picture that could not be read */
  damaged: share.default(0),
  /** a page of shapes, which has no pixels of its own */
  vector: z
    .object({
      widthPt: z.number().positive(),
      heightPt: z.number().positive(),
      pictures: z.array(PlacedPicture),
    })
    .nullable()
    .default(null),
  /** what was done to the pixels on the way in, in sentences */
  notes: z.array(z.string()),
});
export type Findings = z.infer<typeof Findings>;

/** Findings part by part of the picture, row by row. */
export const Maps = z.object({
  columns: z.int().positive(),
  rows: z.int().positive(),
  /** percent of the nominal resolution; null where a part is plain */
  sharpness: z.array(z.number().nullable()),
  /** strength of blocking, 0–100 */
  blocks: z.array(z.number()),
});
export type Maps = z.infer<typeof Maps>;

/** Blocking in a word, for a line of figures. */
export function blockingWord(findings: Findings): string {
  if (findings.vector) return say`no pixels`;
  const { ratio } = findings.blocking;
  return ratio < VISIBLE
    ? say`no blocking`
    : ratio < 1.3
      ? say`slight blocking`
      : ratio < 1.8
        ? 'blocking'
        : say`strong blocking`;
}

/** How the file was compressed, in a few words. */
export function compressionWords(findings: Findings): string {
  const { jpeg, compressedBefore, format, vector } = findings;
  if (vector) return say`${format.toUpperCase()}, shapes`;
  if (!jpeg) return format.toUpperCase();
  const now = jpeg.quality === null ? say`JPEG, own tables` : say`JPEG ${jpeg.quality}`;
  return compressedBefore ? say`${now} (${compressedBefore.quality} before)` : now;
}

/** Chroma subsampling in the usual notation. */
export function subsampling(jpeg: JpegFacts): string {
  if (!jpeg.chroma) return 'grey';
  const across = 4 / jpeg.samplingX;
  return `4:${across}:${jpeg.samplingY === 1 ? across : 0}`;
}
