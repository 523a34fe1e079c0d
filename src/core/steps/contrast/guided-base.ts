import type { Form } from '../../raster/form';
import { blur, gaussianReach } from '../../raster/gaussian';
import { copyRun, type Raster, type Window } from '../../raster/raster';
import { clip, grow, type Region, type Size } from '../../raster/region';
import {
  blurCells,
  blurredWeights,
  cellsAbout,
  cellWeight,
  reducedSize,
  reduceRows,
} from '../../raster/wide-gaussian';

/** Means of luminance and of its square, cell by cell. */
export const MOMENTS: Form = { colours: 2, alpha: false, space: 'lightness' };

/** A Gaussian between cells of a reduced grid. */
interface CellBlur {
  /** standard deviation in cells */
  sigma: number;
  reach: number;
}

/** How a base of a radius is computed on a reduced grid. */
export interface Base {
  /** pixels to a cell along each axis, a multiple of four */
  factor: number;
  /** what means and variances are taken over */
  window: CellBlur;
  /** what the windows' coefficients are averaged over */
  average: CellBlur;
}

/** Variance of the spline about a cell, in cells squared: what is reduced is blurred by it. */
const OF_SPLINE = 1 / 3;
/** From this radius on, in pixels, a reduced grid tells Gaussians from its splines. */
const WIDE = 12;

/**
 * The radius over which windows are averaged: half of theirs, so that those across an edge, which know nothing of this
 * side of it, don't count here.
 */
export const averageRadius = (radius: number): number => radius / 2;

/** How a base of a radius, in pixels, is computed on a reduced grid; null where it is computed at the picture itself. */
export function baseOf(radius: number): Base | null {
  if (radius < WIDE) return null;
  let factor = 4;
  while (radius >= 6 * factor) factor *= 2;
  const between = (pixels: number): CellBlur => {
    const sigma = Math.sqrt((pixels / factor) ** 2 - OF_SPLINE);
    return { sigma, reach: Math.ceil(3.5 * sigma) };
  };
  return { factor, window: between(radius), average: between(averageRadius(radius)) };
}

/** Cells that the base over `region` of the picture depends on. */
export function cellsForBase(
  region: Region,
  { factor, window, average }: Base,
  size: Size,
): Region {
  const { cells } = cellsAbout(region, factor);
  return widened(cells, window.reach + average.reach, reducedSize(size, factor));
}

/** Cells and those about them, as far as the reduced grid goes; those asked for may lie beyond it. */
const widened = (cells: Region, by: number, grid: Size): Region =>
  clip(
    {
      x: cells.x - by,
      y: cells.y - by,
      width: cells.width + 2 * by,
      height: cells.height + 2 * by,
    },
    grid,
  );

/** Reduces luminance and its square to `region` of the reduced grid. @param input over at least its pixels */
export function reducedMoments(input: Window, region: Region, factor: number, size: Size): Raster {
  const { region: covered, raster } = input;
  const [luma] = raster.planes as [Float32Array];
  const moment = (squared: boolean) =>
    reduceRows(covered, region, factor, size, 0, (memory, at, y) => {
      copyRun(luma, (y - covered.y) * covered.width, memory.floats, at, covered.width);
      if (squared) memory.squareRow(at * 4, at * 4, covered.width);
    }).planes[0]!;
  const { width, height } = region;
  return { width, height, form: MOMENTS, planes: [moment(false), moment(true)] };
}

/**
 * How much the base follows the picture in a window. With squares in place of the variances of the guided filter it
 * turns more quickly, so that half as much of a halo is left where a window holds a little of an edge.
 */
const follows = (variance: number, least: number): number =>
  (variance * variance) / (variance * variance + least * least);

/**
 * The base of a picture that keeps its strong edges, as slope x luminance + level in the cells about a region: the
 * guided filter of He, Sun & Tang (2010) with the picture as its own guide, its windows Gaussians, its coefficients
 * computed on a reduced grid (He & Sun 2015, "Fast guided filter") from moments of all pixels.
 * @param moments at least `cellsForBase(region)` of the reduced grid
 * @param least variance from which on something counts as an edge, on the scale 0–1
 * @returns planes of the cells about the region, as `splineRows` takes them
 */
export function guidedBase(
  { region: covered, raster }: Window,
  region: Region,
  size: Size,
  base: Base,
  least: number,
): { slope: Float32Array; level: Float32Array } {
  const { factor, window, average } = base;
  const { cells, stride } = cellsAbout(region, factor);
  const grid = reducedSize(size, factor);
  const near = widened(cells, average.reach, grid);
  const blurred = (by: CellBlur, plane: Float32Array, from: Region, to: Region, line: number) => {
    const out = new Float32Array(line * to.height);
    blurCells(plane, from, to, grid, by, out, line);
    return out;
  };
  const [means, squares] = raster.planes.map((plane) =>
    blurred(window, plane, covered, near, near.width),
  ) as [Float32Array, Float32Array];
  const acrossWeight = (cell: number) => cellWeight(cell, size.width, factor);
  const downWeight = (cell: number) => cellWeight(cell, size.height, factor);
  const weights = (by: CellBlur, at: Region) => ({
    x: blurredWeights(at.x, at.width, grid.width, by, acrossWeight),
    y: blurredWeights(at.y, at.height, grid.height, by, downWeight),
  });
  const on = weights(window, near);
  for (let y = 0, i = 0; y < near.height; y++) {
    for (let x = 0; x < near.width; x++, i++) {
      const weight = on.x[x]! * on.y[y]!;
      const mean = means[i]! / weight;
      const variance = Math.max(0, squares[i]! / weight - mean * mean);
      const slope = follows(variance, least);
      // A cell counts as much as of it lies on the picture.
      const counts = acrossWeight(near.x + x) * downWeight(near.y + y);
      means[i] = counts * slope;
      squares[i] = counts * (1 - slope) * mean;
    }
  }
  const slope = blurred(average, means, near, cells, stride);
  const level = blurred(average, squares, near, cells, stride);
  const about = weights(average, cells);
  for (let y = 0; y < cells.height; y++) {
    for (let x = 0; x < cells.width; x++) {
      const weight = about.x[x]! * about.y[y]!;
      slope[y * stride + x]! /= weight;
      level[y * stride + x]! /= weight;
    }
  }
  return { slope, level };
}

/** Pixels about a pixel that `closeBase` looks at. */
export const closeReach = (radius: number): number =>
  gaussianReach(radius) + gaussianReach(averageRadius(radius));

/**
 * The same for narrow windows, at every pixel of a region.
 * @param luma over `covered`, which is `region` grown by `closeReach` as far as the picture goes
 */
export function closeBase(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  radius: number,
  least: number,
): { slope: Float32Array; level: Float32Array } {
  const near = grow(region, gaussianReach(averageRadius(radius)), size);
  const means = blur(luma, covered, near, size, radius);
  const squares = blur(
    luma.map((value) => value * value),
    covered,
    near,
    size,
    radius,
  );
  for (let i = 0; i < means.length; i++) {
    const mean = means[i]!;
    const variance = Math.max(0, squares[i]! - mean * mean);
    const slope = follows(variance, least);
    means[i] = slope;
    squares[i] = (1 - slope) * mean;
  }
  const average = averageRadius(radius);
  return {
    slope: blur(means, near, region, size, average),
    level: blur(squares, near, region, size, average),
  };
}
