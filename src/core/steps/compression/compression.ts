import { earlierBlocks } from '../../inspect/earlier-blocks';
import { z } from 'zod';
import { cleanLearned, learnedInput } from '../../learned/cleaner';
import { toYCbCr } from '../../raster/colour';
import { cut, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import {
  automatic,
  Engine,
  engineControl,
  LEARNED_CLEANER,
  ModelDigest,
  type Automatic,
} from '../automatic';
import type { ResolveContext, Step } from '../step';
import { addChange, classical, classicalInput, compressedBy, Tables, tablesOf } from './classical';
import { say } from '../../words/say';

export const CompressionSettings = z.object({
  engine: Engine,
  /** how much of it is taken out of luminance, in %; automatic: by the file's quality */
  luma: automatic(0, 100),
  /** … and of colour */
  colour: automatic(0, 100),
});
export type CompressionSettings = z.infer<typeof CompressionSettings>;

const share = z.number().min(0).max(1);

/** What the file's compression was, and how much of it is taken out. */
export const CompressionNumbers = z.object({
  ...Tables.shape,
  lumaShare: share.default(1),
  colourShare: share.default(1),
  model: ModelDigest.default(null),
});
export type CompressionNumbers = z.infer<typeof CompressionNumbers>;

/** From this quality on a file kept so much that less is taken for damage. */
const FINE = 96;

/** In %, how much is taken out unless it is said: nothing of what was never compressed. */
const usualShare = ({ jpeg, blocks }: Pick<ResolveContext, 'jpeg' | 'blocks'>): number => {
  if (blocks) return 100;
  return !jpeg ? 0 : (jpeg.quality ?? 0) >= FINE ? 60 : 100;
};

/** Takes the traces of JPEG compression away, in luminance and in both colour differences. */
export const compression: Step<'compression', CompressionSettings, CompressionNumbers> = {
  kind: 'compression',
  title: say`JPEG clean-up`,
  blurb: say`Blocks, ripples and colour blotches of JPEG.`,
  rank: 10,
  restsOnGrid: true,
  phases: ['original'],
  settings: CompressionSettings,
  numbers: CompressionNumbers,
  defaults: { engine: 'learned', luma: 'auto', colour: 'auto' },
  controls: [
    engineControl('compression'),
    {
      form: 'slider',
      setting: 'luma',
      label: say`Luminance`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
      automatic: (found) => usualShare({ jpeg: found.jpeg, blocks: earlierBlocks(found) }),
    },
    {
      form: 'slider',
      setting: 'colour',
      label: say`Colour`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
      automatic: (found) => usualShare({ jpeg: found.jpeg, blocks: earlierBlocks(found) }),
    },
  ],
  cost: ({ model }) => 0.85 + (model ? LEARNED_CLEANER : 0),

  resolve(settings, { jpeg, blocks, plan, framing, models }) {
    // Neither shapes nor pixels that stand for whole squares carry blocks of compression.
    if (plan.vector || framing.grid) return null;
    const usual = usualShare({ jpeg, blocks });
    const part = (chosen: Automatic) => (chosen === 'auto' ? usual : chosen) / 100;
    const lumaShare = part(settings.luma);
    const colourShare = part(settings.colour);
    if (lumaShare === 0 && colourShare === 0) return null;
    const model = settings.engine === 'learned' ? models.compression : null;
    return { ...tablesOf({ jpeg, blocks }), lumaShare, colourShare, model };
  },

  scaled: (numbers) => numbers,

  size: (_, from) => from,

  inputRegion: (numbers, region, { from }) =>
    classicalInput(numbers, numbers.model ? learnedInput(region, from) : region, from),

  async apply(input, numbers, region, { from }, beside) {
    const network = numbers.model && (await beside.network(numbers.model));
    const estimated = network ? learnedInput(region, from) : region;
    const estimate = { region: estimated, raster: classical(input, numbers, estimated, from) };
    if (!network) return mixed(input, estimate.raster, region, numbers);
    const damage = { ...compressedBy(numbers), noise: 0 };
    const found = cleanLearned(network, input, estimate, region, from, damage);
    return mixed(input, found, region, numbers);
  },

  summary: (settings, strength) => `${shareOf(settings, strength)} %`,
  share: (settings, strength) => shareOf(settings, strength),
};

/** How much of what was found is taken, in %. */
function shareOf({ luma, colour }: CompressionSettings, strength: number): number {
  const most = luma === 'auto' || colour === 'auto' ? 100 : Math.max(luma, colour);
  return Math.round((most * strength) / 100);
}

/** The picture with as much of what was found as is wanted, of luminance and of colour. */
function mixed(
  input: Window,
  found: Raster,
  region: Region,
  { lumaShare, colourShare }: CompressionNumbers,
): Raster {
  if (lumaShare === 1 && colourShare === 1) return found;
  const result = cut(input, region);
  const before = toYCbCr(result);
  const after = toYCbCr(found);
  const change = (from: Float32Array, to: Float32Array, part: number) =>
    from.map((value, i) => part * (to[i]! - value));
  addChange(
    result,
    change(before.y, after.y, lumaShare),
    change(before.cb, after.cb, colourShare),
    change(before.cr, after.cr, colourShare),
  );
  return result;
}
