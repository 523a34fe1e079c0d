import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { whole } from '../raster/region';
import { apply, cases, resultSize } from '../testing/cases';
import { expectGolden } from '../testing/golden';

it('gives the results of this core version, of every step and each of its ways', async () => {
  const digests: Record<string, string> = {};
  for (const [name, step] of Object.entries(cases)) {
    const result = await apply(step, whole(resultSize(step)));
    const hash = createHash('sha256');
    for (const plane of result.planes) hash.update(new Uint8Array(plane.buffer));
    digests[name] = hash.digest('hex').slice(0, 16);
  }
  expectGolden(new URL('./golden.json', import.meta.url), digests);
  expect(Object.keys(digests)).toEqual(Object.keys(cases));
});
