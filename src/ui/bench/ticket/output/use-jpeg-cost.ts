import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import type { Region, Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Recipe } from '@/core/recipe/recipe';
import { ask, PRIORITY, type Pixels } from '@/preview/client';
import { api } from '../../../data/api';
import { useRested } from '../../../parts/use-rested';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';

/** How many places a picture is tried on, across and down, and how large each is. */
const PLACES = 3;
const SIDE = 192;
/** A JPEG's blocks, and those of coarse colours. */
const GRID = 16;
/** Milliseconds without a change before anything is measured. */
const REST = 600;

const aligned = (at: number): number => Math.max(0, Math.floor(at / GRID) * GRID);

/** Places that are spread evenly over a result, where its blocks begin. */
function placesOn({ width, height }: Size): Region[] {
  const [w, h] = [Math.min(SIDE, aligned(width)), Math.min(SIDE, aligned(height))];
  if (w < GRID || h < GRID) return [];
  const at = (i: number, side: number, part: number) =>
    aligned(((i + 0.5) / PLACES) * side - part / 2);
  return Array.from({ length: PLACES * PLACES }, (_, i) => ({
    x: Math.min(at(i % PLACES, width, w), aligned(width - w)),
    y: Math.min(at(Math.floor(i / PLACES), height, h), aligned(height - h)),
    ...{ width: w, height: h },
  }));
}

/** Interleaved RGB of pixels with alpha. */
function rgbOf({ rgba }: Pick<Pixels, 'rgba'>): Uint8Array<ArrayBuffer> {
  const rgb = new Uint8Array((rgba.length / 4) * 3);
  for (let i = 0, j = 0; i < rgba.length; i += 4, j += 3) {
    rgb[j] = rgba[i]!;
    rgb[j + 1] = rgba[i + 1]!;
    rgb[j + 2] = rgba[i + 2]!;
  }
  return rgb;
}

/** Exact pixels of a result, in its own colours as they are handed to its writer. */
async function exact(bench: WorkBench, recipe: Recipe, region: Region, signal: AbortSignal) {
  const { digest, findings } = bench.job.piece;
  const original = { ...wholeOriginal(digest, findings, recipe), profiled: false };
  const asked = { original, recipe, region, against: null, mayDraft: false };
  const pixels = await ask('pixels', asked, {
    ...{ priority: PRIORITY.figures, group: 'jpeg', signal },
  });
  return rgbOf(pixels);
}

/** What each quality of a JPEG costs the trial on the bench. */
export function useJpegCost(bench: WorkBench) {
  const { resolved, trial } = bench;
  const recipe = useRested(resolved.ok ? resolved.recipe : null, REST);
  const { sampling, progressive } = trial.output;
  const pixels = useMemo(
    () => recipe && canonicalJson([recipe.original, recipe.steps, recipe.target]),
    [recipe],
  );
  return useQuery({
    queryKey: ['jpeg cost', pixels, sampling, progressive],
    enabled: recipe !== null,
    staleTime: Infinity,
    retry: false,
    queryFn: async ({ signal }) => {
      const places = placesOn(recipe!.target);
      const parts: Uint8Array[] = [];
      for (const region of places) parts.push(await exact(bench, recipe!, region, signal));
      const { width = 0, height = 0 } = places[0] ?? {};
      const all = new Uint8Array(parts.length * width * height * 3);
      parts.forEach((part, i) => all.set(part, i * width * height * 3));
      // One below the other: blocks end where places do.
      const size = { width, height: parts.length * height };
      return parts.length === 0
        ? []
        : api.jpegCosts(all, size, { sampling, progressive }, parts.length);
    },
  });
}

/** The close-up: so many pixels of the result. */
export const CLOSE_UP: Size = { width: 80, height: 64 };

/** A place of the result as it is, and the address of its JPEG; null before it is there. */
export interface CloseUp {
  rgb: Uint8Array<ArrayBuffer>;
  jpeg: string;
}

/** @param at the place, in shares of the print */
export function useCloseUp(bench: WorkBench, at: { x: number; y: number }): CloseUp | null {
  const { resolved, trial } = bench;
  const { quality, sampling, progressive } = trial.output;
  const recipe = useRested(resolved.ok ? resolved.recipe : null, REST);
  const region = useMemo(() => recipe && closeUpOn(recipe.target, at), [recipe, at]);
  const [rgb, setRgb] = useState<CloseUp['rgb'] | null>(null);
  useEffect(() => {
    if (!recipe || !region) return;
    const stop = new AbortController();
    exact(bench, recipe, region, stop.signal)
      .then(setRgb)
      .catch(() => {});
    return () => stop.abort();
    // The recipe and the place say all that matters of the bench.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [recipe, region]);
  const [shown, setShown] = useState<CloseUp | null>(null);
  useEffect(() => {
    if (!rgb) return;
    let address: string | null = null;
    let gone = false;
    api
      .jpeg(rgb, CLOSE_UP, { sampling, progressive }, quality)
      .then((jpeg) => {
        if (gone) return;
        address = URL.createObjectURL(jpeg);
        setShown({ rgb, jpeg: address });
      })
      .catch(() => {});
    return () => {
      gone = true;
      if (address) URL.revokeObjectURL(address);
    };
  }, [rgb, quality, sampling, progressive]);
  return shown;
}

/** The region of a close-up about a place, where blocks begin; null where the result is smaller. */
function closeUpOn({ width, height }: Size, at: { x: number; y: number }): Region | null {
  if (width < CLOSE_UP.width || height < CLOSE_UP.height) return null;
  const place = (share: number, side: number, part: number) =>
    Math.min(aligned(share * side - part / 2), aligned(side - part));
  return {
    x: place(at.x, width, CLOSE_UP.width),
    y: place(at.y, height, CLOSE_UP.height),
    ...CLOSE_UP,
  };
}
