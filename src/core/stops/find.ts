import { cells, within as part, type Region } from '../raster/region';
import type { Source } from '../raster/source';
import { TILE } from '../raster/tiles';
import { CELL, cellFigures, type CellFigures } from './cell';
import type { Stop, StopKind } from './stop';
import type { Face } from '../faces/face';

/** A square of the picture and what it shows. */
interface Cell extends CellFigures {
  region: Region;
}

/** How places of a kind are told, and how many of them are worth a look. */
interface Telling {
  /** how good an example of its kind a square is; nothing where it is none */
  worth(cell: Cell): number;
  figure(cell: Cell): number;
  most: number;
  /** whether the place is where it is steepest, rather than the middle */
  steep?: true;
}

/** Blocks count from so many levels on, tones as dark from there down, and lettering so far apart. */
const BLOCKS = 0.6;
const DARK = 72;
const APART = 60;
/** A gradient climbs so many levels over a square, no less and no more. */
const GRADIENT = { least: 1, most: 32 };
/** Least of what is fine, and of what is steep, in levels. */
const FINE = 1.5;
const STEEP = 24;

const isLettering = ({ range, twoToned, fewer, edges }: Cell): boolean =>
  range >= APART && twoToned >= 0.7 && fewer >= 0.05 && edges >= 0.07;

const TELLING: Record<Exclude<StopKind, 'face'>, Telling> = {
  blocks: {
    // On what is busy anyway they are seen less.
    worth: ({ blockSteps, fine }) => (blockSteps < BLOCKS ? 0 : blockSteps / (2 + fine)),
    figure: ({ blockSteps }) => blockSteps,
    most: 2,
  },
  lettering: {
    worth: (cell) => (isLettering(cell) ? cell.edges * cell.twoToned : 0),
    figure: ({ range }) => range,
    most: 2,
  },
  edges: {
    worth: ({ steepest }) => (steepest < STEEP ? 0 : steepest),
    figure: ({ steepest }) => steepest,
    most: 2,
    steep: true,
  },
  texture: {
    worth: (cell) => (cell.fine < FINE || isLettering(cell) ? 0 : cell.fine),
    figure: ({ fine }) => fine,
    most: 1,
  },
  gradient: {
    worth: ({ climb, fine, calm }) =>
      !calm || climb < GRADIENT.least || climb > GRADIENT.most ? 0 : 1 / (1 + fine) + climb / 1e3,
    figure: ({ climb }) => climb,
    most: 1,
  },
  shadow: {
    // What is black through and through shows nothing.
    worth: ({ mean, deviation }) =>
      mean > DARK || deviation < 1 ? 0 : (DARK - mean) * Math.min(1, deviation / 4),
    figure: ({ mean }) => mean,
    most: 1,
  },
};

/** Stops of a kind are so many squares apart, and so many from those of other kinds. */
const APART_ALIKE = 4;
const APART_OTHERS = 1.5;
/** Of larger pictures every other tile, or one of more, is looked through, spread evenly; in pixels. */
const MOST_PIXELS = 26e6;

/** Where a picture is looked through, and what is known of it. */
export interface Looked {
  original: Source;
  /** what of it lies on the paper */
  within: Region;
  /** where a block of its compression begins, 0–7; null where it shows none */
  grid: { x: number; y: number } | null;
  /** the largest first */
  faces: readonly Face[];
}

/**
 * Places of a picture that are worth a look: its largest faces, worst blocks, lettering, strongest edges, finest texture, flattest
 * gradient, deepest shadow; each told by figures of squares of 64 pixels.
 */
export const findStops = async (looked: Looked): Promise<Stop[]> =>
  chosen(await lookedThrough(looked), facesIn(looked));

/** So many faces are worth a look, each at its eyes: so far down. */
const MOST_FACES = 3;
const EYES = 0.4;

const facesIn = ({ faces, within }: Looked): Stop[] =>
  faces
    .map(({ x, y, width, height }) => ({
      kind: 'face' as const,
      x: Math.round(x + width / 2),
      y: Math.round(y + EYES * height),
      figure: height,
    }))
    .filter(
      ({ x, y }) =>
        x >= within.x &&
        y >= within.y &&
        x < within.x + within.width &&
        y < within.y + within.height,
    )
    .slice(0, MOST_FACES);

async function lookedThrough({ original, within, grid }: Looked): Promise<Cell[]> {
  const every = Math.max(1, Math.ceil((within.width * within.height) / MOST_PIXELS));
  const least = Math.min(CELL / 2, within.width, within.height);
  const found: Cell[] = [];
  // Another one of each row, so that no column is left out.
  const tiles = cells(within, TILE, original.size)
    .filter((tile, at) => (at + Math.floor(tile.y / TILE)) % every === 0)
    .map((tile) => part(tile, within));
  for (const tile of tiles) {
    const window = { region: tile, raster: await original.read(tile) };
    for (const cell of cells(tile, CELL, original.size)) {
      const region = part(cell, tile);
      if (Math.min(region.width, region.height) < least) continue;
      const begins = grid && {
        x: (((grid.x - region.x) % 8) + 8) % 8,
        y: (((grid.y - region.y) % 8) + 8) % 8,
      };
      const figures = cellFigures(window, region, begins);
      if (figures) found.push({ ...figures, region });
    }
  }
  return found;
}

function chosen(found: readonly Cell[], first: readonly Stop[]): Stop[] {
  const stops: Stop[] = [...first];
  for (const kind of Object.keys(TELLING) as (keyof typeof TELLING)[]) {
    const { worth, figure, most, steep } = TELLING[kind];
    const ranked = found
      .map((cell) => ({ cell, worth: worth(cell) }))
      .filter((one) => one.worth > 0)
      .sort((a, b) => b.worth - a.worth);
    let taken = 0;
    for (const { cell } of ranked) {
      if (taken === most) break;
      const { region, at } = cell;
      const stop: Stop = {
        kind,
        x: region.x + (steep ? at.x : region.width >> 1),
        y: region.y + (steep ? at.y : region.height >> 1),
        figure: figure(cell),
      };
      const near = (other: Stop) =>
        Math.hypot(other.x - stop.x, other.y - stop.y) <
        CELL * (other.kind === kind ? APART_ALIKE : APART_OTHERS);
      if (stops.some(near)) continue;
      stops.push(stop);
      taken++;
    }
  }
  return stops;
}
