import { union, within, type Region } from '../raster/region';
import type { Mask } from './mask';

/** A round brush, in pixels of the mask. */
export interface Brush {
  radius: number;
  /** share of the radius over which it fades, 0 hard to 1 */
  softness: number;
  /** what one passing leaves, 0–1 */
  flow: number;
  takingAway: boolean;
}

/** A place of a stroke; `pressure` 0–1, 1 where the pen has none. */
export interface Touch {
  x: number;
  y: number;
  pressure: number;
}

/** Dabs lie so many radii apart: close enough for an even edge. */
const SPACING = 0.2;

/**
 * One stroke while it is drawn. Within it a place takes the strongest dab, not their sum, so that
 * going over a place once or slowly leaves the same; the next stroke goes on top.
 */
export class Stroke {
  /** what there was before, where the stroke has come to: a large mask costs no more to begin on than a small one */
  private readonly tiles = new Map<number, Tile>();
  private last: Touch | null = null;
  /** how far the next dab is away */
  private ahead = 0;

  constructor(
    private readonly mask: Mask,
    private readonly brush: Brush,
  ) {}

  /** Goes on to a place, and returns what of the mask that changed, or null. */
  to(touch: Touch): Region | null {
    const from = this.last;
    this.last = touch;
    if (!from) return this.dab(touch);
    const length = Math.hypot(touch.x - from.x, touch.y - from.y);
    let changed: Region | null = null;
    let at = this.ahead;
    for (; at <= length; at += this.step(from, touch, length === 0 ? 0 : at / length)) {
      const share = length === 0 ? 1 : at / length;
      const part = this.dab(between(from, touch, share));
      changed = changed && part ? union(changed, part) : (part ?? changed);
    }
    this.ahead = at - length;
    return changed;
  }

  private step(from: Touch, to: Touch, share: number): number {
    return Math.max(0.5, SPACING * this.radiusAt(between(from, to, share)));
  }

  private radiusAt({ pressure }: Touch): number {
    return Math.max(0.5, this.brush.radius * (0.3 + 0.7 * pressure));
  }

  private dab(touch: Touch): Region | null {
    const { width, height } = this.mask;
    const radius = this.radiusAt(touch);
    const left = Math.max(0, Math.floor(touch.x - radius));
    const top = Math.max(0, Math.floor(touch.y - radius));
    const right = Math.min(width, Math.ceil(touch.x + radius) + 1);
    const bottom = Math.min(height, Math.ceil(touch.y + radius) + 1);
    if (right <= left || bottom <= top) return null;
    const region = { x: left, y: top, width: right - left, height: bottom - top };
    for (let y = top - (top % TILE); y < bottom; y += TILE)
      for (let x = left - (left % TILE); x < right; x += TILE) {
        const tile = { x, y, width: TILE, height: TILE };
        this.dabOn(touch, radius, this.tileAt(x, y), tile, within(region, tile));
      }
    return region;
  }

  private tileAt(x: number, y: number): Tile {
    const key = y * this.mask.width + x;
    let tile = this.tiles.get(key);
    if (!tile) this.tiles.set(key, (tile = tileOf(this.mask, x, y)));
    return tile;
  }

  private dabOn(touch: Touch, radius: number, tile: Tile, at: Region, part: Region): void {
    const { width, ink, cover } = this.mask;
    const { softness, takingAway } = this.brush;
    const strength = this.brush.flow * (0.2 + 0.8 * touch.pressure);
    // At least a pixel of fading, so that hard brushes have no stairs.
    const fade = Math.max(1, softness * radius);
    for (let y = part.y; y < part.y + part.height; y++) {
      for (let x = part.x; x < part.x + part.width; x++) {
        const distance = Math.hypot(x + 0.5 - touch.x, y + 0.5 - touch.y);
        const inside = Math.min(1, Math.max(0, (radius - distance) / fade));
        if (inside === 0) continue;
        // A smooth shoulder rather than a cone.
        const dab = Math.round(255 * strength * inside * inside * (3 - 2 * inside));
        const own = (y - at.y) * TILE + x - at.x;
        if (dab <= tile.laid[own]!) continue;
        tile.laid[own] = dab;
        const keep = 255 - dab;
        const i = y * width + x;
        ink[i] = Math.round((tile.ink[own]! * keep) / 255 + (takingAway ? 0 : dab));
        cover[i] = Math.round((tile.cover[own]! * keep) / 255 + dab);
      }
    }
  }
}

/** Side of the squares in which a stroke remembers what there was before it. */
const TILE = 64;

/** A square of a mask as it was before a stroke, and the strongest dab on each pixel so far, 0–255. */
interface Tile {
  ink: Uint8Array;
  cover: Uint8Array;
  laid: Uint8Array;
}

function tileOf({ width, height, ink, cover }: Mask, x: number, y: number): Tile {
  const [was, covered] = [new Uint8Array(TILE * TILE), new Uint8Array(TILE * TILE)];
  const columns = Math.min(TILE, width - x);
  for (let v = 0; v < Math.min(TILE, height - y); v++) {
    const from = (y + v) * width + x;
    was.set(ink.subarray(from, from + columns), v * TILE);
    covered.set(cover.subarray(from, from + columns), v * TILE);
  }
  return { ink: was, cover: covered, laid: new Uint8Array(TILE * TILE) };
}

const between = (from: Touch, to: Touch, share: number): Touch => ({
  x: from.x + share * (to.x - from.x),
  y: from.y + share * (to.y - from.y),
  pressure: from.pressure + share * (to.pressure - from.pressure),
});
