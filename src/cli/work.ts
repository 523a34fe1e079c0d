import { UNFRAMED } from '@/core/frame/framing';
import { NO_GUARDS } from '@/core/guard/guards';
import type { Findings } from '@/core/inspect/findings';
import { OPEN_PAPER, type Paper } from '@/core/measure/paper';
import { newStep } from '@/core/recipe/order';
import { PROPOSED_PPI } from '@/core/recipe/propose';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { Work } from '@/core/recipe/work';
import type { Output } from '@/core/output/output';
import { Problem } from '@/server/problem';
import type { OrderOptions } from './options';
import type { Treated } from './treatment';

/** Metres that are assumed where a command line doesn't say how far the viewer stands. */
const DISTANCE = 2;

const NOTHING: Treated = {
  treatment: [newStep('enlarge')],
  guards: NO_GUARDS,
  zones: [],
};

/** The work that a command line describes; what it doesn't name stays undone. */
export function workOf(
  options: OrderOptions,
  findings: Findings,
  output: Output,
  { treatment, guards, zones, ppi = null }: Treated = NOTHING,
): Work {
  if (options.scale && (options.width || options.height)) {
    throw new Problem('usage', 'Give a paper size or --scale, not both.');
  }
  const { crop } = options;
  if (crop && (crop.x + crop.width > findings.width || crop.y + crop.height > findings.height)) {
    throw new Problem(
      'usage',
      `--crop leaves the picture, which has ${findings.width} x ${findings.height} pixels.`,
    );
  }
  const paper: Paper = {
    ...OPEN_PAPER,
    width: options.scale ? { value: options.scale * 100, unit: '%' } : (options.width ?? null),
    height: options.height ?? null,
    fit: options.fit,
    bleed: { mm: options.bleed, fill: options.bleedFill },
  };
  // Without a paper size the file's own tag says how large its pixels are meant.
  const tagged = options.width || options.height ? PROPOSED_PPI : (findings.ppi?.x ?? PROPOSED_PPI);
  return Work.parse({
    version: RECIPE_VERSION,
    framing: { ...UNFRAMED, page: options.page, crop: crop ?? null },
    paper,
    distance: options.distance ?? DISTANCE,
    device: null,
    material: null,
    zones,
    trials: [
      {
        id: 'a',
        name: 'Command line',
        ppi: options.ppi ?? ppi ?? tagged,
        treatment,
        guards,
        output,
      },
    ],
  });
}
