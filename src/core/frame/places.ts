import type { Size } from '../raster/region';
import { frameSize, gridSize, rotation, type Framing } from './framing';

type Point = [number, number];

/** How points of an original's grid and of its frame answer each other. */
export interface FramePlaces {
  toFrame(x: number, y: number): Point;
  toGrid(x: number, y: number): Point;
}

/** The ways between the grid of an original and its turned, straightened frame. */
export function framePlaces(original: Size, framing: Framing): FramePlaces {
  const grid = gridSize(original, framing);
  const frame = frameSize(original, framing);
  const { cos, sin } = rotation(framing.straighten);
  const [mx, my] = [frame.width / 2, frame.height / 2];
  const turned = (x: number, y: number): Point => {
    switch (framing.turn) {
      case 90:
        return [grid.height - y, x];
      case 180:
        return [grid.width - x, grid.height - y];
      case 270:
        return [y, grid.width - x];
      default:
        return [x, y];
    }
  };
  const back = (x: number, y: number): Point => {
    switch (framing.turn) {
      case 90:
        return [y, grid.height - x];
      case 180:
        return [grid.width - x, grid.height - y];
      case 270:
        return [grid.width - y, x];
      default:
        return [x, y];
    }
  };
  return {
    toFrame: (x, y) => {
      const [u, v] = turned(x, y);
      return [mx + cos * (u - mx) - sin * (v - my), my + sin * (u - mx) + cos * (v - my)];
    },
    toGrid: (x, y) =>
      back(mx + cos * (x - mx) + sin * (y - my), my - sin * (x - mx) + cos * (y - my)),
  };
}
