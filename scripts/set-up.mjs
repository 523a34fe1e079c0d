// What the scripts share: installing and building only where something is missing or has changed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(root);

/** Runs a command with our output as its own; ends this process where it fails. */
export function run(command, args, environment = {}) {
  const { status } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, ...environment },
  });
  if (status !== 0) process.exit(status ?? 1);
}

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(path) : [path];
  });
}

function digestOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths.sort()) hash.update(path).update(readFileSync(path));
  return hash.digest('hex');
}

/** Does `work` unless the file `stamp` says that it was done for the same `paths`. */
function unlessDone(stamp, paths, work) {
  const digest = digestOf(paths);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return;
  work();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, digest);
}

export function ensureInstalled() {
  unlessDone('node_modules/.lontano-installed', ['package-lock.json'], () => {
    console.log('Installing packages (the database driver may be compiled, which takes minutes) …');
    // A folder that is nearly right is brought up to date; only a missing one is made from nothing.
    const how = existsSync('node_modules/.package-lock.json') ? 'install' : 'ci';
    run('npm', [how, '--no-audit', '--no-fund']);
  });
}

export function ensureBuilt() {
  const sources = filesBelow('src').filter((path) => !/\.test\.tsx?$/.test(path));
  unlessDone(
    '.next/lontano-built',
    [...sources, 'next.config.ts', 'package-lock.json', 'scripts/bundle.mjs', 'tsconfig.json'],
    () => {
      console.log('Building …');
      run(process.execPath, ['scripts/bundle.mjs']);
      run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
        NEXT_TELEMETRY_DISABLED: '1',
      });
    },
  );
}

/** Serves until it is ended; whoever ends this process ends the servers with it. */
export function serve(environment) {
  const child = spawn(process.execPath, ['dist/server/supervisor/supervisor.mjs'], {
    stdio: 'inherit',
    env: {
      ...process.env,
      NEXT_TELEMETRY_DISABLED: '1',
      NODE_ENV: 'production',
      ...environment,
    },
  });
  for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP']) {
    process.on(signal, () => child.kill('SIGTERM'));
  }
  child.on('exit', (code) => process.exit(code ?? 1));
}
