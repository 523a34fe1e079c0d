import { z } from 'zod';
import { UNFRAMED } from '../../frame/framing';
import { OPEN_PAPER } from '../../measure/paper';

const Work = z.looseObject({ version: z.literal(1), paper: z.looseObject({}) });

/** Works of version 1 knew neither framing, bleed nor the shop's lists. */
export function work(value: unknown): unknown {
  const old = Work.safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    version: 2,
    framing: UNFRAMED,
    paper: { ...OPEN_PAPER, ...old.data.paper },
    device: null,
    material: null,
  };
}

const Recipe = z.looseObject({
  version: z.literal(1),
  original: z.looseObject({}),
  steps: z.array(z.looseObject({ kind: z.string(), numbers: z.looseObject({}) })),
});

/** Recipes of version 1 knew neither pages, shapes, transparency nor turning. */
export function recipe(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    version: 2,
    original: { ...old.data.original, page: 1, drawn: null },
    alpha: 'none',
    colour: OPEN_PAPER.colour,
    steps: old.data.steps.map((step) =>
      step.kind === 'enlarge'
        ? { ...step, numbers: { turn: 0, straighten: 0, ...step.numbers } }
        : step,
    ),
  };
}
