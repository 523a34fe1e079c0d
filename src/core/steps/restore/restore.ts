import { z } from 'zod';
import type { History } from '../../inspect/history';
import { cleanLearned, learnedInput } from '../../learned/cleaner';
import { cut, type Raster } from '../../raster/raster';
import { automatic, LEARNED_CLEANER, ModelDigest, type Automatic } from '../automatic';
import {
  classical,
  classicalInput,
  compressedBy,
  Tables,
  tablesOf,
} from '../compression/classical';
import type { ResolveContext, Step } from '../step';
import { say } from '../../words/say';

/** The most of each that the network was taught to take back. */
export const LIMITS = {
  blur: 1.5,
  noise: 12,
  grain: 1.5,
  sharpening: 180,
  resized: 100,
  enlarged: 3.25,
} as const;
const Told = z.enum(['blur', 'noise', 'grain', 'sharpening', 'resized', 'enlarged']);
type Told = z.infer<typeof Told>;

export const RestoreSettings = z.object({
  /** standard deviation of its blur, px; automatic: as measured, and so are the others */
  blur: automatic(0, LIMITS.blur),
  /** standard deviation of its noise, levels */
  noise: automatic(0, LIMITS.noise),
  /** how much larger than a pixel the noise's specks are, px */
  grain: automatic(0, LIMITS.grain),
  /** amount of earlier sharpening, % */
  sharpening: automatic(0, LIMITS.sharpening),
  /** how likely it was resized after it had been compressed, % */
  resized: automatic(0, LIMITS.resized),
  /** how many times as large it was made before */
  enlarged: automatic(1, LIMITS.enlarged).default('auto'),
});
export type RestoreSettings = z.infer<typeof RestoreSettings>;

const share = z.number().min(0).max(2);

/** Networks of before were told nothing of enlargement. */
const ofEach = (enlarged: z.ZodDefault<typeof share>) =>
  z.object({
    ...{ blur: share, noise: share, grain: share, sharpening: share, resized: share },
    enlarged,
  });

/** What the network is told: of every kind of damage how much of the most there is, and how far off that may be. */
export const RestoreNumbers = z.object({
  /** how it was compressed; null where nothing tells that it was */
  tables: Tables.nullable(),
  told: ofEach(share.default(0)),
  unsure: ofEach(share.default(0.5)),
  model: ModelDigest,
});
export type RestoreNumbers = z.infer<typeof RestoreNumbers>;

/** What a figure of a history is where a network is told 1: training/customers/damage.py. */
const UNIT: Record<Told, number> = {
  ...{ blur: 2, noise: 12, grain: 1, sharpening: 180, resized: 1, enlarged: 1.5 },
};
const TOLD = Told.options;

/** As sure as one is of what was set by hand. */
const BY_HAND = 0.03;

/** A history's figure as it is set, in % or times, and back. */
const asSet = (name: Told, figure: number): number =>
  name === 'resized' ? 100 * figure : name === 'enlarged' ? 2 ** figure : figure;
const asFigure = (name: Told, set: number): number =>
  name === 'resized' ? set / 100 : name === 'enlarged' ? Math.log2(set) : set;

/** What was found of each, as far as a network was taught it, and how far off that may be. */
function foundOf(name: Told, history: History | null): { value: number; off: number } {
  if (!history) return { value: 0, off: UNIT[name] / 2 };
  const { value, off } = history[name];
  return { value: Math.min(asFigure(name, LIMITS[name]), value), off };
}

/** What a file has lost on its way is given back at once by a network that is told what happened to it. */
export const restore: Step<'restore', RestoreSettings, RestoreNumbers> = {
  kind: 'restore',
  title: say`Restore`,
  blurb: say`Takes back at once what happened to a photograph: blur, noise, sharpening, compression.`,
  rank: 5,
  phases: ['original'],
  restsOnGrid: true,
  settings: RestoreSettings,
  numbers: RestoreNumbers,
  defaults: {
    blur: 'auto',
    noise: 'auto',
    grain: 'auto',
    sharpening: 'auto',
    resized: 'auto',
    enlarged: 'auto',
  },
  controls: [
    slider('blur', 'Blur', 0.05, 'px'),
    slider('noise', 'Noise', 0.1, 'levels'),
    slider('grain', 'Grain', 0.1, 'px'),
    slider('sharpening', say`Sharpened before`, 1, '%'),
    slider('resized', say`Resized before`, 1, '%'),
    slider('enlarged', say`Enlarged before`, 0.05, '×', 1),
  ],
  cost: ({ tables, model }) => (tables ? 0.85 : 0) + (model ? LEARNED_CLEANER * 1.3 : 0),

  resolve(settings, context) {
    const { plan, framing, models, history, jpeg, blocks } = context;
    if (plan.vector || framing.grid) return null;
    const tables = jpeg || blocks?.quality ? tablesOf(context) : null;
    const model = models.restore;
    if (!tables && !model) return null;
    const all = TOLD.map((name) => {
      const chosen: Automatic = settings[name];
      const { value, off } =
        chosen === 'auto'
          ? foundOf(name, history)
          : { value: asFigure(name, chosen), off: BY_HAND * UNIT[name] };
      return [name, Math.min(2, value / UNIT[name]), Math.min(2, off / UNIT[name])] as const;
    });
    const record = (at: 1 | 2) =>
      Object.fromEntries(all.map((one) => [one[0], one[at]])) as Record<Told, number>;
    return { tables, told: record(1), unsure: record(2), model };
  },

  scaled: (numbers) => numbers,
  size: (_, from) => from,

  inputRegion({ tables, model }, region, { from }) {
    const estimated = model ? learnedInput(region, from) : region;
    return tables ? classicalInput(tables, estimated, from) : estimated;
  },

  async apply(input, { tables, told, unsure, model }, region, { from }, beside) {
    const network = model && (await beside.network(model));
    const estimated = network ? learnedInput(region, from) : region;
    const raster: Raster = tables
      ? classical(input, tables, estimated, from)
      : cut(input, estimated);
    if (!network) return raster;
    const compressed = tables
      ? compressedBy(tables)
      : { severity: { luma: 0, colour: 0 }, halved: false, blocks: null };
    const { blur, grain, sharpening, resized, enlarged } = told;
    return cleanLearned(network, input, { region: estimated, raster }, region, from, {
      ...compressed,
      noise: told.noise * UNIT.noise,
      more: [blur, grain, sharpening, resized, enlarged, ...TOLD.map((name) => unsure[name])],
    });
  },

  summary: (settings, strength) => {
    const own = TOLD.filter((name) => settings[name] !== 'auto').length;
    const what = own === 0 ? say`as measured` : say`${own} set by hand`;
    return say`restore ${what}${strength < 100 ? ` · ${strength} %` : ''}`;
  },
};

/** One of the sliders, automatic as it was measured. */
function slider(setting: Told, label: string, step: number, unit: string, min = 0) {
  return {
    form: 'slider' as const,
    ...{ setting, label, min, max: LIMITS[setting], step, unit },
    automatic: ({ history }: Pick<ResolveContext, 'history'>) =>
      asSet(setting, foundOf(setting, history).value),
  };
}
