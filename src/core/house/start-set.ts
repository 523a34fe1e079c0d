import { NO_GUARDS, USUAL_GUARDS } from '../guard/guards';
import { newStep } from '../recipe/order';
import { FACES_ZONE } from '../recipe/proposals/faces';
import { RECIPE_VERSION } from '../recipe/versions';
import type { Treatment } from '../recipe/work';
import { say } from '../words/say';
import type { HouseContent } from './house-recipe';

/** A house recipe that ships. */
export interface ShippedHouse {
  /** what it is known by once and for all, whatever the shop calls it */
  key: string;
  name: string;
  content: HouseContent;
}

const content = (
  about: Pick<HouseContent, 'kind' | 'material' | 'note'>,
  treatment: Treatment,
  more: Partial<HouseContent> = {},
): HouseContent => ({
  version: RECIPE_VERSION,
  ...about,
  treatment,
  guards: USUAL_GUARDS,
  zones: [],
  ...{ ppi: null, output: null },
  ...more,
});

/** Recipes that a new shop begins with. What can be found of each picture is left to be found. */
export const startSet = (): ShippedHouse[] => [
  {
    key: 'web-photograph',
    name: say`Web photograph for a wall`,
    content: content(
      {
        ...{ kind: 'photograph', material: null },
        note: say`A small photograph from a web page: what happened to it is taken back at once, a network enlarges it, sharpening waits for the paper.`,
      },
      [
        newStep('restore'),
        newStep('enlarge'),
        newStep('unsharp', { radius: 0.4, amount: 35, threshold: 3 }),
        newStep('paper'),
      ],
    ),
  },
  {
    key: 'phone-canvas',
    name: say`Phone picture for canvas`,
    content: content(
      {
        ...{ kind: 'photograph', material: 'Canvas' },
        note: say`Noise that a phone had smoothed and sharpened before; faces keep some of their grain, the weave takes the rest.`,
      },
      [
        newStep('restore'),
        { ...newStep('texture', { returned: 30 }), zone: FACES_ZONE.id },
        newStep('enlarge'),
        newStep('paper', { surface: 'canvas', threshold: 2 }),
      ],
      { zones: [{ ...FACES_ZONE, painted: null }] },
    ),
  },
  {
    key: 'logo-window',
    name: say`Logo for a window`,
    content: content(
      {
        ...{ kind: 'flat artwork', material: null },
        note: say`Flat colours become even, edges are drawn or enlarged as drawings are; nothing is sharpened, so that no edge gets a rim.`,
      },
      [newStep('compression'), newStep('ground'), newStep('enlarge')],
    ),
  },
  {
    key: 'old-scan',
    name: say`Scan of an old photograph`,
    content: content(
      {
        ...{ kind: 'photograph', material: null },
        note: say`Dust goes, grain becomes less, black and white come back. Scratches are healed by hand.`,
      },
      [
        newStep('compression'),
        newStep('noise'),
        newStep('specks'),
        newStep('deblur'),
        { ...newStep('tones'), strength: 80 },
        newStep('enlarge'),
        newStep('unsharp', { radius: 0.4, amount: 40, threshold: 4 }),
        newStep('paper'),
      ],
    ),
  },
  {
    key: 'line-drawing',
    name: say`Line drawing`,
    content: content(
      {
        ...{ kind: 'line art', material: null },
        note: say`The ground becomes even, lines are drawn or enlarged as drawings are, and a little crisper on paper.`,
      },
      [
        newStep('compression'),
        newStep('ground'),
        newStep('enlarge'),
        newStep('unsharp', { radius: 0.3, amount: 30, threshold: 2 }),
      ],
    ),
  },
  {
    key: 'pixel-squares',
    name: say`Pixel squares`,
    content: content(
      {
        ...{ kind: 'pixel squares', material: null },
        note: say`Every square stays one, with hard edges.`,
      },
      [newStep('enlarge', { method: 'nearest' })],
      { guards: NO_GUARDS },
    ),
  },
];
