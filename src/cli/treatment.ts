import { basename } from 'node:path';
import { suggestSpots } from '@/core/steps/retouch/suggest';
import { NO_GUARDS, type Guards } from '@/core/guard/guards';
import { readTreatmentFile, unfiled } from '@/core/recipe/treatment-file';
import type { Findings } from '@/core/inspect/findings';
import { proposeCleaning } from '@/core/recipe/proposals/cleaning';
import { newStep } from '@/core/recipe/order';
import type { Treatment } from '@/core/recipe/work';
import type { Zone } from '@/core/zone/zone';
import { openRaw } from '@/server/codecs/raw';
import { keepMask } from '@/server/files/masks';
import { Problem } from '@/server/problem';
import type { TreatmentOptions } from './options';
import { recipeBy } from './recipe';
import { readSmallFile } from './small-file';

/** The steps that a command line asks for, with the zones that they work in. */
export interface Treated {
  treatment: Treatment;
  guards: Guards;
  zones: Zone[];
  /** resolution of the result, where it says one */
  ppi?: number | null;
}

/** What a command line asks to be cleaned of a picture; automatically, what is proposed for it. */
export function cleaningBy(options: TreatmentOptions, findings: Findings): Treatment {
  const { clean, noise, cleanEngine: engine } = options;
  if (options.restore) {
    if (clean !== 0 || noise !== 0) {
      throw new Problem('usage', 'Give --restore, or --clean and --noise, not both.');
    }
    return [newStep('restore')];
  }
  // Without the networks only kind by kind.
  if (clean === 'auto' && (noise === 0 || noise === 'auto') && engine === 'learned') {
    return (
      proposeCleaning(findings)
        .map(({ step }) => step)
        // Tones have an option of their own.
        .filter(({ on, kind }) => on && kind !== 'tones')
    );
  }
  const share = clean === 'auto' ? 'auto' : 100;
  const strength = clean === 'auto' ? 100 : clean;
  return [
    ...(clean === 0
      ? []
      : [{ ...newStep('compression', { engine, luma: share, colour: share }), strength }]),
    ...(noise === 0 ? [] : [newStep('noise', { engine, luma: noise, colour: noise })]),
  ];
}

/**
 * Turns options into steps: those of a treatment file, or the ones that are named.
 * @param findings of the picture
 * @param raw decoded pixels, where dust is to be looked for; null where there are none
 * @param masks folder for what was painted
 */
export async function treatedBy(
  options: TreatmentOptions,
  findings: Findings,
  raw: string | null,
  masks: string,
): Promise<Treated> {
  const { treatment: path, recipe, method, texture, tones, heal, sharpen } = options;
  if (path && recipe) throw new Problem('usage', 'Give --treatment or --recipe, not both.');
  if (path) return fromFile(path, masks);
  if (recipe) return (typeof recipe === 'string' ? await recipeBy(recipe) : recipe).content;
  const treatment = cleaningBy(options, findings);
  if (heal === 'auto' && raw) treatment.push(newStep('retouch', { spots: await spotsOf(raw) }));
  if (tones > 0) treatment.push({ ...newStep('tones'), strength: tones });
  if (texture > 0) treatment.push(newStep('texture', { returned: texture }));
  const light = options.linear ? 'linear' : 'gamma';
  treatment.push(newStep('enlarge', { method, light, step: options.step, limit: options.limit }));
  if (sharpen) treatment.push(newStep('unsharp', sharpen));
  return { treatment, guards: NO_GUARDS, zones: [] };
}

async function spotsOf(raw: string) {
  const source = await openRaw(raw);
  try {
    return await suggestSpots(source);
  } finally {
    await source.close();
  }
}

async function fromFile(path: string, masks: string): Promise<Treated> {
  const name = basename(path);
  const read = readTreatmentFile(await readSmallFile(path, 'treatment'));
  if (!read.ok) throw new Problem('input', `${name} can't be used. ${read.reason}`);
  for (const { painted } of read.file.zones) {
    if (painted) await keepMask(masks, painted, Buffer.from(painted.bytes, 'base64'));
  }
  const { treatment, guards, zones } = read.file;
  return { treatment, guards, zones: zones.map(unfiled) };
}
