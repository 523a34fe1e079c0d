import { z } from 'zod';
import { sinPi } from '../raster/portable-math';
import type { Size } from '../raster/region';

/** A real-valued rectangle on a grid of pixels. */
export const Rect = z.object({
  x: z.number(),
  y: z.number(),
  width: z.number().positive(),
  height: z.number().positive(),
});
export type Rect = z.infer<typeof Rect>;

/** The grid that a picture had before its pixels were repeated. */
export const TrueGrid = z.object({
  width: z.int().min(1).max(65_535),
  height: z.int().min(1).max(65_535),
  /** what of the file its cells cover, in the file's pixels; a little beyond it where it was cropped; all of it where not said */
  covers: Rect.optional(),
});
export type TrueGrid = z.infer<typeof TrueGrid>;

/** Quarter turns clockwise, in degrees. */
export const Turn = z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]);
export type Turn = z.infer<typeof Turn>;

/** How far a picture can be straightened either way, in degrees; farther is a quarter turn. */
export const STRAIGHTEN_LIMIT = 45;

/**
 * What is made of an original before anything else: which page, whose pixel grid, which way up,
 * and which part of it. The original itself stays whole.
 */
export const Framing = z.object({
  /** counted from 1 */
  page: z.int().min(1).max(100_000),
  /** the true grid of a picture that was blown up by repeating pixels; null leaves it as it came */
  grid: TrueGrid.nullable(),
  turn: Turn,
  /** clockwise, in degrees, after the quarter turns */
  straighten: z.number().min(-STRAIGHTEN_LIMIT).max(STRAIGHTEN_LIMIT),
  /** in whole pixels of the turned and straightened picture; null takes all that is filled */
  crop: z
    .object({
      x: z.int().min(0),
      y: z.int().min(0),
      width: z.int().positive(),
      height: z.int().positive(),
    })
    .nullable(),
});
export type Framing = z.infer<typeof Framing>;

/** Everything as it came. */
export const UNFRAMED: Framing = { page: 1, grid: null, turn: 0, straighten: 0, crop: null };

/** Size of the original's own grid, once repeated pixels are taken back. */
export const gridSize = (original: Size, { grid }: Framing): Size =>
  grid ? { width: grid.width, height: grid.height } : original;

/** Size of the frame: the grid turned; straightening keeps size and centre. */
export function frameSize(original: Size, framing: Framing): Size {
  const { width, height } = gridSize(original, framing);
  return framing.turn % 180 === 0 ? { width, height } : { width: height, height: width };
}

/**
 * How a frame's corners stay inside a picture straightened by `degrees`: the largest rectangle of
 * the picture's shape about its centre, on whole pixels.
 */
export function largestInside(frame: Size, degrees: number): Rect {
  if (degrees === 0) return { x: 0, y: 0, ...frame };
  const { cos, sin } = rotation(degrees);
  const across = Math.abs(sin);
  const { width, height } = frame;
  const share = Math.min(
    width / (width * cos + height * across),
    height / (width * across + height * cos),
  );
  const x = Math.ceil((width * (1 - share)) / 2);
  const y = Math.ceil((height * (1 - share)) / 2);
  return { x, y, width: Math.max(1, width - 2 * x), height: Math.max(1, height - 2 * y) };
}

/** The part of the frame that is the work: the crop, drawn in until the picture fills it. */
export function pictureRect(original: Size, framing: Framing): Rect {
  const frame = frameSize(original, framing);
  const { crop, straighten } = framing;
  if (!crop) return largestInside(frame, straighten);
  const x = Math.min(crop.x, frame.width - 1);
  const y = Math.min(crop.y, frame.height - 1);
  const inside = {
    x,
    y,
    width: Math.min(crop.width, frame.width - x),
    height: Math.min(crop.height, frame.height - y),
  };
  return straighten === 0 ? inside : drawnIn(inside, frame, straighten);
}

/** `rect` shrunk about its own centre until its corners lie on the straightened picture. */
function drawnIn(rect: Rect, frame: Size, degrees: number): Rect {
  const { cos, sin } = rotation(degrees);
  const centre = { x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 };
  const dx = centre.x - frame.width / 2;
  const dy = centre.y - frame.height / 2;
  // The centre on the picture, seen from the picture's middle.
  const px = cos * dx + sin * dy;
  const py = -sin * dx + cos * dy;
  const reachX = (rect.width * cos + rect.height * Math.abs(sin)) / 2;
  const reachY = (rect.width * Math.abs(sin) + rect.height * cos) / 2;
  const share = Math.min(
    1,
    Math.max(0, (frame.width / 2 - Math.abs(px)) / reachX),
    Math.max(0, (frame.height / 2 - Math.abs(py)) / reachY),
  );
  if (share >= 1) return rect;
  const width = Math.max(1, Math.floor(rect.width * share));
  const height = Math.max(1, Math.floor(rect.height * share));
  return {
    x: Math.round(centre.x - width / 2),
    y: Math.round(centre.y - height / 2),
    width,
    height,
  };
}

/** Cosine and sine of an angle in degrees, the same on every engine. */
export const rotation = (degrees: number): { cos: number; sin: number } => ({
  cos: sinPi(0.5 + degrees / 180),
  sin: sinPi(degrees / 180),
});

/** What of one rectangle lies outside another: at most four rectangles, none of which overlap. */
export function around(whole: Rect, inner: Rect): Rect[] {
  const [right, bottom] = [whole.x + whole.width, whole.y + whole.height];
  const clamp = (value: number, least: number, most: number) =>
    Math.min(most, Math.max(least, value));
  const x0 = clamp(inner.x, whole.x, right);
  const x1 = clamp(inner.x + inner.width, x0, right);
  const y0 = clamp(inner.y, whole.y, bottom);
  const y1 = clamp(inner.y + inner.height, y0, bottom);
  return [
    { x: whole.x, y: whole.y, width: whole.width, height: y0 - whole.y },
    { x: whole.x, y: y1, width: whole.width, height: bottom - y1 },
    { x: whole.x, y: y0, width: x0 - whole.x, height: y1 - y0 },
    { x: x1, y: y0, width: right - x1, height: y1 - y0 },
  ].filter(({ width, height }) => width > 0 && height > 0);
}
