import type { Findings } from '../inspect/findings';
import { factorOf, leastPpi, planPrint, type Paper } from '../measure/plan';
import { MM_PER_INCH } from '../measure/units';
import type { StepKind } from '../steps';
import { RECIPE_VERSION, type Trial, type Work } from './recipe';

/** The resolution proposed for a result until a device sets another. */
export const PROPOSED_PPI = 160;

/** Why a step was proposed as it is. */
export interface Reason {
  step: StepKind;
  sentence: string;
}

export interface Proposal {
  work: Work;
  reasons: Reason[];
}

/**
 * The first trial, ready as soon as a picture is taken in: good defaults from what was found, each
 * with its reason.
 * @param distance metres from which the print is looked at
 */
export function propose(findings: Findings, paper: Paper, distance: number): Proposal {
  const cleaning = proposeCleaning(findings);
  const planned = planPrint(findings, paper, PROPOSED_PPI);
  const harsh = (findings.jpeg?.quality ?? 100) < 60;
  const factor = planned.ok ? factorOf(planned.plan) : 1;
  const method = harsh && factor > 1 ? 'bicubic' : 'lanczos3';
  const sharpening = proposeSharpening(planned.ok ? leastPpi(planned.plan) : null, harsh);
  const trial: Trial = {
    id: 'a',
    name: 'Trial A',
    ppi: PROPOSED_PPI,
    treatment: [
      { kind: 'clean', on: cleaning.strength > 0, strength: cleaning.strength, settings: {} },
      { kind: 'enlarge', on: true, strength: 100, settings: { method } },
      { kind: 'sharpen', on: true, strength: 100, settings: sharpening.settings },
    ],
    output: { format: 'tiff', quality: 95, depth: findings.bitDepth },
  };
  return {
    work: { version: RECIPE_VERSION, paper, distance, trials: [trial] },
    reasons: [
      { step: 'clean', sentence: cleaning.sentence },
      {
        step: 'enlarge',
        sentence:
          method === 'bicubic'
            ? 'Bicubic, since Lanczos-3 would ring around what harsh compression left.'
            : 'Lanczos-3, since the file is clean enough to keep its finest detail.',
      },
      { step: 'sharpen', sentence: sharpening.sentence },
    ],
  };
}

function proposeCleaning(findings: Findings): { strength: number; sentence: string } {
  const { jpeg, blocking } = findings;
  if (!jpeg) {
    return blocking.ratio < 1.15
      ? { strength: 0, sentence: 'Nothing to clean: no trace of block compression.' }
      : { strength: 70, sentence: 'Not a JPEG, but a block grid shows: it was one before.' };
  }
  const quality = jpeg.quality ?? 75;
  const strength = quality < 80 ? 100 : quality < 92 ? 80 : 50;
  return {
    strength,
    sentence:
      jpeg.quality === null
        ? `Blocks ${strength}, from the file's own quantisation tables.`
        : `Blocks ${strength}, for JPEG quality ${quality}.`,
  };
}

function proposeSharpening(ppiBefore: number | null, harsh: boolean) {
  // Half a pixel of the original as it lies on the paper: finer holds no detail to sharpen.
  const pixel = ppiBefore ? MM_PER_INCH / ppiBefore : 0.6;
  const radius = Number(Math.min(3, Math.max(0.1, pixel * 0.5)).toFixed(2));
  const threshold = harsh ? 3 : 1;
  return {
    settings: { radius, unit: 'mm' as const, amount: 50, threshold },
    sentence: `Radius ${radius} mm, half an original pixel on this paper; threshold ${threshold}${harsh ? ' to leave the remains of compression alone' : ''}.`,
  };
}
