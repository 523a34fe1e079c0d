import { readFileSync, writeFileSync } from 'node:fs';
import { expect } from 'vitest';
import { CORE_VERSION } from '../recipe/recipe';

/**
 * Holds digests of results to those that are kept for this core version. A changed result is a new core
 * version: raise it, then write them anew by GOLDEN=write.
 */
export function expectGolden(path: URL, digests: Record<string, string>): void {
  const found = { core: CORE_VERSION, digests };
  const before = JSON.parse(readFileSync(path, 'utf8')) as typeof found;
  if (process.env.GOLDEN === 'write') {
    const changed = Object.keys(digests).filter(
      (name) => name in before.digests && before.digests[name] !== digests[name],
    );
    if (before.core === CORE_VERSION && changed.length > 0) {
      throw new Error(`Raise CORE_VERSION first: ${changed.join(', ')} gave other results.`);
    }
    writeFileSync(path, `${JSON.stringify(found, null, 2)}\n`);
  }
  expect(found).toEqual(JSON.parse(readFileSync(path, 'utf8')));
}
