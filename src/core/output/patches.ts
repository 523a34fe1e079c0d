import type { DeviceSpace } from '../colour/space';
import type { Region } from '../raster/region';
import { BLACK, type Canvas, type SampleColour } from './canvas';

/** Steps of a wedge, bare material and full colour included. */
export const STEPS = 11;

/** Wedges of a space from nothing to full: all its colours together, and black ink alone where there is one. */
export function wedgesOf(space: DeviceSpace): SampleColour[][] {
  const steps = (colour: (share: number) => SampleColour) =>
    Array.from({ length: STEPS }, (_, i) => colour(i / (STEPS - 1)));
  const level = (share: number) => Math.round(255 * share);
  if (space === 'rgb') return [steps((share) => Array<number>(3).fill(255 - level(share)))];
  if (space === 'grey') return [steps((share) => [255 - level(share)])];
  return [
    steps((share) => [0, 0, 0, level(share)]),
    steps((share) => [level(share), level(share), level(share), 0]),
  ];
}

/** Full colours beside each other: cyan, magenta, yellow, red, green, blue. */
export function solidsOf(space: DeviceSpace): SampleColour[] {
  const inks = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [0, 1, 1],
    [1, 0, 1],
    [1, 1, 0],
  ];
  if (space === 'grey') return [];
  return inks.map((amounts) =>
    space === 'cmyk'
      ? [...amounts.map((one) => one * 255), 0]
      : amounts.map((one) => 255 * (1 - one)),
  );
}

/** Lays colours out side by side, each as wide as the others to a pixel. */
export function layColours(canvas: Canvas, colours: readonly SampleColour[], at: Region): void {
  colours.forEach((colour, i) => {
    const [left, right] = [i, i + 1].map((k) => Math.round((k * at.width) / colours.length));
    canvas.fill({ ...at, x: at.x + left!, width: right! - left! }, colour);
  });
}

/** Widths of the lines of a resolution patch, in pixels of the print. */
export const LINES = [1, 2, 3, 4] as const;

/**
 * Lines of so many pixels as wide as what lies between them, upright beside level: where they run together the print shows
 * no more.
 */
export function layLines(canvas: Canvas, pixels: number, at: Region): void {
  const ink = BLACK[canvas.space];
  const half = Math.floor((at.width - pixels) / 2);
  for (let x = 0; x + pixels <= half; x += 2 * pixels) {
    canvas.fill({ ...at, x: at.x + x, width: pixels }, ink);
  }
  const level = at.x + half + pixels;
  for (let y = 0; y + pixels <= at.height; y += 2 * pixels) {
    canvas.fill({ x: level, y: at.y + y, width: half, height: pixels }, ink);
  }
}

/** Spokes of a star: from the width of its rim they meet at less than what any print shows. */
const SPOKES = 36;

/** A star of spokes: how far from its middle they run together says how fine a print is, to all sides. */
export function layStar(canvas: Canvas, at: Region): void {
  const ink = BLACK[canvas.space];
  const radius = Math.min(at.width, at.height) / 2;
  const [mx, my] = [at.x + at.width / 2, at.y + at.height / 2];
  for (let y = at.y; y < at.y + at.height; y++) {
    for (let x = at.x; x < at.x + at.width; x++) {
      const [dx, dy] = [x + 0.5 - mx, y + 0.5 - my];
      if (Math.hypot(dx, dy) > radius) continue;
      const turn = Math.atan2(dy, dx) / (2 * Math.PI) + 0.5;
      if (Math.floor(turn * SPOKES * 2) % 2 === 0) canvas.fill({ x, y, width: 1, height: 1 }, ink);
    }
  }
}
