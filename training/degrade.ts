import { closeSync, mkdirSync, openSync, writeSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { readJpegHeader } from '../src/core/inspect/jpeg';
import { severityOf } from '../src/core/learned/planes';
import { cut, type Raster } from '../src/core/raster/raster';
import { whole, type Region, type Size } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import { nothingBeside } from '../src/core/testing';
import { compression } from '../src/core/steps/compression/compression';
import { denoise } from '../src/core/steps/noise/denoise';

export const DATA = join(dirname(fileURLToPath(import.meta.url)), '.data');

/** A degraded picture, the core's classical estimate of it, and what the network is told. */
export interface Pair {
  given: Raster;
  estimate: Raster;
  /** severity of luminance's and of colour's compression, whether colour was halved, noise */
  facts: [number, number, number, number];
}

export const asRaster = (bytes: Uint8Array, { width, height }: Size): Raster =>
  fromSamples(bytes, width, height, 3, 8);

/** What JPEG makes of a picture, and the core of that. */
export async function compressed(
  clean: Uint8Array,
  size: Size,
  quality: number,
  chromaSubsampling: '4:2:0' | '4:4:4',
): Promise<Pair> {
  const bytes = await sharp(clean, { raw: { ...size, channels: 3 } })
    .jpeg({ quality, chromaSubsampling })
    .toBuffer();
  return cleanedByTables(bytes, size);
}

/** A JPEG's pixels, and what the core makes of them by its own tables. */
export async function cleanedByTables(bytes: Buffer, size: Size): Promise<Pair> {
  const given = asRaster(await sharp(bytes).toColourspace('srgb').raw().toBuffer(), size);
  const { luma, chroma, samplingX, samplingY, gridX, gridY } = readJpegHeader(bytes)!.facts!;
  const numbers = {
    ...{ luma, chroma, samplingX, samplingY, gridX, gridY },
    ...{ lumaShare: 1, colourShare: 1, model: null },
  };
  const input = { region: whole(size), raster: given };
  const grids = { from: size, to: size };
  const estimate = await compression.apply(input, numbers, whole(size), grids, nothingBeside);
  const halved = samplingX === 2 ? 1 : 0;
  return {
    given,
    estimate,
    facts: [severityOf(luma), chroma ? severityOf(chroma) : 0, halved, 0],
  };
}

/**
 * A picture under gaussian noise, rounded to levels, and what the core makes of it.
 * @param shared part of the noise that all channels have in common, 0–1
 * @param taken the standard deviation that the cleaner is told, of `sigma`
 */
export function noisy(
  clean: Uint8Array,
  size: Size,
  next: () => number,
  { sigma, shared = 0, taken = sigma }: { sigma: number; shared?: number; taken?: number },
): Pair {
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const own = Math.sqrt(1 - shared * shared);
  const raster = asRaster(clean, size);
  for (let i = 0; i < raster.planes[0]!.length; i++) {
    const common = shared * gauss();
    for (const plane of raster.planes) plane[i]! += (sigma / 255) * (common + own * gauss());
  }
  const given = asRaster(toSamples(raster, 8) as Uint8Array, size);
  const grey = taken * Math.sqrt(own * own + 3 * shared * shared);
  const estimate = denoise({ region: whole(size), raster: given }, whole(size), size, {
    grey,
    colour: taken * own,
  });
  return { given, estimate, facts: [0, 0, 0, taken / 50] };
}

/** Writes pairs one after another as training/networks.py reads them. */
export class Shard {
  private readonly files: Record<'clean' | 'given' | 'estimate' | 'facts', number>;

  constructor(name: string) {
    mkdirSync(join(DATA, 'pairs'), { recursive: true });
    const file = (part: string) => openSync(join(DATA, 'pairs', `${name}.${part}`), 'w');
    this.files = {
      clean: file('clean'),
      given: file('given'),
      estimate: file('estimate'),
      facts: file('facts'),
    };
  }

  /**
   * The part of a pair under `region`: bytes, the estimate in 1/64 level, and the facts with where a block begins.
   * @param more what else is told of it
   */
  add(
    clean: Uint8Array,
    pair: Pair,
    size: Size,
    region: Region,
    more: readonly number[] = [],
  ): void {
    const part = (raster: Raster) => cut({ region: whole(size), raster }, region);
    writeSync(this.files.clean, toSamples(part(asRaster(clean, size)), 8));
    writeSync(this.files.given, toSamples(part(pair.given), 8));
    const fine = new Int16Array(region.width * region.height * 3);
    part(pair.estimate).planes.forEach((plane, c) =>
      plane.forEach((value, i) => (fine[i * 3 + c] = Math.round(value * 255 * 64))),
    );
    writeSync(this.files.estimate, new Uint8Array(fine.buffer));
    const begins = [(800 - region.x) % 8, (800 - region.y) % 8];
    const facts = Float32Array.of(...pair.facts, ...begins, ...more);
    writeSync(this.files.facts, new Uint8Array(facts.buffer));
  }

  end(): void {
    for (const file of Object.values(this.files)) closeSync(file);
  }
}
