import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { CORE_VERSION } from '../recipe/recipe';
import { whole } from '../raster/region';
import { apply, cases, resultSize } from '../testing/cases';

const path = new URL('./golden.json', import.meta.url);
const golden = JSON.parse(readFileSync(path, 'utf8')) as {
  core: string;
  digests: Record<string, string>;
};

async function digestsNow(): Promise<Record<string, string>> {
  const found: Record<string, string> = {};
  for (const [name, step] of Object.entries(cases)) {
    const result = await apply(step, whole(resultSize(step)));
    const hash = createHash('sha256');
    for (const plane of result.planes) hash.update(new Uint8Array(plane.buffer));
    found[name] = hash.digest('hex').slice(0, 16);
  }
  return found;
}

it('gives the results of this core version, of every step and each of its ways', async () => {
  const digests = await digestsNow();
  // A changed result is a new core version: raise it, then write these anew by GOLDEN=write.
  if (process.env.GOLDEN === 'write') {
    writeFileSync(path, `${JSON.stringify({ core: CORE_VERSION, digests }, null, 2)}\n`);
  }
  expect({ core: CORE_VERSION, digests }).toEqual(golden);
});
