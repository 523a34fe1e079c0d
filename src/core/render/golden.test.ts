import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { NO_MODELS } from '../learned/models';
import { whole } from '../raster/region';
import { toSamples } from '../raster/samples';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import { resolveRecipe } from '../recipe/resolve';
import type { Work } from '../recipe/work';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { expectGolden } from '../testing/golden';
import { newPart } from '../zone/zone';
import { render } from './render';

const size = { width: 110, height: 80 };
const source = memorySource(testPicture(size, 9));
const jpeg = {
  luma: tableAtQuality(STANDARD_LUMA, 40),
  chroma: tableAtQuality(STANDARD_CHROMA, 40),
  ...{ samplingX: 2, samplingY: 2, progressive: false, quality: 40, gridX: 0, gridY: 0 },
};

/** Whole works, from their automatic choices to their samples. */
const works: Record<string, (work: Work) => void> = {
  'as it is proposed': () => {},
  'cleaned, straightened, finished in a zone, with bleed': (work) => {
    work.framing.straighten = -3;
    work.paper.bleed = { mm: 2, fill: 'rim' };
    const parts = [{ ...newPart.linear(), x0: 0.3, x1: 0.8 }];
    work.zones = [{ id: 'z', name: 'Right', parts, painted: null, feather: 2, inverted: false }];
    work.trials[0]!.treatment = [
      newStep('compression', { engine: 'classical' }),
      newStep('noise', { engine: 'classical', luma: 4, colour: 6 }),
      newStep('enlarge', { method: 'lanczos3', limit: 40, light: 'linear' }),
      { ...newStep('smooth', { radius: 1.2 }), zone: 'z' },
      { ...newStep('unsharp', { radius: 9, unit: 'px' }), strength: 70 },
      newStep('texture', { returned: 40, grain: 3 }),
    ];
  },
  'another trial in a zone, turned, 16 bit': (work) => {
    work.framing.turn = 90;
    const parts = [newPart.round()];
    work.zones = [{ id: 'z', name: 'Middle', parts, painted: null, feather: 0, inverted: false }];
    const [first] = work.trials;
    first!.output.depth = 16;
    const treatment = [
      newStep('tones', { exposure: 0.4 }),
      newStep('enlarge', { method: 'nearest' }),
    ];
    work.trials.push({ ...structuredClone(first!), id: 'b', name: 'B', treatment });
    first!.treatment = [
      newStep('enlarge', { method: 'lanczos3-jinc' }),
      { ...newStep('inset', { trial: 'b' }), zone: 'z' },
    ];
  },
};

it('gives the results of this core version, of whole works', async () => {
  const digests: Record<string, string> = {};
  for (const [name, change] of Object.entries(works)) {
    const findings = testFindings(size, { format: 'jpeg', jpeg });
    const paper = testPaper({ width: { value: 4, unit: 'cm' } });
    const { work } = propose(findings, { paper, distance: 2 });
    change(work);
    const original = originalOf('f'.repeat(64), findings);
    const resolved = resolveRecipe(original, work, work.trials[0]!, NO_MODELS);
    if (!resolved.ok) throw new Error(resolved.reason);
    const { recipe } = resolved;
    const raster = await render(source, recipe).read(whole(recipe.target));
    const samples = toSamples(raster, recipe.output.depth);
    const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
    digests[name] = createHash('sha256').update(bytes).digest('hex').slice(0, 16);
  }
  expectGolden(new URL('./golden.json', import.meta.url), digests);
  expect(Object.keys(digests)).toHaveLength(3);
});
