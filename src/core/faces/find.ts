import { expNegative } from '../raster/portable-math';
import type { Size } from '../raster/region';
import type { Source } from '../raster/source';
import { PLACE, type Answer, type Detector } from './detector';
import { MOST_FACES, type Face } from './face';
import { doubledPlanes, halvedPlanes, reducedBy, type Planes } from './reduced';

/** Widths and heights of faces that are looked for at each place, in places. */
const SHAPES = [
  [1.603231, 2.094468],
  [6.041143, 7.080126],
  [2.882459, 3.518061],
  [4.266906, 5.178857],
  [9.041765, 10.66308],
] as const;
/** Values of a shape: where it lies in its place, how large it is, how likely. */
const VALUES = 5;

/** A face counts from this on, or from less where it is found at another size of the picture as well. */
const SURE = 0.65;
const TWICE = 0.35;
/** Two that cover so much of each other are one. */
const COVERED = 0.4;
/** Larger pictures are looked at reduced; smaller ones twice as large, too. */
const MOST_PIXELS = 1.6e6;
const DOUBLED_PIXELS = 0.5e6;
/** On what is shorter nothing is looked for. */
const LEAST_SIDE = 96;

/**
 * Faces of a picture, from about 48 of its pixels upward where it has no more than 1.6 million; on larger ones as much larger.
 * It is looked through at sizes halved again and again.
 * @returns the largest first
 */
export async function findFaces(source: Source, detector: Detector): Promise<Face[]> {
  const { width, height } = source.size;
  const factor = Math.max(1, Math.ceil(Math.sqrt((width * height) / MOST_PIXELS)));
  if (Math.min(width, height) < factor) return [];
  let picture = await reducedBy(source, factor);
  const found: Candidate[] = [];
  if (width * height <= DOUBLED_PIXELS) {
    found.push(...facesAt(doubledPlanes(picture), detector, 0.5));
  }
  for (let scale = factor; ; scale *= 2) {
    found.push(...facesAt(picture, detector, scale));
    picture = halvedPlanes(picture);
    if (Math.min(picture.width, picture.height) < LEAST_SIDE) break;
  }
  return apart(found, source.size);
}

/** @param scale pixels of the original to one of the picture's */
function facesAt(
  { width, height, planes }: Planes,
  detector: Detector,
  scale: number,
): Candidate[] {
  const answer = detector(planes, { width, height });
  const faces: Candidate[] = [];
  for (let place = 0; place < answer.width * answer.height; place++) {
    SHAPES.forEach((shape, s) => {
      const face = faceOf(answer, place, shape, s * VALUES, scale);
      if (face) faces.push({ ...face, scale });
    });
  }
  return faces;
}

function faceOf(
  { width, height, values }: Answer,
  place: number,
  [across, down]: readonly [number, number],
  first: number,
  scale: number,
): Face | null {
  const value = (k: number) => values[(first + k) * width * height + place]!;
  // Most places are far below, which tells at once.
  if (value(4) < -1) return null;
  const sure = sigmoid(value(4));
  if (sure < TWICE) return null;
  const cell = PLACE * scale;
  const wide = exponential(value(2)) * across * cell;
  const high = exponential(value(3)) * down * cell;
  const x = ((place % width) + sigmoid(value(0))) * cell;
  const y = (Math.floor(place / width) + sigmoid(value(1))) * cell;
  return { x: x - wide / 2, y: y - high / 2, width: wide, height: high, sure };
}

/** How much larger or smaller than its shape a face may be, as a power of e. */
const MOST_POWER = 2;
const exponential = (x: number): number =>
  x > 0 ? 1 / expNegative(-Math.min(MOST_POWER, x)) : expNegative(Math.max(-MOST_POWER, x));
const sigmoid = (x: number): number =>
  x < 0 ? expNegative(x) / (1 + expNegative(x)) : 1 / (1 + expNegative(-x));

/** A face as it was found at one size of the picture. */
interface Candidate extends Face {
  scale: number;
}

/** Of those that lie on each other the surest, cut to the picture; the largest first. */
function apart(found: readonly Candidate[], size: Size): Face[] {
  const groups: Candidate[][] = [];
  for (const one of [...found].sort((a, b) => b.sure - a.sure)) {
    const group = groups.find(([surest]) => covered(one, surest!));
    if (group) group.push(one);
    else groups.push([one]);
  }
  return groups
    .filter(
      (group) => group[0]!.sure >= SURE || group.some(({ scale }) => scale !== group[0]!.scale),
    )
    .map(([surest]) => within(surest!, size))
    .filter(({ width, height }) => width > 0 && height > 0)
    .sort((a, b) => b.width * b.height - a.width * a.height)
    .slice(0, MOST_FACES);
}

/** Whether two cover each other, or one lies in the other. */
function covered(one: Face, other: Face): boolean {
  const wide = Math.min(one.x + one.width, other.x + other.width) - Math.max(one.x, other.x);
  const high = Math.min(one.y + one.height, other.y + other.height) - Math.max(one.y, other.y);
  if (wide <= 0 || high <= 0) return false;
  const both = wide * high;
  const areas = [one.width * one.height, other.width * other.height];
  return both > COVERED * (areas[0]! + areas[1]! - both) || both > 0.7 * Math.min(...areas);
}

function within({ sure, ...face }: Face, { width, height }: Size): Face {
  const [left, top] = [Math.max(0, face.x), Math.max(0, face.y)];
  return {
    ...{ sure, x: left, y: top },
    width: Math.min(width, face.x + face.width) - left,
    height: Math.min(height, face.y + face.height) - top,
  };
}
