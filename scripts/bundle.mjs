// Bundles what runs in Node outside of Next into dist/: the terminal, the supervisor, the process of tasks, and
// the threads. They start at once then, with nothing to translate.
import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

const ENTRIES = [
  'cli/main',
  'server/supervisor/supervisor',
  'server/web/web-process',
  'server/tasks/task-process',
  'server/devices/devices-process',
  'server/drop/drop-process',
  'device/device-process',
  'server/housekeeping/housekeeping-process',
  'server/backup/backup-process',
  'server/render/part-worker',
  'server/codecs/picture-process',
  'server/sandbox/watch',
];

/** Packages stay packages; our own code becomes one file an entry, and what they share. */
export async function bundle() {
  const { metafile } = await build({
    metafile: true,
    entryPoints: ENTRIES.map((name) => `src/${name}.ts`),
    outdir: 'dist',
    outbase: 'src',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    packages: 'external',
    sourcemap: 'linked',
    logLevel: 'warning',
  });
  // Only now, so that a server that runs from here finds its threads meanwhile.
  const made = new Set(Object.keys(metafile.outputs).map((path) => join(path)));
  for (const entry of readdirSync('dist', { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath ?? entry.path, entry.name);
    if (entry.isFile() && !made.has(path)) rmSync(path);
  }
}

if (process.argv[1] === import.meta.filename) await bundle();
