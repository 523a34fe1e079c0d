import { z } from 'zod';
import { MOST_FACES, type Face } from '../faces/face';
import type { Size } from '../raster/region';

/** Longest side of a painted mask; larger pictures are painted on coarser. */
export const MASK_LIMIT = 4096;
/** The widest feathering, as the standard deviation of its blur in pixels of the original. */
export const FEATHER_LIMIT = 60;

const share = z.number().min(0).max(1);

/** How a part joins those before it: adds to them, limits them to itself, or is taken from them. */
export const Joining = z.enum(['add', 'limit', 'take away']);
export type Joining = z.infer<typeof Joining>;

const joined = { joining: Joining, inverted: z.boolean() };

export const ZoneId = z.string().min(1).max(40);

/** Something that is computed from the picture, or from places on it: 0 to 1 at every pixel. */
const COMPUTED = [
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
] as const;

/** All faces that were found; `grow`: how many times as large as each */
const FACES = z.object({ kind: z.literal('faces'), ...joined, grow: z.number().min(0.5).max(3) });

/** Where a face lies, in shares of the picture. */
const FacePlace = z.object({ x: share, y: share, width: share, height: share });
const PLACED_FACES = FACES.extend({ places: z.array(FacePlace).max(MOST_FACES) });
export type PlacedFaces = z.infer<typeof PLACED_FACES>;

