import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Output } from '@/core/output/output';
import { USUAL_PANELS, type Panels } from '@/core/output/panels';
import { CORE_VERSION, Recipe } from '@/core/recipe/recipe';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { rowSum } from '../output/samples';
import { packStrip } from '../output/strip';
import { writerOf } from '../output/writer';

/** Ten pixels a millimetre: 90 x 60 mm in panels of at most 40 x 35 mm. */
export const target = { width: 900, height: 600, ppi: 254, bleed: 0 };
export const panels: Panels = {
  ...USUAL_PANELS,
  ...{ way: 'grid', widest: 40, tallest: 35, overlap: 5, hem: 6, pocket: 10, eyelets: 30 },
};
const facts = {
  ...{ job: '2026-014', title: 'Banner', customer: '', trial: 'Trial A' },
  ...{ size: '90 × 60 mm', date: '2026-11-29' },
};

/** Writes a picture whose every pixel tells where it is, in panels. */
export async function writtenPanels(folder: string, output: Output) {
  const recipe = Recipe.parse({
    ...{ version: RECIPE_VERSION, core: CORE_VERSION, alpha: 'none', colour: '#ffffff' },
    original: { digest: 'd'.repeat(64), page: 1, width: 90, height: 60, drawn: null },
    ...{ target, steps: [], output },
  });
  const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
  const writer = writerOf({ recipe, profile: null, part: join(folder, 'panels'), facts, packed });
  const samples = await writer.begin();
  const file = await readFile(samples.path);
  const pixels = file.subarray(samples.start);
  for (let y = 0, i = 0; y < target.height; y++)
    for (let x = 0; x < target.width; x++, i += 3) {
      pixels[i] = x / 4;
      pixels[i + 1] = y / 3;
      pixels[i + 2] = (x + y) / 8;
    }
  await writeFile(samples.path, file);
  const line = target.width * 3;
  const sums = Uint32Array.from({ length: target.height }, (_, y) =>
    rowSum(pixels.subarray(y * line, (y + 1) * line)),
  );
  const whole = { x: 0, y: 0, width: target.width, height: target.height };
  return { writer, path: await writer.end(() => {}), sums: [{ part: whole, sums }] };
}
