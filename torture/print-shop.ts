import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type Database from 'better-sqlite3';
import type { Conversion } from '../src/core/colour/conversion';
import { SHIPPED } from '../src/core/colour/profiles';
import type { Output } from '../src/core/output/output';
import { USUAL_PANELS } from '../src/core/output/panels';
import { Memory } from '../src/device/memory';
import type { Ledger } from './ledger';
import type { Random } from './random';

const COATED: Conversion = {
  ...{ profile: SHIPPED['coated.icc'].digest, space: 'cmyk' },
  ...{ intent: 'relative', blackPoint: true },
};
const PANELS = { ...USUAL_PANELS, widest: 60, overlap: 5 };

/** Ways in which results are written: files of every kind, other colours, panels. */
const OUTPUTS: Partial<Output>[] = [
  { format: 'tiff', compression: 'none', depth: 8, colour: null, panels: null },
  { format: 'tiff', compression: 'deflate', depth: 8, colour: COATED, panels: null },
  { format: 'png', compression: 'deflate', depth: 8, colour: null, panels: null },
  { format: 'jpeg', compression: 'lossy', depth: 8, colour: null, panels: null },
  { format: 'pdf', compression: 'deflate', depth: 8, colour: COATED, panels: null },
  { format: 'pdf', compression: 'deflate', depth: 8, colour: null, panels: PANELS },
  {
    format: 'tiff',
    compression: 'lzw',
    depth: 8,
    colour: null,
    panels: { ...PANELS, as: 'files' },
  },
];

/** A change of the first trial's output to one of them. */
export const anotherOutput = (random: Random) =>
  Object.entries(random.pick(OUTPUTS)).map(([name, value]) => ({
    ...{ op: 'replace' as const, path: `/trials/0/output/${name}`, value },
  }));

/**
 * Compares what a closed shop says of its prints with what its devices remember.
 * @returns what is wrong, and how many prints were compared
 */
export function checkPrints(
  data: string,
  db: Database.Database,
  ledger: Ledger,
): { wrong: string[]; printed: number } {
  const wrong: string[] = [];
  const rows = db.prepare('select key, state, words from sendings').all() as Row[];
  const said = new Map(rows.map((row) => [row.key, row]));
  const onDevices = new Map<string, { state: string; whole: boolean }>();
  for (const name of readdirSync(join(data, 'devices'))) {
    const text = readFileSync(join(data, 'devices', name, 'memory.json'), 'utf8');
    for (const { order, state, items } of Memory.parse(JSON.parse(text)).prints) {
      if (onDevices.has(order.key)) wrong.push(`the print ${order.key} is on two devices`);
      const whole = items.length > 0 && items.every((item) => item.state === 'printed');
      onDevices.set(order.key, { state, whole });
    }
  }
  for (const key of ledger.sendings) {
    const row = said.get(key);
    // A job that is gone for good takes its sendings with it.
    if (!row) wrong.push(`the sending ${key} is lost`);
    else if (!['printed', 'failed', 'cancelled'].includes(row.state)) {
      wrong.push(`the sending ${key} did not end: ${row.state} ${row.words ?? ''}`);
    }
  }
  let printed = 0;
  for (const { key, state } of rows) {
    const there = onDevices.get(key);
    if (state === 'printed') printed++;
    if ((state === 'printed') !== (there?.whole ?? false)) {
      wrong.push(
        `the print ${key} is ${state} in the shop, ${there?.state ?? 'unknown'} on its device`,
      );
    }
  }
  return { wrong, printed };
}

interface Row {
  key: string;
  state: string;
  words: string | null;
}
