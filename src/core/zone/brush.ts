import { union, type Region } from '../raster/region';
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
  private readonly before: Mask;
  /** strongest dab so far, 0–255 */
  private readonly laid: Uint8Array;
  private last: Touch | null = null;
  /** how far the next dab is away */
  private ahead = 0;

  constructor(
    private readonly mask: Mask,
    private readonly brush: Brush,
  ) {
    this.before = { ...mask, ink: mask.ink.slice(), cover: mask.cover.slice() };
    this.laid = new Uint8Array(mask.ink.length);
  }

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
    const { width, height, ink, cover } = this.mask;
    const radius = this.radiusAt(touch);
    const left = Math.max(0, Math.floor(touch.x - radius));
    const top = Math.max(0, Math.floor(touch.y - radius));
    const right = Math.min(width, Math.ceil(touch.x + radius) + 1);
    const bottom = Math.min(height, Math.ceil(touch.y + radius) + 1);
    if (right <= left || bottom <= top) return null;
    const { softness, takingAway } = this.brush;
    const strength = this.brush.flow * (0.2 + 0.8 * touch.pressure);
    // At least a pixel of fading, so that hard brushes have no stairs.
    const fade = Math.max(1, softness * radius);
    for (let y = top; y < bottom; y++) {
      for (let x = left; x < right; x++) {
        const distance = Math.hypot(x + 0.5 - touch.x, y + 0.5 - touch.y);
        const inside = Math.min(1, Math.max(0, (radius - distance) / fade));
        if (inside === 0) continue;
        // A smooth shoulder rather than a cone.
        const dab = Math.round(255 * strength * inside * inside * (3 - 2 * inside));
        const i = y * width + x;
        if (dab <= this.laid[i]!) continue;
        this.laid[i] = dab;
        const keep = 255 - dab;
        ink[i] = Math.round((this.before.ink[i]! * keep) / 255 + (takingAway ? 0 : dab));
        cover[i] = Math.round((this.before.cover[i]! * keep) / 255 + dab);
      }
    }
    return { x: left, y: top, width: right - left, height: bottom - top };
  }
}

const between = (from: Touch, to: Touch, share: number): Touch => ({
  x: from.x + share * (to.x - from.x),
  y: from.y + share * (to.y - from.y),
  pressure: from.pressure + share * (to.pressure - from.pressure),
});
