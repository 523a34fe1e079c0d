import { useMemo } from 'react';
import { gridSize } from '@/core/frame/framing';
import { framePlaces } from '@/core/frame/places';
import { clip, type Region } from '@/core/raster/region';
import { framingOf } from '@/core/recipe/plan';
import { sheetOnFrame } from '@/core/recipe/views';
import type { PaperPlace } from '@/core/stops/apart';
import type { WorkBench } from '../use-work';

/** How places of an original and of the paper answer each other. */
export interface OnPaper {
  /** pixels of the original to shares of the paper, which lie beyond 0–1 where it isn't on it */
  toPaper(x: number, y: number): PaperPlace;
  toOriginal(place: PaperPlace): { x: number; y: number };
  /** the smallest part of the original that holds all that lies on the paper */
  within: Region;
}

/** Where the bench's original lies on its paper; null where it can't be printed. */
export function useOnPaper({
  resolved,
  original,
  work,
}: Pick<WorkBench, 'resolved' | 'original' | 'work'>): OnPaper | null {
  return useMemo(() => {
    if (!resolved.ok) return null;
    const sheet = sheetOnFrame(resolved.recipe);
    const framing = framingOf(original, work);
    const { size } = original;
    const grid = gridSize(size, framing);
    const [across, down] = [grid.width / size.width, grid.height / size.height];
    const places = framePlaces(size, framing);
    const toOriginal = ({ x, y }: PaperPlace) => {
      const [u, v] = places.toGrid(sheet.x + x * sheet.width, sheet.y + y * sheet.height);
      return { x: u / across, y: v / down };
    };
    const corners = [0, 1].flatMap((y) => [0, 1].map((x) => toOriginal({ x, y })));
    const [left, right] = ends(corners.map(({ x }) => x));
    const [top, bottom] = ends(corners.map(({ y }) => y));
    return {
      toOriginal,
      toPaper: (x, y) => {
        const [u, v] = places.toFrame(x * across, y * down);
        return { x: (u - sheet.x) / sheet.width, y: (v - sheet.y) / sheet.height };
      },
      within: clip({ x: left, y: top, width: right - left, height: bottom - top }, size),
    };
    // What it follows from is all in what is resolved.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [resolved]);
}

/** The least and the most, outward to whole pixels. */
const ends = (values: readonly number[]): [number, number] => [
  Math.floor(Math.min(...values)),
  Math.ceil(Math.max(...values)),
];
