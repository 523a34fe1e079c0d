import { UNFRAMED } from '../frame/framing';
import type { Findings } from '../inspect/findings';
import type { Paper } from '../measure/paper';
import type { TakenOut } from '../placed/placed';
import { isOf, placedIn, placedWork, putPlaced, putPlacedTrial } from './placed-work';
import { ALL_MODELS } from '../learned/models';
import { leastPpi, type PrintPlan } from '../measure/plan';
import { usualOutput } from '../output/output';
import type { StepKind } from '../steps';
import { chooseMethod } from '../steps/enlarge/choose';
import { RECIPE_VERSION } from './versions';
import type { Trial, Work } from './work';
import { choosingFor, planOf } from './plan';
import { proposeCleaning } from './proposals/cleaning';
import { FACES_ZONE, proposeForFaces } from './proposals/faces';
import { proposeEnlargement } from './proposals/lettering';
import { proposeFinishing, proposeGuards, type Finishing } from './proposals/finishing';
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
 * @param takenOut of a page of shapes: pictures that were taken out of it, each of which is proposed for as well
 */
export function propose(
  findings: Findings,
  order: Order,
  takenOut: readonly TakenOut[] = [],
): Proposal {
  const { paper, distance, page = 1, ppi = PROPOSED_PPI, device = null, material = null } = order;
  const framing = { ...UNFRAMED, page };
  const planned = planOf(originalOf('', findings), { framing, paper }, ppi);
  const plan = planned.ok ? planned.plan : null;
  const cleaned = proposeCleaning(findings);
  const cleaning = [...cleaned, ...proposeForFaces(findings, cleaned)];
  const method = proposeMethod(findings, plan);
  const by: Finishing = {
    ...{ ppiBefore: plan ? leastPpi(plan) : null, distance, material },
    learned: method.method?.startsWith('learned') ?? false,
    traced: method.method === 'traced',
  };
  const enlargement = proposeEnlargement(findings, method);
  const finishing = proposeFinishing(findings, by);
  const trial: Trial = {
    id: 'a',
    name: 'Trial A',
    ppi,
    pixels: 'new',
    treatment: [
      ...cleaning.map(({ step }) => step),
      enlargement.step,
      ...finishing.map(({ step }) => step),
    ],
    guards: proposeGuards(finishing, by),
    placed: [],
    output: {
      ...usualOutput('tiff', findings.bitDepth),
      // A drawing's empty ground is the paper; a cut-out picture is meant to be one.
      alpha: findings.alpha && !findings.vector ? 'keep' : 'paper',
    },
    fileName: null,
    house: null,
  };
  const proposed: Proposal = {
    work: {
      version: RECIPE_VERSION,
      framing,
      paper,
      distance,
      device,
      material,
      kind: null,
      placed: [],
      zones: [...(findings.faces.length > 0 ? [FACES_ZONE] : []), ...enlargement.zones],
      trials: [trial],
      begun: 1,
    },
    reasons: [
      ...cleaning.map(({ step, sentence }) => ({ step: step.kind, sentence })),
      { step: 'enlarge', sentence: enlargement.sentence },
      ...finishing.map(({ step, sentence }) => ({ step: step.kind, sentence })),
    ],
  };
  if (plan) for (const one of takenOut) proposePlaced(proposed.work, findings, one, plan);
  return proposed;
}

/** Puts what is proposed for a picture on a page into those trials of its work in which nothing was decided about it. */
export function proposePlaced(
  work: Work,
  findings: Findings,
  taken: TakenOut,
  plan: PrintPlan,
): void {
  const [placed] = originalOf('', findings, [taken]).pictures;
  if (!placed) return;
  const { page, turn } = work.framing;
  const which = { page, picture: taken.picture };
  const size = { width: findings.width, height: findings.height };
  const { distance, device, material } = work;
  for (const trial of work.trials.filter((one) => !placedIn(one, which))) {
    const { paper } = placedWork(work, trial, placed, { size, turn, plan });
    const order = { paper, distance, device, material, ppi: trial.ppi };
    const { work: own } = propose(taken.findings, order);
    const { treatment, guards } = own.trials[0]!;
    if (!work.placed.some(isOf(which))) putPlaced(work, which, { kind: null, zones: own.zones });
    putPlacedTrial(trial, which, { on: true, treatment, guards });
  }
}

/** Why the automatic choice of a method comes to what it does. */
function proposeMethod(findings: Findings, plan: PrintPlan | null) {
  const plainly = (sentence: string) => ({ sentence, method: null });
  if (findings.vector) return plainly('Drawn fresh from its shapes.');
  if (!plan) return plainly('Chosen once the size is known.');
  return chooseMethod(choosingFor(originalOf('', findings), { kind: null }, plan, ALL_MODELS));
}
