import type { ComputedPart, ZoneMap } from '../zone/zone';
import type { Guards } from './guards';

/** What of a picture protections are told by. */
interface Told {
  /** noise of luminance, in levels: what is within it is flat */
  noise: number;
  /** pixels that the picture's own sharp edges take to rise */
  edgeWidth: number;
}

/** Edges that take so many times as long to rise as the picture's sharp ones are soft on purpose. */
const SOFTER = 2.2;
/** What changes by less than this is flat, in levels, however little noise there is. */
const FLAT = 2.5;
/** Tones of skin are protected where no edge climbs faster than this, in levels a pixel. */
const EDGE = 16;

/**
 * Where steps are kept away: a strength map, 1 where they work and 0 where something is protected. It is computed on
 * the picture before enlarging, where noise and softness are what they are.
 * @returns undefined where nothing is protected
 */
export function protectionOf(
  { flat, skin, soft }: Guards,
  { noise, edgeWidth }: Told,
): ZoneMap | undefined {
  const part = { joining: 'add', inverted: false } as const;
  const parts: ComputedPart[] = [
    ...(skin
      ? [
          { kind: 'skin', ...part, reach: 8 } as const,
          { kind: 'edges', ...part, joining: 'take away', level: EDGE } as const,
        ]
      : []),
    ...(flat
      ? [{ kind: 'flat', ...part, level: Math.min(40, Math.max(FLAT, 2 * noise)) } as const]
      : []),
    ...(soft ? [{ kind: 'soft', ...part, width: Math.min(16, SOFTER * edgeWidth) } as const] : []),
  ];
  return parts.length === 0 ? undefined : { parts, painted: null, feather: 1.5, inverted: true };
}
