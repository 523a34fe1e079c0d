import { closeSync, mkdirSync, openSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { readJpegHeader } from '../../src/core/inspect/jpeg';
import { MODELS } from '../../src/core/learned/models';
import { severityOf } from '../../src/core/learned/planes';
import { cut, type Raster } from '../../src/core/raster/raster';
import { whole, type Region, type Size } from '../../src/core/raster/region';
import { fromSamples, toSamples } from '../../src/core/raster/samples';
import { compression } from '../../src/core/steps/compression/compression';
import { buildFilter } from '../../src/core/steps/resample/filter';
import type { SeparableKernel } from '../../src/core/steps/resample/kernels';
import { resample } from '../../src/core/steps/resample/separable';
import type { Beside } from '../../src/core/steps/step';
import { networksFrom } from '../../src/core/learned/networks';
import { modelBytes } from '../../src/server/files/models';
import { DATA } from '../degrade';

export const FACTOR = 4;

/** How a large picture became a small one. */
export type Reduction = Extract<SeparableKernel, 'bicubic' | 'lanczos3' | 'bilinear'>;

export interface Damage {
  reduction: Reduction;
  jpeg?: { quality: number; chromaSubsampling: '4:2:0' | '4:4:4'; learned: boolean };
  /** standard deviation of noise that is left in, in levels */
  noise?: number;
}

/** A large picture, the small one after cleaning, and what the network is told of it. */
export interface Pair {
  large: Raster;
  small: Raster;
  /** severity of luminance's and of colour's compression */
  facts: [number, number];
  /** the small one before cleaning */
  given: Raster;
}

export const beside: Beside = {
  network: networksFrom(modelBytes),
};

/** A picture reduced by the factor, in one resampling of the core. */
export function reduced(large: Raster, reduction: Reduction, factor = FACTOR): Raster {
  const size = {
    width: Math.floor(large.width / factor),
    height: Math.floor(large.height / factor),
  };
  const axis = (sourceSize: number, targetSize: number) =>
    buildFilter(
      { method: reduction, sourceSize, origin: 0, span: targetSize * factor, targetSize },
      0,
      targetSize,
    );
  return resample(
    { region: whole(large), raster: large },
    axis(large.width, size.width),
    axis(large.height, size.height),
    whole(size),
  );
}

const rounded = (raster: Raster): Raster =>
  fromSamples(toSamples(raster, 8) as Uint8Array, raster.width, raster.height, 3, 8);

export async function degrade(large: Raster, next: () => number, damage: Damage): Promise<Pair> {
  const small = reduced(large, damage.reduction);
  const size: Size = { width: small.width, height: small.height };
  if (damage.noise) {
    const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    for (const plane of small.planes)
      for (let i = 0; i < plane.length; i++) plane[i]! += (damage.noise / 255) * gauss();
  }
  if (!damage.jpeg) return { large, small: rounded(small), given: rounded(small), facts: [0, 0] };
  const { quality, chromaSubsampling, learned } = damage.jpeg;
  const bytes = await sharp(toSamples(small, 8), { raw: { ...size, channels: 3 } })
    .jpeg({ quality, chromaSubsampling })
    .toBuffer();
  const given = fromSamples(await sharp(bytes).raw().toBuffer(), size.width, size.height, 3, 8);
  const { luma, chroma, samplingX, samplingY, gridX, gridY } = readJpegHeader(bytes)!.facts!;
  const numbers = {
    ...{ luma, chroma, samplingX, samplingY, gridX, gridY },
    ...{ lumaShare: 1, colourShare: 1, model: learned ? MODELS.compression.digest : null },
  };
  const input = { region: whole(size), raster: given };
  const cleaned = await compression.apply(
    input,
    numbers,
    whole(size),
    { from: size, to: size },
    beside,
  );
  return {
    large,
    small: cleaned,
    given,
    facts: [severityOf(luma), chroma ? severityOf(chroma) : 0],
  };
}

/** Writes pairs one after another as training/enlarge/networks.py reads them. */
export class PairShard {
  private readonly files: Record<'large' | 'small' | 'facts', number>;

  constructor(name: string) {
    mkdirSync(join(DATA, 'pairs'), { recursive: true });
    const file = (part: string) => openSync(join(DATA, 'pairs', `enlarge-${name}.${part}`), 'w');
    this.files = { large: file('large'), small: file('small'), facts: file('facts') };
  }

  /** The part of a pair under a region of the small picture: bytes, and the small one in 1/64 level. */
  add({ large, small, facts }: Pair, region: Region): void {
    const { x, y, width, height } = region;
    const there = {
      x: x * FACTOR,
      y: y * FACTOR,
      width: width * FACTOR,
      height: height * FACTOR,
    };
    const part = (raster: Raster, of: Region) => cut({ region: whole(raster), raster }, of);
    writeSync(this.files.large, toSamples(part(large, there), 8));
    const fine = new Int16Array(width * height * 3);
    part(small, region).planes.forEach((plane, c) =>
      plane.forEach((value, i) => (fine[i * 3 + c] = Math.round(value * 255 * 64))),
    );
    writeSync(this.files.small, new Uint8Array(fine.buffer));
    writeSync(this.files.facts, new Uint8Array(Float32Array.of(...facts).buffer));
  }

  end(): void {
    for (const file of Object.values(this.files)) closeSync(file);
  }
}
