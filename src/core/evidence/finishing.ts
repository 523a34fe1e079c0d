import { formatNumber } from '../measure/format';
import { MM_PER_INCH } from '../measure/units';
import { luminance } from '../raster/colour';
import { cutPlane } from '../raster/raster';
import { rangeAbout } from '../raster/range';
import { clip, grow, type Region, type Size } from '../raster/region';
import type { Source } from '../raster/source';
import { percentile } from '../inspect/patches';
import { say } from '../words/say';

/** What finishing did beside what it was for, on a sample of places. */
export interface FinishFigures {
  /** how far pixels become lighter, and darker, than all about them were before: the worst of a hundred on edges, levels */
  overshoot: { light: number; dark: number };
  /** how wide rims are, pixels: nine of ten are no wider; 0 where there are none */
  rim: number;
  /** noise of flat areas before and after, as a standard deviation in levels, of grains so many pixels wide */
  noise: { before: number; after: number; grain: number };
}

/** Side of a place that is looked at, in pixels of the result, and how many across and down. */
const SIDE = 160;
const ACROSS = 4;
const DOWN = 3;
/** Less than this is no rim, in levels. */
const RIM = 2;
/** Noise is measured on squares of this side; the quietest fifth of them is flat. */
const BLOCK = 8;
const QUIET = 0.2;

type Picture = Pick<Source, 'size' | 'read'>;

const places = ({ width, height }: Size): Region[] => {
  const columns = Math.max(1, Math.min(ACROSS, Math.floor(width / SIDE)));
  const rows = Math.max(1, Math.min(DOWN, Math.floor(height / SIDE)));
  return Array.from({ length: columns * rows }, (_, i) => {
    const x = Math.floor(((width - SIDE) * ((i % columns) + 0.5)) / columns);
    const y = Math.floor(((height - SIDE) * (Math.floor(i / columns) + 0.5)) / rows);
    return clip(
      { x: Math.max(0, x), y: Math.max(0, y), width: SIDE, height: SIDE },
      { width, height },
    );
  });
};

/**
 * Overshoot, rims and noise of a picture after finishing against itself before.
 * @param reach pixels about a pixel that its range before is taken over: what a pixel of the original covers, whose
 *   noise is looked at
 */
export async function measureFinishing(
  before: Picture,
  after: Picture,
  reach: number,
): Promise<FinishFigures> {
  const { size } = before;
  const lighter: number[] = [];
  const darker: number[] = [];
  const rims: number[] = [];
  const quiet: { before: number; after: number }[] = [];
  for (const place of places(size)) {
    const { beyond, own, is } = await beyondRange(before, after, place, reach);
    for (const value of beyond) {
      if (value > 0) lighter.push(value);
      if (value < 0) darker.push(-value);
    }
    const widths = rimWidths(beyond, place);
    for (const width of widths) if (width > 0) rims.push(width);
    addNoise(quiet, own, is, place, reach);
  }
  quiet.sort((one, other) => one.before - other.before);
  const flat = quiet.slice(0, Math.max(1, Math.round(quiet.length * QUIET)));
  const middle = (key: 'before' | 'after') =>
    percentile(
      flat.map((one) => one[key]),
      0.5,
    );
  return {
    overshoot: { light: percentile(lighter, 0.99), dark: percentile(darker, 0.99) },
    rim: percentile(rims, 0.9),
    noise: { before: middle('before'), after: middle('after'), grain: reach },
  };
}

/** How far a picture's luminance leaves the range that it had about each pixel before, in levels; and both luminances. */
async function beyondRange(before: Picture, after: Picture, place: Region, reach: number) {
  const { size } = before;
  const covered = grow(place, reach, size);
  const was = luminance(await before.read(covered));
  const is = luminance(await after.read(place));
  const { least, most } = rangeAbout(was, covered, place, size, reach);
  const beyond = is.map((value, i) => {
    const high = (value - most[i]!) * 255;
    const low = (value - least[i]!) * 255;
    return high > 0 ? high : Math.min(0, low);
  });
  return { beyond, own: cutPlane(was, covered, place), is };
}

/**
 * Where rims would be seen on the print that finishing left, over a part of it: 0, or from 1 on how strongly, up to 255.
 * @param reach as in `measureFinishing`
 */
export async function seenRims(
  before: Picture,
  after: Picture,
  place: Region,
  reach: number,
  { ppi, distance }: Seen,
): Promise<Uint8Array<ArrayBuffer>> {
  const { beyond } = await beyondRange(before, after, place, reach);
  const widths = rimWidths(beyond, place);
  return Uint8Array.from(beyond, (value, i) => {
    const levels = Math.abs(value) * seenShare((widths[i]! * MM_PER_INCH) / ppi, distance);
    return levels > SEEN_RIM ? Math.min(255, Math.round((255 * levels) / (4 * SEEN_RIM))) : 0;
  });
}

