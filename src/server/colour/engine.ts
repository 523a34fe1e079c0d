import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import * as lcms from 'lcms-wasm';
import { startEngine, type ColourEngine } from '@/core/colour/engine';
import { root } from '../root';

let starting: Promise<ColourEngine> | undefined;

/** The colour engine of this process, started once; after trouble it is tried again. */
export function engine(): Promise<ColourEngine> {
  starting ??= engineFile('lcms.wasm').then((code) =>
    startEngine(lcms, new Uint8Array(code).buffer),
  );
  starting.catch(() => (starting = undefined));
  return starting;
}

/** Files of the engine's package: its code, and what starts that. */
export const ENGINE_FILES = ['lcms.js', 'lcms.wasm'] as const;

export const engineFile = (file: (typeof ENGINE_FILES)[number]): Promise<Buffer> =>
  readFile(join(root(), 'node_modules', 'lcms-wasm', 'dist', file));
