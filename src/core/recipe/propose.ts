import { USUAL_GUARDS } from '../guard/guards';
import { UNFRAMED } from '../frame/framing';
import { VISIBLE } from '../inspect/blocking';
import type { Findings } from '../inspect/findings';
import type { Paper } from '../measure/paper';
import { ALL_MODELS } from '../learned/models';
import { leastPpi, type PrintPlan } from '../measure/plan';
import { MM_PER_INCH } from '../measure/units';
import { formatNumber } from '../measure/format';
import { steps, type StepChoice, type StepKind } from '../steps';
import { newStep } from './order';
import { chooseMethod } from '../steps/enlarge/choose';
import { RECIPE_VERSION } from './versions';
import type { Trial, Work } from './work';
import { choosingFor, planOf } from './plan';
import { originalOf } from './original';

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

/** What a proposal starts from besides the picture. */
export interface Order {
  paper: Paper;
  /** metres from which the print is looked at */
  distance: number;
  page?: number;
  /** resolution that the device uses */
  ppi?: number | undefined;
  device?: string | null;
  material?: string | null;
}

/**
 * The first trial, ready as soon as a picture is taken in: good defaults from its kind and from
 * what was found, each with its reason.
 */
export function propose(findings: Findings, order: Order): Proposal {
  const { paper, distance, page = 1, ppi = PROPOSED_PPI, device = null, material = null } = order;
  const framing = { ...UNFRAMED, page };
  const planned = planOf(originalOf('', findings), { framing, paper }, ppi);
  const plan = planned.ok ? planned.plan : null;
  const cleaning = [proposeCompression(findings), ...proposeMore(findings)];
  const method = proposeMethod(findings, plan);
  const sharpening = proposeSharpening(findings, plan ? leastPpi(plan) : null);
  const trial: Trial = {
    id: 'a',
    name: 'Trial A',
    ppi,
    pixels: 'new',
    treatment: [
      ...cleaning.map(({ step }) => step),
      newStep('enlarge'),
      { kind: 'unsharp', on: sharpening.on, strength: 100, settings: sharpening.settings },
    ],
    guards: USUAL_GUARDS,
    output: {
      format: 'tiff',
      quality: 95,
      depth: findings.bitDepth,
      // A drawing's empty ground is the paper; a cut-out picture is meant to be one.
      alpha: findings.alpha && !findings.vector ? 'keep' : 'paper',
    },
  };
  return {
    work: {
      version: RECIPE_VERSION,
      framing,
      paper,
      distance,
      device,
      material,
      kind: null,
      zones: [],
      trials: [trial],
      begun: 1,
    },
    reasons: [
      ...cleaning.map(({ step, sentence }) => ({ step: step.kind, sentence })),
      { step: 'enlarge', sentence: method.sentence },
      { step: 'unsharp', sentence: sharpening.sentence },
    ],
  };
}

/** Below this quality compression leaves more behind than a ringing kernel may be given. */
const HARSH = 60;
const isHarsh = ({ jpeg }: Findings): boolean => (jpeg?.quality ?? 100) < HARSH;

/** Why the automatic choice of a method comes to what it does. */
function proposeMethod(findings: Findings, plan: PrintPlan | null): { sentence: string } {
  if (findings.vector) return { sentence: 'Drawn fresh from its shapes.' };
  if (!plan) return { sentence: 'Chosen once the size is known.' };
  return chooseMethod(choosingFor(originalOf('', findings), { kind: null }, plan, ALL_MODELS));
}

interface Proposed {
  step: StepChoice;
  sentence: string;
}

function proposeCompression(findings: Findings): Proposed {
  const { jpeg, blocking, vector, kind } = findings;
  const off = (sentence: string): Proposed => ({
    step: { ...newStep('compression'), on: false },
    sentence,
  });
  const on = (sentence: string, strength = 100): Proposed => ({
    step: { ...newStep('compression'), strength },
    sentence,
  });
  if (vector) return off('Nothing to clean: shapes carry no compression.');
  if (kind === 'pixel squares' && findings.grid) {
    return off('Nothing to clean: squares are taken from their middles.');
  }
  if (!jpeg) {
    return blocking.ratio < Math.max(1.15, VISIBLE)
      ? off('No trace of block compression.')
      : findings.formerQuality === null
        ? on('Not a JPEG, but a block grid shows: it was one before.', 70)
        : on(
            `Not a JPEG, but it was one before, of about quality ${findings.formerQuality}: a block grid shows.`,
          );
  }
  return jpeg.quality === null
    ? on("By the file's own quantisation tables.")
    : on(`By the file's own tables, of JPEG quality ${jpeg.quality}.`);
}

/** From so many levels on noise is seen when a picture is enlarged. */
const SEEN_NOISE = 2;
/** Darkest and lightest tones closer than this share of the whole range look faded. */
const FADED = 0.82;

/** What else is cleaned, where there is cause. */
function proposeMore(findings: Findings): Proposed[] {
  const { vector, grid, noise, kind, fringes, tones, banding } = findings;
  if (vector || grid) return [];
  const more: Proposed[] = [];
  if (noise.luma >= SEEN_NOISE || noise.colour >= 1.5 * SEEN_NOISE) {
    more.push({
      step: newStep('noise'),
      sentence: `Grain of ${formatNumber(noise.luma, 1)} levels, ${formatNumber(noise.colour, 1)} in colour, would grow with the picture.`,
    });
  }
  if (fringes >= 6 && kind === 'photograph') {
    more.push({
      step: newStep('fringes'),
      sentence: `Stray colour of ${formatNumber(fringes, 1)} levels on hard edges.`,
    });
  }
  if (banding >= 0.15 && kind === 'photograph') {
    more.push({ step: newStep('banding'), sentence: 'Its smooth parts climb in steps.' });
  }
  const range = Math.max(...tones.white) - Math.min(...tones.black);
  if (range < FADED && kind === 'photograph') {
    more.push({
      step: { ...newStep('tones'), strength: 80 },
      sentence: `Faded: its tones use ${Math.round(range * 100)} % of the range.`,
    });
  }
  return more;
}

function proposeSharpening(findings: Findings, ppiBefore: number | null) {
  // Half a pixel of the original as it lies on the paper: finer holds no detail to sharpen.
  const pixel = ppiBefore ? MM_PER_INCH / ppiBefore : 0.6;
  const radius = Number(Math.min(3, Math.max(0.1, pixel * 0.5)).toFixed(2));
  const harsh = isHarsh(findings);
  const noisy = findings.noise.luma > 2;
  const threshold = harsh ? 3 : noisy ? Math.min(8, Math.ceil(findings.noise.luma)) : 1;
  const drawn = findings.kind === 'line art' || findings.kind === 'flat artwork';
  const settings = {
    ...steps.unsharp.defaults,
    ...{ radius, unit: 'mm' as const, amount: drawn ? 40 : 50, threshold },
  };
  if (findings.vector)
    return { on: false, settings, sentence: 'Off: shapes are as sharp as the device.' };
  if (findings.kind === 'pixel squares') {
    return { on: false, settings, sentence: 'Off: the edges of squares are hard already.' };
  }
  const kindly = drawn
    ? `; amount ${settings.amount} %, so that edges of ${findings.kind} get no rims`
    : '';
  const why = harsh
    ? ' to leave the remains of compression alone'
    : noisy
      ? ' to leave its noise alone'
      : '';
  return {
    on: true,
    settings,
    sentence: `Radius ${radius} mm, half an original pixel on this paper; threshold ${threshold}${why}${kindly}.`,
  };
}