/** How wide rims are, pixel by pixel: the shorter of their runs along the row and along the column; 0 where there are none. */
function rimWidths(beyond: Float32Array, { width, height }: Size): Uint16Array {
  /** 1 on a light rim, -1 on a dark one, 0 on none */
  const sideAt = (i: number) => (Math.abs(beyond[i]!) > RIM ? Math.sign(beyond[i]!) : 0);
  const runs = (lines: number, length: number, next: number, step: number): Uint16Array => {
    const found = new Uint16Array(beyond.length);
    for (let line = 0; line < lines; line++)
      for (let from = 0, at = 1; at <= length; at++) {
        const side = sideAt(line * next + from * step);
        if (at < length && sideAt(line * next + at * step) === side) continue;
        if (side !== 0) {
          for (let k = from; k < at; k++) found[line * next + k * step] = at - from;
        }
        from = at;
      }
    return found;
  };
  const across = runs(height, width, width, 1);
  const down = runs(width, height, 1, width);
  return across.map((run, i) => Math.min(run, down[i]!));
}

/**
 * Deviations of squares from the plane through them, by differences that are blind to slopes (Immerkaer 1996), taken as
 * far apart as grains are wide: nearer each other pixels hardly differ.
 */
function addNoise(
  into: { before: number; after: number }[],
  before: Float32Array,
  after: Float32Array,
  { width, height }: Size,
  grain: number,
): void {
  const of = (plane: Float32Array, left: number, top: number) => {
    let sum = 0;
    for (let y = top; y < top + BLOCK; y++)
      for (let x = left; x < left + BLOCK; x++) {
        const at = (dx: number, dy: number) => plane[(y + dy * grain) * width + x + dx * grain]!;
        const sides = at(-1, 0) + at(1, 0) + at(0, -1) + at(0, 1);
        const corners = at(-1, -1) + at(1, -1) + at(-1, 1) + at(1, 1);
        sum += (4 * at(0, 0) - 2 * sides + corners) ** 2;
      }
    return (255 * Math.sqrt(sum / (BLOCK * BLOCK))) / 6;
  };
  for (let y = grain; y + BLOCK + grain <= height; y += BLOCK)
    for (let x = grain; x + BLOCK + grain <= width; x += BLOCK) {
      into.push({ before: of(before, x, y), after: of(after, x, y) });
    }
}

/** What of a print the eye makes out from a distance. */
export interface Seen {
  /** pixels of the result an inch */
  ppi: number;
  /** metres */
  distance: number;
}

/** A minute of arc from a metre away, in millimetres: what is finer runs together. */
const MINUTE_MM = 0.2909;
/** Rims of so many levels are seen where they are wide enough, and so is noise. */
const SEEN_RIM = 5;
const SEEN_NOISE = 1.5;
/** Noise is grown where it is this many times what it was. */
const GROWN = 1.25;

/** How much of something narrow the eye makes out, 0–1. @param mm its width on paper @param distance metres */
const seenShare = (mm: number, distance: number): number =>
  Math.min(1, mm / (MINUTE_MM * distance));

/** How far rims of a width may go, in levels, before they are seen. @param mm on paper @param distance metres */
export const unseenRim = (mm: number, distance: number): number =>
  SEEN_RIM / seenShare(mm, distance);

/** What of finishing would be seen on the print that should not be, each in a sentence. */
export function tooMuch(
  { overshoot, rim, noise }: FinishFigures,
  { ppi, distance }: Seen,
): { overshoot: string | null; noise: string | null } {
  const pixel = MM_PER_INCH / ppi;
  const worst = Math.max(overshoot.light, overshoot.dark);
  const side = overshoot.light >= overshoot.dark ? 'light' : 'dark';
  const rims = worst * seenShare(rim * pixel, distance);
  const grain = noise.after * seenShare(noise.grain * pixel, distance);
  return {
    overshoot:
      rims > SEEN_RIM
        ? say`Halos on the ${side} side of edges, ${formatNumber(rim * pixel, 1)} mm wide, would be seen from ${distance} m.`
        : null,
    noise:
      grain > SEEN_NOISE && noise.after > GROWN * noise.before
        ? say`Noise of flat areas grew to ${formatNumber(noise.after, 1)} levels: it would be seen from ${distance} m.`
        : null,
  };
}
