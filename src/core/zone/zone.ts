import { z } from 'zod';

/** Longest side of a painted mask; larger pictures are painted on coarser. */
export const MASK_LIMIT = 4096;
/** The widest feathering, as the standard deviation of its blur in pixels of the original. */
export const FEATHER_LIMIT = 60;

const share = z.number().min(0).max(1);

/** How a part joins those before it: adds to them, limits them to itself, or is taken from them. */
export const Joining = z.enum(['add', 'limit', 'take away']);
export type Joining = z.infer<typeof Joining>;

const joined = { joining: Joining, inverted: z.boolean() };

/** Something that is computed from the picture, or from places on it: 0 to 1 at every pixel. */
export const ZonePart = z.discriminatedUnion('kind', [
  /** where the picture hardly changes; `level`: how much is still flat, in levels */
  z.object({ kind: z.literal('flat'), ...joined, level: z.number().min(0.5).max(40) }),
  /** where it changes strongly; `level`: from what slope on, in levels a pixel */
  z.object({ kind: z.literal('edges'), ...joined, level: z.number().min(1).max(80) }),
  /** where edges take longer than `width` pixels to rise: what is soft, and may be so on purpose */
  z.object({ kind: z.literal('soft'), ...joined, width: z.number().min(1).max(16) }),
  /** where they take no longer: the sharp part of the picture */
  z.object({ kind: z.literal('sharp'), ...joined, width: z.number().min(1).max(16) }),
  /** a range of luminance, 0–1, with soft ends */
  z.object({ kind: z.literal('tones'), ...joined, from: share, to: share, soft: share }),
  /** about a picked colour, sRGB-like levels; `reach`: how far from it, in levels */
  z.object({
    kind: z.literal('colour'),
    ...joined,
    colour: z.string().regex(/^#[0-9a-f]{6}$/),
    reach: z.number().min(2).max(160),
  }),
  /** two tones close beside each other, as lettering has */
  z.object({ kind: z.literal('lettering'), ...joined, contrast: z.number().min(10).max(200) }),
  /** tones that skin has, of any lightness */
  z.object({ kind: z.literal('skin'), ...joined, reach: z.number().min(2).max(40) }),
  /** from nothing at one point to all at another, in shares of the picture */
  z.object({ kind: z.literal('linear'), ...joined, x0: share, y0: share, x1: share, y1: share }),
  /** all within `inner` of a point, nothing beyond `outer`, in shares of the longer side */
  z.object({
    kind: z.literal('round'),
    ...joined,
    x: share,
    y: share,
    inner: z.number().min(0).max(2),
    outer: z.number().min(0.001).max(2),
  }),
]);
export type ZonePart = z.infer<typeof ZonePart>;
export type ZonePartKind = ZonePart['kind'];

/** What was painted, named by the SHA-256 of its bytes. */
export const Painted = z.object({
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  width: z.int().min(1).max(MASK_LIMIT),
  height: z.int().min(1).max(MASK_LIMIT),
});
export type Painted = z.infer<typeof Painted>;

/** A strength map over the picture before enlarging: parts, painted on, feathered, inverted. */
export const ZoneMap = z.object({
  parts: z.array(ZonePart).max(12),
  painted: Painted.nullable(),
  feather: z.number().min(0).max(FEATHER_LIMIT),
  inverted: z.boolean(),
});
export type ZoneMap = z.infer<typeof ZoneMap>;

export const ZoneId = z.string().min(1).max(40);

/** A zone as a work keeps it; several steps may share one. */
export const Zone = ZoneMap.extend({ id: ZoneId, name: z.string().trim().min(1).max(60) });
export type Zone = z.infer<typeof Zone>;

/** What a new part of each kind begins with. */
export const newPart: { [K in ZonePartKind]: () => Extract<ZonePart, { kind: K }> } = {
  flat: () => ({ kind: 'flat', ...JOINED, level: 5 }),
  edges: () => ({ kind: 'edges', ...JOINED, level: 14 }),
  soft: () => ({ kind: 'soft', ...JOINED, width: 5 }),
  sharp: () => ({ kind: 'sharp', ...JOINED, width: 3 }),
  tones: () => ({ kind: 'tones', ...JOINED, from: 0, to: 0.3, soft: 0.1 }),
  colour: () => ({ kind: 'colour', ...JOINED, colour: '#808080', reach: 30 }),
  lettering: () => ({ kind: 'lettering', ...JOINED, contrast: 60 }),
  skin: () => ({ kind: 'skin', ...JOINED, reach: 12 }),
  linear: () => ({ kind: 'linear', ...JOINED, x0: 0.5, y0: 0.6, x1: 0.5, y1: 0.2 }),
  round: () => ({ kind: 'round', ...JOINED, x: 0.5, y: 0.5, inner: 0.15, outer: 0.35 }),
};
const JOINED = { joining: 'add', inverted: false } as const;

/** Pixels of the mask that is painted for a picture: its own, or as many as a mask may have. */
export function maskSize({ width, height }: { width: number; height: number }) {
  const scale = Math.min(1, MASK_LIMIT / Math.max(width, height));
  return {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
}
