import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { startEngine, type ColourEngine } from '../colour/engine';
import type { LcmsPackage } from '../colour/lcms';

const wasm = createRequire(import.meta.url)
  .resolve('lcms-wasm')
  .replace(/\.js$/, '.wasm');

/** The colour engine as it ships. */
export const testEngine = async (): Promise<ColourEngine> =>
  startEngine(
    (await import('lcms-wasm')) as unknown as LcmsPackage,
    new Uint8Array(readFileSync(wasm)).buffer,
  );