/** A part of a zone as a work keeps it: computed, or another zone of the work, by its name. */
export const ZonePart = z.discriminatedUnion('kind', [
  ...COMPUTED,
  FACES,
  z.object({ kind: z.literal('zone'), ...joined, id: ZoneId }),
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

/** Where something works: in a zone, or everywhere but there; everywhere where no zone is named. */
export const where = { zone: ZoneId.optional(), elsewhere: z.literal(true).optional() };
export type Where = z.infer<z.ZodObject<typeof where>>;

/** The most parts that a zone has. */
export const PARTS_MOST = 12;

const over = {
  painted: Painted.nullable(),
  feather: z.number().min(0).max(FEATHER_LIMIT),
  inverted: z.boolean(),
  /** after enlarging, its parts look at the print's own pixels rather than the original's */
  print: z.literal(true).optional(),
};

/** A zone as a work keeps it; several steps may share one. */
export const Zone = z.object({
  id: ZoneId,
  name: z.string().trim().min(1).max(60),
  parts: z.array(ZonePart).max(PARTS_MOST),
  ...over,
});
export type Zone = z.infer<typeof Zone>;

/** A part that is computed. */
export type ComputedPart = z.infer<(typeof COMPUTED)[number]> | PlacedFaces;

/** A part of a strength map: computed, or another map, whole. */
export type MapPart =
  ComputedPart | ({ kind: 'map'; map: ZoneMap } & z.infer<z.ZodObject<typeof joined>>);

/** A strength map: parts, painted on, feathered, inverted. Its distances are in pixels before enlarging. */
export interface ZoneMap extends z.infer<z.ZodObject<typeof over>> {
  parts: MapPart[];
}

const MapPart: z.ZodType<MapPart> = z.discriminatedUnion('kind', [
  ...COMPUTED,
  PLACED_FACES,
  z.object({ kind: z.literal('map'), ...joined, map: z.lazy((): z.ZodType<ZoneMap> => ZoneMap) }),
]);
export const ZoneMap: z.ZodType<ZoneMap> = z.object({
  parts: z.array(MapPart).max(PARTS_MOST),
  ...over,
});

/** How deep zones that are joined from joined zones go: each level may hold twelve times as many. */
const JOINED_MOST = 3;

/** What was found on a picture that zones are told by. */
export interface Found {
  size: Size;
  faces: readonly Face[];
}

/**
 * A zone of a work as a map: those that it is joined from are laid into it, and what was found is put in its place. One that
 * is gone, that is joined from this one itself, or that lies deeper than `depth`, counts for nothing.
 */
export function mapOf(
  zone: Zone,
  zones: readonly Zone[],
  found: Found,
  depth = JOINED_MOST,
): ZoneMap {
  const { parts, painted, feather, inverted, print } = zone;
  const others = depth > 1 ? zones.filter(({ id }) => id !== zone.id) : [];
  return {
    ...{ painted, feather, inverted, ...(print && { print }) },
    parts: parts.flatMap((part): MapPart[] => {
      if (part.kind === 'faces') return [{ ...part, places: placesOf(found) }];
      if (part.kind !== 'zone') return [part];
      const other = others.find(({ id }) => id === part.id);
      if (!other) return [];
      const { joining, inverted: turned } = part;
      return [
        { kind: 'map', joining, inverted: turned, map: mapOf(other, others, found, depth - 1) },
      ];
    }),
  };
}

const placesOf = ({ size, faces }: Found): PlacedFaces['places'] =>
  faces.map(({ x, y, width, height }) => ({
    ...{ x: x / size.width, width: width / size.width },
    ...{ y: y / size.height, height: height / size.height },
  }));

/** Whether a zone may become a part of another: it is not joined from that one, nor too deep. */
export function mayJoin(zone: Zone, into: string, zones: readonly Zone[]): boolean {
  /** how deep it goes, as far as matters */
  const deep = (one: Zone, most: number): number => {
    if (most === 0) return 0;
    const inner = one.parts.map((part) => {
      const other = part.kind === 'zone' && zones.find(({ id }) => id === part.id);
      return other ? deep(other, most - 1) : 0;
    });
    return 1 + Math.max(0, ...inner);
  };
  return !joinedFrom([zone.id], zones).has(into) && deep(zone, JOINED_MOST) < JOINED_MOST;
}

/** Everything but what a map holds. */
export const elsewhere = (map: ZoneMap): ZoneMap => ({ ...map, inverted: !map.inverted });

/** All masks that were painted for a map and those that it is joined from. */
export const paintedIn = ({ parts, painted }: ZoneMap): Painted[] => [
  ...(painted ? [painted] : []),
  ...parts.flatMap((part) => (part.kind === 'map' ? paintedIn(part.map) : [])),
];

/** Zones that zones are joined from, and they themselves, by name. */
export function joinedFrom(ids: Iterable<string>, zones: readonly Zone[]): Set<string> {
  const found = new Set<string>();
  const follow = (id: string): void => {
    if (found.has(id)) return;
    found.add(id);
    for (const part of zones.find((zone) => zone.id === id)?.parts ?? []) {
      if (part.kind === 'zone') follow(part.id);
    }
  };
  for (const id of ids) follow(id);
  return found;
}

/** Kinds of parts that are computed. */
export type ComputedKind = Exclude<ZonePartKind, 'zone'>;

/** What a new part of each kind begins with. */
export const newPart: { [K in ComputedKind]: () => Extract<ZonePart, { kind: K }> } = {
  flat: () => ({ kind: 'flat', ...JOINED, level: 5 }),
  edges: () => ({ kind: 'edges', ...JOINED, level: 14 }),
  soft: () => ({ kind: 'soft', ...JOINED, width: 5 }),
  sharp: () => ({ kind: 'sharp', ...JOINED, width: 3 }),
  tones: () => ({ kind: 'tones', ...JOINED, from: 0, to: 0.3, soft: 0.1 }),
  colour: () => ({ kind: 'colour', ...JOINED, colour: '#808080', reach: 30 }),
  lettering: () => ({ kind: 'lettering', ...JOINED, contrast: 60 }),
  faces: () => ({ kind: 'faces', ...JOINED, grow: 1.2 }),
  skin: () => ({ kind: 'skin', ...JOINED, reach: 12 }),
  linear: () => ({ kind: 'linear', ...JOINED, x0: 0.5, y0: 0.6, x1: 0.5, y1: 0.2 }),
  round: () => ({ kind: 'round', ...JOINED, x: 0.5, y: 0.5, inner: 0.15, outer: 0.35 }),
};
const JOINED = { joining: 'add', inverted: false } as const;

/** A part that is another zone. */
export const zonePart = (id: string): ZonePart => ({ kind: 'zone', ...JOINED, id });

/** Pixels of the mask that is painted for a picture: its own, or as many as a mask may have. */
export function maskSize({ width, height }: { width: number; height: number }) {
  const scale = Math.min(1, MASK_LIMIT / Math.max(width, height));
  return {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
}
