import { followedBy } from '@/core/placed/place';
import type { Affine } from '@/core/placed/placed';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';

/** CSS pixels an inch, and a point. */
const PX_PER_INCH = 96;
export const PX_PER_POINT = 96 / 72;

const perUnit: Record<string, number> = {
  '': 1,
  px: 1,
  pt: PX_PER_POINT,
  pc: 16,
  mm: PX_PER_INCH / 25.4,
  cm: PX_PER_INCH / 2.54,
  in: PX_PER_INCH,
};

const NUMBER = '[+-]?(?:\\d+\\.?\\d*|\\.\\d+)(?:e[+-]?\\d+)?';
const LENGTH = new RegExp(`^\\s*(${NUMBER})\\s*(px|pt|pc|mm|cm|in)?\\s*$`, 'i');

const PERCENTAGE = new RegExp(`^\\s*(${NUMBER})%\\s*$`, 'i');

/** A CSS length in pixels, or null for percentages and what isn't one. */
export function lengthOf(text: string | undefined): number | null {
  const match = LENGTH.exec(text ?? '');
  return match ? Number(match[1]) * perUnit[(match[2] ?? '').toLowerCase()]! : null;
}

/** The same, or a percentage of a length in pixels. */
export function lengthIn(text: string | undefined, of: number | null): number | null {
  const share = PERCENTAGE.exec(text ?? '')?.[1];
  if (share === undefined) return lengthOf(text);
  return of === null ? null : (Number(share) / 100) * of;
}

const STEP = new RegExp(`^[\\s,]*(\\w+)\\s*\\(([^)]*)\\)`);

/** A transform attribute (SVG 1.1) as a map; none where there is no attribute, null where it isn't understood. */
export function transformOf(text: string | undefined): Affine | null {
  let map: Affine = [1, 0, 0, 1, 0, 0];
  let rest = (text ?? '').trim();
  while (rest) {
    const match = STEP.exec(rest);
    const step = match && stepOf(match[1]!, match[2]!);
    if (!step) return null;
    // What is named first is done last.
    map = followedBy(step, map);
    rest = rest.slice(match[0].length).trim();
  }
  return map;
}

function stepOf(kind: string, inside: string): Affine | null {
  const numbers = inside
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (!numbers.every(Number.isFinite)) return null;
  const [a = 0, b, c, d, e, f] = numbers;
  const turned = (degrees: number): Affine => {
    const angle = (degrees * Math.PI) / 180;
    return [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 0, 0];
  };
  switch (`${kind} ${numbers.length}`) {
    case 'matrix 6':
      return [a, b!, c!, d!, e!, f!];
    case 'translate 1':
    case 'translate 2':
      return [1, 0, 0, 1, a, b ?? 0];
    case 'scale 1':
    case 'scale 2':
      return [a, 0, 0, b ?? a, 0, 0];
    case 'rotate 1':
      return turned(a);
    case 'rotate 3':
      return followedBy(followedBy([1, 0, 0, 1, -b!, -c!], turned(a)), [1, 0, 0, 1, b!, c!]);
    case 'skewX 1':
      return [1, 0, Math.tan((a * Math.PI) / 180), 1, 0, 0];
    case 'skewY 1':
      return [1, Math.tan((a * Math.PI) / 180), 0, 1, 0, 0];
    default:
      return null;
  }
}

/**
 * Where something of a size lies in a box by a preserveAspectRatio (SVG 1.1), and whether it goes beyond the box, which cuts it;
 * null where that is not understood.
 */
export function fitted(
  own: Size,
  box: Rect,
  how = 'xMidYMid meet',
): (Rect & { cut: boolean }) | null {
  const [align = 'xMidYMid', meet = 'meet'] = how
    .trim()
    .replace(/^defer\s+/, '')
    .split(/\s+/);
  if (align === 'none') return { ...box, cut: false };
  const places = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(align);
  if (!places || (meet !== 'meet' && meet !== 'slice')) return null;
  const cut = meet === 'slice';
  const share: Record<string, number> = { Min: 0, Mid: 0.5, Max: 1 };
  const scales = [box.width / own.width, box.height / own.height];
  const scale = cut ? Math.max(...scales) : Math.min(...scales);
  const width = own.width * scale;
  const height = own.height * scale;
  return {
    x: box.x + share[places[1]!]! * (box.width - width),
    y: box.y + share[places[2]!]! * (box.height - height),
    width,
    height,
    cut: cut && (width > box.width || height > box.height),
  };
}
