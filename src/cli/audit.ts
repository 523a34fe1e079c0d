import type { Audit } from '@/core/shop/audit';
import { config } from '@/server/config';
import { audit } from '@/server/housekeeping/audit';
import { Problem } from '@/server/problem';
import { withShop } from './shop';

/** Compares a shop's database, files and digests, whether it is open or not; changes nothing. */
export async function auditShop(
  folder: string | undefined,
  options: { json?: boolean; grace: number },
): Promise<void> {
  await withShop(folder, async (db) => {
    const { data } = config();
    const outcome = await audit(db, { grace: options.grace * 3_600_000 });
    console.log(options.json ? JSON.stringify(outcome) : auditText(data, outcome));
    if (outcome.found.length > 0) {
      throw new Problem('work', `${count(outcome.found.length, 'thing')} found in ${data}.`);
    }
  });
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

function auditText(data: string, { checked, found, seconds }: Audit): string {
  const { originals, pictures, changes, masks, results, files } = checked;
  const lines = [
    `shop       ${data}`,
    `compared   ${count(originals, 'original')}, ${count(pictures, 'picture')} with ${count(changes, 'change')}, ${count(masks, 'painted mask')}, ${count(results, 'result')}, ${count(files, 'file')}, in ${seconds.toFixed(1)} s`,
    found.length === 0 ? 'found      all is as it was kept' : 'found',
    ...found.map(({ about, words }) => `  ${about}\n    ${words}`),
  ];
  return lines.join('\n');
}
