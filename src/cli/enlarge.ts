import { basename, resolve } from 'node:path';
import { formatBytes, formatPpi, formatSeconds } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Models } from '@/core/learned/models';
import { formatOfName } from '@/core/output/formats';
import type { Work } from '@/core/recipe/work';
import type { Recipe } from '@/core/recipe/recipe';
import { secondsFor, secondsLeft } from '@/core/render/cost';
import { profileName } from '@/server/codecs/profile';
import { Problem } from '@/server/problem';
import { loadThreads } from '@/server/render/threads';
import { ENDINGS } from './endings';
import { withDecoded } from './input';
import { prepared } from './prepared';
import type { OrderOptions, TreatmentOptions } from './options';
import type { OutputOptions } from './output';
import { recipeOf, writeResult } from './write-result';

/** Writes a print-ready file. */
export async function enlarge(
  input: string,
  out: string,
  options: OrderOptions & TreatmentOptions & OutputOptions,
): Promise<void> {
  const archive = out.toLowerCase().endsWith('.zip');
  if (archive !== (options.panelFiles !== undefined)) {
    throw new Problem(
      'usage',
      'A result that ends in .zip holds panels: --panels and --panel-files.',
    );
  }
  const format = options.panelFiles ?? formatOfName(out);
  if (!format) throw new Problem('usage', `${basename(out)} should end in ${ENDINGS}.`);
  if (resolve(input) === resolve(out)) {
    throw new Problem(
      'usage',
      'The original is never overwritten: name another file for the result.',
    );
  }
  loadThreads();
  await withDecoded(input, options.page, async (decoded) => {
    const { findings } = decoded;
    const ready = await prepared(decoded, format, options);
    const { work, models } = ready;
    const recipe = recipeOf(ready);
    const { seconds, found, digest } = await writeResult(decoded, ready, recipe, {
      out: resolve(out),
      onProgress: progressLine(recipe),
    });
    if (process.stderr.isTTY) process.stderr.write('\n');
    const { width, height, ppi, bytes } = found;
    const facts = {
      input: {
        width: findings.width,
        height: findings.height,
        ppi: findings.ppi?.x ?? null,
        bytes: findings.bytes,
      },
      // What was read back from the file.
      output: {
        ...{ width, height, ppi: ppi?.x ?? null, bytes, format, alpha: recipe.alpha === 'kept' },
        ...{ digest, mm: ppi && { width: mmOf(width, ppi.x), height: mmOf(height, ppi.y) } },
        profile: found.profile && profileName(Buffer.from(found.profile)),
      },
      seconds,
    };
    if (options.json) console.log(JSON.stringify(facts));
    else {
      console.log(
        `${basename(out)}: ${width} x ${height} pixels, ${formatPpi(recipe.target.ppi)} ppi, ${formatBytes(bytes)}, ${formatSeconds(seconds)}`,
      );
      if (fellBack(work, models)) {
        console.log('A learned model is missing or damaged: cleaned classically instead.');
      }
      if (recipe.alpha === 'laid') console.log('Transparent parts are laid on white.');
    }
  });
}

/** Millimetres that pixels cover on paper, to a hundredth. */
const mmOf = (pixels: number, ppi: number): number =>
  Math.round((pixels / ppi) * MM_PER_INCH * 100) / 100;

/** Whether a step asked for a model that can't be used. */
const fellBack = ({ trials }: Work, models: Models): boolean =>
  trials[0]!.treatment.some(
    (step) =>
      'engine' in step.settings &&
      step.settings.engine === 'learned' &&
      models[step.kind as keyof Models] === null,
  );

/** Tells on stderr how far it is and what is left, twice a second. */
function progressLine(recipe: Recipe): (share: number) => void {
  const show = process.stderr.isTTY;
  const estimated = secondsFor(recipe, 1);
  const started = performance.now();
  let last = started;
  return (share) => {
    if (share < 1 && performance.now() - last < 500) return;
    last = performance.now();
    const left = secondsLeft(share, (last - started) / 1000, estimated);
    process.stderr.write(
      `${show ? '\r' : ''}${Math.round(share * 100)} %, ${formatSeconds(left)} left ${show ? '' : '\n'}`,
    );
  };
}
