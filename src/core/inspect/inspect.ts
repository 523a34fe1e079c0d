import type { Source } from '../raster/source';
import { measureBlocking, VISIBLE } from './blocking';
import { combOf } from './comb';
import { compressedBefore } from './compressed-before';
import { measureBlur } from './blur';
import { measureDetail } from './detail';
import { measureEdges } from './edges';
import { enlargedBefore, periodicityOf } from './enlarged-before';
import type { Findings, Maps } from './findings';
import { measureGrounds, measureSpecks } from './grounds';
import { ownGrid, type JpegFacts } from './jpeg';
import { enlargedSinceBlocks, regularityOf, showsBlocks } from './former-grid';
import { kindOf } from './kind';
import { measureRims } from './rims';
import { measureLocalBlur } from './local-blur';
import { meanPower, powersOf } from './mean-power';
import { measureNoise } from './noise';
import { rowBends, rowSteps, samplePicture, type Sample } from './patches';
import { gridOfCombs, isSame, repeatedCells } from './repeated';
import { formerQuality } from './former-quality';
import { measureTextured } from './textured';
import { measureTonePoints, measureTones } from './tones';

/** All that is found in pixels, whatever the file says of itself. */
export type PixelFindings = Pick<
  Findings,
  | 'blocking'
  | 'noise'
  | 'detail'
  | 'enlarged'
  | 'blur'
  | 'localBlur'
  | 'rims'
  | 'rimReach'
  | 'clipped'
  | 'formerQuality'
  | 'compressedBefore'
  | 'banding'
  | 'textured'
  | 'tones'
  | 'grounds'
  | 'ringing'
  | 'fringes'
  | 'grid'
  | 'kind'
  | 'kindReason'
>;

/**
 * Looks at a picture's pixels: at a sample of about a megapixel, whatever its size.
 * @param own how a JPEG says that it is compressed
 */
export async function inspectPixels(
  source: Source,
  own: JpegFacts | null = null,
): Promise<{ findings: PixelFindings; maps: Maps }> {
  const sample = await samplePicture(source);
  const { patches, size, columns, rows } = sample;
  const blocksAt = ownGrid(own) ?? undefined;
  const noise = measureNoise(patches);
  const grid = await repeatedGrid(sample, source);
  const detail = measureDetail(sample, noise.luma);
  const enlarged = grid ? null : await enlargedIn(sample, source, detail.resolution);
  // Squares have borders of their own, which are no blocks.
  const blocking = grid
    ? { ...measureBlocking(patches), ratio: 1, strength: 0 }
    : measureBlocking(patches, blocksAt);
  const { kind, reason } = kindOf(patches, noise.luma, size, grid);
  const grounds = kind === 'photograph' || grid ? [] : measureGrounds(patches);
  const edges = measureEdges(patches, noise.luma);
  const rims = grid ? null : measureRims(patches);
  const powers = grid ? [] : powersOf(patches);
  const power = meanPower(powers);
  const photographed = kind === 'photograph' || kind === 'mixed';
  return {
    findings: {
      blocking,
      formerQuality:
        own || grid || blocking.ratio < VISIBLE
          ? null
          : formerQuality(patches, { x: blocking.offsetX, y: blocking.offsetY }),
      compressedBefore: own && !grid ? compressedBefore(patches, own) : null,
      noise,
      detail: grid
        ? (grid.width * grid.height) / (size.width * size.height)
        : detail.resolution === null
          ? null
          : Math.min(detail.resolution, 1 / (enlarged ?? 1)) ** 2,
      enlarged,
      blur: power && measureBlur(power, noise.luma),
      localBlur: photographed ? measureLocalBlur(powers, sample, noise.luma) : null,
      rims: rims && rims.beyond,
      rimReach: rims && rims.reach,
      textured: grid ? 0 : measureTextured(patches, noise.luma),
      ...measureTones(patches),
      tones: measureTonePoints(patches),
      grounds,
      ...edges,
      // Lettering leaves no room for ripples to be told along a line.
      ringing: Math.max(edges.ringing, measureSpecks(patches, grounds)),
      grid,
      kind,
      kindReason: reason,
    },
    maps: {
      columns,
      rows,
      sharpness: detail.map.map((value) => (value === null ? null : Math.round(value * 100))),
      blocks: patches.map((patch) => measureBlocking([patch]).strength),
    },
  };
}

async function enlargedIn(
  { columnBends }: Sample,
  source: Source,
  resolution: number | null,
): Promise<number | null> {
  const rhythm = periodicityOf(columnBends);
  const blocks = regularityOf(columnBends);
  if (rhythm === null && !(blocks && showsBlocks(blocks))) return null;
  const rows = await rowBends(source);
  const down = blocks && regularityOf(rows);
  const since = down && enlargedSinceBlocks(blocks, down, rhythm);
  return since ?? enlargedBefore(rhythm, periodicityOf(rows), resolution);
}

async function repeatedGrid(sample: Sample, source: Source): Promise<Findings['grid']> {
  const { columnSteps } = sample;
  const width = repeatedCells(columnSteps);
  const across = combOf(columnSteps.strong);
  if (!width && !across) return null;
  const steps = await rowSteps(source);
  const height = width && repeatedCells(steps);
  const down = across && combOf(steps.strong);
  const parts = down && gridOfCombs({ comb: across, steps: columnSteps }, { comb: down, steps });
  // Cells that fill the picture from border to border are told more exactly, but for those of a crop.
  if (width && height && (!parts || isSame({ width, height }, parts))) return { width, height };
  return parts;
}
