import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { digestOfFile } from '../src/server/files/digest';
import { Facts } from '../src/core/output/facts';
import { Recipe } from '../src/core/recipe/recipe';
import { decodePicture, endPictureProcesses } from '../src/server/codecs/pictures';
import { endThreads } from '../src/server/render/threads';
import { openDatabase } from '../src/server/db/connection';
import { treatedFiles } from '../src/server/files/treated';
import { renderFile } from '../src/server/render/render-file';
import type { Random } from './random';
import type { Results } from './checked';

/**
 * Makes some results again, with nobody disturbing, and compares their bytes.
 * @returns what is wrong, and how many were compared
 */
export async function compareWithUndisturbed(
  data: string,
  results: Results,
  random: Random,
  most: number,
): Promise<{ wrong: string[]; compared: number }> {
  process.env.LONTANO_DATA = data;
  const folder = mkdtempSync(join(tmpdir(), 'lontano-undisturbed-'));
  const all = [...results];
  const wrong: string[] = [];
  let compared = 0;
  // Pictures on pages are treated anew as well.
  rmSync(join(data, 'decoded'), { recursive: true, force: true });
  const db = await openDatabase(join(data, 'lontano.sqlite'));
  try {
    for (; compared < most && all.length > 0; compared++) {
      const [[key, { digests, pieceId }]] = all.splice(random.below(all.length), 1) as [
        [string, Results extends Map<string, infer R> ? R : never],
      ];
      const asked = JSON.parse(key) as { recipe: unknown; facts: unknown };
      const recipe = Recipe.parse(asked.recipe);
      const facts = Facts.nullable().parse(asked.facts);
      const { digest, page } = recipe.original;
      const file = join(data, 'originals', digest.slice(0, 2), digest);
      const raw = join(folder, `${digest}.raw`);
      const decoded = await decodePicture({ file, name: digest, page, raw, thumbnail: null });
      const out = join(folder, 'out');
      const original = {
        ...{ file, name: digest, raw: () => Promise.resolve(raw) },
        treated: () => treatedFiles(db, recipe.original.drawn?.placed ?? []),
      };
      await renderFile({ original, recipe, facts, profile: decoded.profile, out });
      if (!digests.has(await digestOfFile(out))) {
        wrong.push(`a run of picture ${pieceId} has other bytes than an undisturbed one`);
      }
    }
  } finally {
    endPictureProcesses();
    await endThreads();
    await db.destroy();
    rmSync(folder, { recursive: true, force: true });
  }
  return { wrong, compared };
}
