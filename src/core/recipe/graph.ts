import { formOf } from '../colour/form';
import { held, heldTo, holdInput, RANGE, rangeOf } from '../guard/hold';
import { UPSCALING } from '../learned/enlarger';
import { compositeOver } from '../raster/alpha';
import { blend, clampToOne, product, onlyValue } from '../raster/blend';
import { roundToFixed } from '../raster/fixed';
import { grow, whole, type Region } from '../raster/region';
import { cut, narrowed } from '../raster/raster';
import { insetSteps, phasesOf, stageOf, type RecipeStep } from '../steps';
import { channelsOf } from '../steps/mount/mount';
import type { Beside, Phase } from '../steps/step';
import { traceWithPauses } from '../tracing/trace';
import { drawTraced, TRACING_COST, tracingOf } from '../tracing/traced';
import type { ZoneMap } from '../zone/zone';
import { digestOfValue } from './canonical';
import { BLOCK, same, type GraphNode, type Input, type MakeNode } from './graph-node';
import { paintedNode, printZoneNode, zoneNode, type Print } from './zone-nodes';
import type { Recipe } from './recipe';
import { luminanceOver, recoloured } from '../raster/colour';
import { LIGHTNESS, RGB, RGBA } from '../raster/form';

/** Where a recipe leads. */
export interface Graph {
  result: GraphNode;
  /** the same in the colours of its file: what a run writes */
  written: GraphNode;
  /** the strengths of a zone, 0–1, on the grid of the result before it is laid on its sheet */
  strengths(zone: ZoneMap): GraphNode;
  /** where the picture lies on the result */
  place: Region;
  /** a network, the kernel, or that it was drawn */
  enlargedBy: string;
}

/** A step that is a stage; insets are ways of their own. */
type StageStep = Exclude<RecipeStep, { kind: 'inset' }>;

/** Where a chain of steps has come to, and what those to come may look at beside it. */
interface State {
  /** all colours, as far as steps changed all of them */
  colours: GraphNode;
  /** what steps that change luminance alone have made of it since; null where there were none */
  luminance: GraphNode | null;
  /** what is enlarged, before any network */
  cleaned: GraphNode;
  /** the same grid without any treatment */
  untreated: GraphNode;
  /** how many times as large the picture is as the untreated one and its zones */
  upscaled: number;
  /** a zone's strengths on the untreated picture's grid */
  strengths(zone: ZoneMap): GraphNode;
}

/**
 * Turns a recipe into the graph of what is computed from what. Equal nodes are one, however many ways
 * lead over them.
 */
export function graphOf(recipe: Recipe): Graph {
  const builder = new Builder(recipe);
  const { steps } = recipe;
  const resampling = steps.find((step) => step.kind === 'resample');
  const enlargedBy = steps.some(({ kind }) => kind === 'upscale')
    ? 'learned'
    : (resampling?.numbers.method ?? 'drawn');
  const mounted = steps.findIndex(({ kind }) => kind === 'mount');
  const { picture, strengths } = builder.follow(mounted < 0 ? steps : steps.slice(0, mounted));
  const mount = steps[mounted];
  if (mount?.kind !== 'mount') {
    const written = builder.converted(picture);
    return { result: picture, written, strengths, place: whole(picture.size), enlargedBy };
  }
  const { x, y } = mount.numbers;
  const result = builder.stage(mount, picture, 'sheet');
  const written = builder.converted(result);
  return { result, written, strengths, place: { x, y, ...picture.size }, enlargedBy };
}

/** Converting a pixel to another profile. */
const CONVERTING = 0.05;

class Builder {
  private readonly nodes = new Map<string, GraphNode>();

  constructor(private readonly recipe: Recipe) {}

  /** A node, or the one that is the same. */
  private readonly node: MakeNode = (parts, of) => {
    const { size } = of;
    const hash = digestOfValue([
      this.recipe.core,
      ...parts,
      size,
      of.inputs.map(({ node }) => node.hash),
    ]);
    const known = this.nodes.get(hash);
    if (known) return known;
    const made = { ...of, hash };
    this.nodes.set(hash, made);
    return made;
  };

  follow(steps: readonly RecipeStep[]): Pick<State, 'strengths'> & { picture: GraphNode } {
    const phases = phasesOf(steps, this.recipe.original.drawn !== null);
    const state = steps.reduce(
      (before, step, i) => this.after(before, step, phases[i]!),
      this.beginning(),
    );
    return { picture: this.picture(state), strengths: state.strengths };
  }

  private beginning(): State {
    const { original, alpha, colour } = this.recipe;
    const paper = channelsOf(colour);
    const picture = this.node(['original', original, alpha, colour], {
      size: { width: original.width, height: original.height },
      grid: original.drawn ? 'target' : 'original',
      form: alpha === 'kept' ? RGBA : RGB,
      inputs: [],
      cost: 0,
      block: BLOCK,
      // Laid on the paper first: everything after it sees what is printed.
      compute: async (region, _, { source }) => {
        const raster = await source(region);
        return raster.form.alpha && alpha !== 'kept' ? compositeOver(raster, paper) : raster;
      },
    });
    return {
      ...{ colours: picture, luminance: null, cleaned: picture, untreated: picture, upscaled: 1 },
      strengths: this.strengthsOver(picture),
    };
  }

  /** A result in the colours of its file. */
  converted(result: GraphNode): GraphNode {
    const { colour } = this.recipe.output;
    if (!colour) return result;
    const { size, grid, form } = result;
    return this.node(['converted', colour], {
      ...{ size, grid, form: formOf(colour.space, form.alpha), cost: CONVERTING, block: BLOCK },
      inputs: [{ node: result, region: same }],
      compute: async (region, read, { convert }) =>
        (await convert(colour)).apply(cut(await read(0, region), region)),
    });
  }

  /** All colours of a state. */
  private picture({ colours, luminance }: State): GraphNode {
    if (!luminance) return colours;
    const { size, grid, form } = colours;
    return this.node(['recoloured'], {
      ...{ size, grid, form, block: BLOCK, cost: 0 },
      inputs: [luminance, colours].map((node) => ({ node, region: same })),
      compute: async (region, read) => {
        // In this order, since what was done to luminance looked beyond the region.
        const changed = await read(0, region);
        return recoloured(await read(1, region), changed, region);
      },
    });
  }

  private luminanceOf(colours: GraphNode): GraphNode {
    const { size, grid } = colours;
    return this.node(['luminance'], {
      ...{ size, grid, form: LIGHTNESS, block: BLOCK, cost: 0 },
      inputs: [{ node: colours, region: same }],
      compute: async (region, read) => luminanceOver(await read(0, region), region),
    });
  }

  private after(state: State, step: RecipeStep, phase: Phase): State {
    switch (step.kind) {
      case 'regrid': {
        // Zones lie on the true grid of repeated pixels.
        const picture = this.stage(step, this.picture(state), phase);
        const strengths = this.strengthsOver(picture);
        return { ...state, colours: picture, luminance: null, untreated: picture, strengths };
      }
      case 'upscale': {
        const picture = this.stage(step, this.picture(state), phase);
        const upscaled = state.upscaled * UPSCALING;
        const cleaned = state.upscaled > 1 ? state.cleaned : this.picture(state);
        return { ...state, colours: picture, luminance: null, cleaned, upscaled };
      }
      case 'resample':
        return this.resampled(state, step);
      case 'inset': {
        const { picture } = this.follow(insetSteps(step.numbers));
        const colours = this.blended(state, step, this.picture(state), picture);
        return { ...state, colours, luminance: null };
      }
      default:
        return stageOf(step).changes === 'luminance'
          ? this.onLuminance(state, step, phase)
          : this.onColours(state, step, phase);
    }
  }

  /** A step on all colours. */
  private onColours(state: State, step: StageStep, phase: Phase): State {
    const picture = this.picture(state);
    const done = this.stage(step, picture, phase, state.untreated);
    return { ...state, colours: this.blended(state, step, picture, done), luminance: null };
  }

  /** A step on luminance alone: those in a row change it one after the other, and colours follow once. */
  private onLuminance(state: State, step: StageStep, phase: Phase): State {
    const before = state.luminance ?? this.luminanceOf(state.colours);
    const done = this.stage(step, before, phase);
    return { ...state, luminance: this.blended(state, step, before, done) };
  }

  /** One stage on its input, after its reduction where it has one. */
  stage(step: StageStep, input: GraphNode, phase: Phase, untreated?: GraphNode): GraphNode {
    const stage = stageOf(step);
    const { numbers } = step;
    const grids = { from: input.size, to: stage.size(numbers, input.size) };
    const grid = phase === 'original' ? 'original' : 'target';
    const { reduction } = stage;
    const factor = reduction?.factor(numbers) ?? 0;
    const own = {
      node: input,
      region: (region: Region) => stage.inputRegion(numbers, region, grids),
    };
    const inputs: Input[] = [own];
    const beside: { what: 'untreated' | 'reduced'; at: number; region: Input['region'] }[] = [];
    const add = (what: 'untreated' | 'reduced', node: GraphNode, region: Input['region']) => {
      beside.push({ what, at: inputs.length, region });
      inputs.push({ node, region });
    };
    if (untreated && stage.looksAtUntreated?.(numbers)) add('untreated', untreated, own.region);
    if (reduction && factor > 0) {
      // Of the same for all numbers with this factor: what changes without it is not reduced again.
      const reduced = this.node(['reduced', reduction.form, factor], {
        size: reduction.size(numbers, input.size),
        grid,
        form: reduction.form,
        inputs: [
          { node: input, region: (region) => reduction.inputRegion(numbers, region, grids) },
        ],
        cost: 0.005 * factor * factor,
        block: BLOCK,
        compute: async (region, read) => {
          const needed = reduction.inputRegion(numbers, region, grids);
          const from = narrowed(await read(0, needed), needed);
          return reduction.apply(from, numbers, region, grids);
        },
      });
      add('reduced', reduced, (region) => reduction.neededBy(numbers, region, grids));
    }
    return this.node([step.kind, numbers], {
      size: grids.to,
      grid,
      form: stage.form?.(numbers, input.form) ?? input.form,
      fixed: stage.fixed,
      inputs,
      cost: stage.cost(numbers),
      block: stage.block ?? BLOCK,
      compute: async (region, read, { network }) => {
        const given: Beside = { network };
        // What is looked at beside comes first: its reach at the input is the wider one, which holds the rest.
        for (const { what, at, region: needed } of beside) {
          const part = needed(region);
          given[what] = narrowed(await read(at, part), part);
        }
        const looked = own.region(region);
        const first = narrowed(await read(0, looked), looked);
        const result = await stage.apply(first, numbers, region, grids, given);
        return stage.fixed ? roundToFixed(result) : result;
      },
    });
  }

  /** Where a step works: its zone, less what guards protect. */
  private strengthsOf(state: State, { zone, spared }: RecipeStep): GraphNode | undefined {
    if (!zone || !spared) return zone || spared ? state.strengths((zone ?? spared)!) : undefined;
    const both = [state.strengths(zone), state.strengths(spared)];
    const { size, grid, form } = both[0]!;
    return this.node(['both'], {
      ...{ size, grid, form, block: BLOCK, cost: 0 },
      inputs: both.map((node) => ({ node, region: same })),
      compute: async (region, read) =>
        product(await read(0, region), await read(1, region), region),
    });
  }

  /** What was done, as strongly as it is wanted and only where it is wanted, held to its limit. */
  private blended(state: State, step: RecipeStep, picture: GraphNode, done: GraphNode): GraphNode {
    const { strength, limit } = step;
    const { size } = picture;
    if (limit && picture.form.space !== 'lightness') {
      throw new RangeError('graph: an overshoot limit on what is not luminance alone');
    }
    if (done.size.width !== size.width || done.size.height !== size.height) {
      throw new RangeError('graph: what is laid over a picture has another size');
    }
    const strengths = this.strengthsOf(state, step);
    if (strength === 100 && !strengths && !limit) return done;
    const about = (region: Region) => (limit ? holdInput(limit, region, size) : region);
    const share = strength / 100;
    return this.node(['blend', strength, ...(limit ? [limit] : [])], {
      ...{ size, grid: picture.grid, form: picture.form, block: BLOCK },
      inputs: [
        { node: picture, region: about },
        ...[done, ...(strengths ? [strengths] : [])].map((node) => ({ node, region: same })),
      ],
      cost: limit ? 0.015 : 0,
      compute: async (region, read) => {
        const limits = strengths && (await read(2, region));
        // Where a zone is empty nothing needs to be computed; where it is full, nothing else.
        const all = limits && onlyValue(limits, region);
        if (all === 0) return cut(await read(0, region), region);
        if (!limit && share === 1 && all === 1) return cut(await read(1, region), region);
        // In this order, since what was done looked at the picture over the region itself.
        const after = await read(1, region);
        const before = await read(0, about(region));
        return limit
          ? held(before, after, limit, { share, limits }, region, size)
          : blend(before, after, share, limits, region);
      },
    });
  }

  /** The one resampling carries the untreated picture and the zones along. */
  private resampled(state: State, step: Extract<RecipeStep, { kind: 'resample' }>): State {
    const { numbers } = step;
    const { x, y, width, height } = numbers.source;
    const source = {
      x: x / state.upscaled,
      y: y / state.upscaled,
      width: width / state.upscaled,
      height: height / state.upscaled,
    };
    const softly = {
      ...step,
      numbers: { ...numbers, source, method: 'bicubic' as const, light: 'gamma' as const },
    };
    const picture = this.picture(state);
    const colours =
      numbers.method === 'traced'
        ? this.traced(step, picture, state.upscaled)
        : this.stage(step, picture, 'enlarge');
    const cleaned = state.upscaled > 1 ? state.cleaned : picture;
    const luminance = this.heldEnlargement(cleaned, colours, {
      ...step,
      numbers: { ...numbers, source },
    });
    const onPrint = (node: GraphNode) => this.clamped(this.stage(softly, node, 'enlarge'));
    const print: Print = {
      picture: this.picture({ ...state, colours, luminance }),
      scale: Math.max(
        1,
        Math.sqrt((numbers.width * numbers.height) / (source.width * source.height)),
      ),
      strengths: (zone) => onPrint(state.strengths(zone)),
      painted: (painted) => onPrint(paintedNode(this.node, state.untreated.size, painted)),
    };
    return {
      ...{ colours, luminance, cleaned: colours },
      untreated: this.stage(
        numbers.method === 'traced' ? softly : { ...step, numbers: { ...numbers, source } },
        state.untreated,
        'enlarge',
      ),
      upscaled: 1,
      strengths: (zone) => printZoneNode(this.node, print, zone),
    };
  }

  /** A picture that is drawn fresh; it is traced once, whichever regions are drawn. */
  private traced(
    { kind, numbers }: Extract<RecipeStep, { kind: 'resample' }>,
    picture: GraphNode,
    upscaled: number,
  ): GraphNode {
    const { size, form } = picture;
    // Tracing looks at every pixel once, whatever is drawn of it.
    const once = (size.width * size.height) / (numbers.width * numbers.height);
    return this.node([kind, numbers], {
      ...{ size: { width: numbers.width, height: numbers.height }, grid: 'target', form },
      ...{ cost: stageOf({ kind }).cost(numbers) + TRACING_COST * once, block: BLOCK },
      inputs: [{ node: picture, region: () => whole(size) }],
      compute: async (region, read, { pause }) => {
        const tracing = await tracingOf(picture.hash, async () => {
          const all = await read(0, whole(size));
          return traceWithPauses(cut(all, whole(size)), upscaled, pause);
        });
        return drawTraced(tracing, numbers, region);
      },
    });
  }

  /** An enlargement's luminance, held to the range that the original has about it; null where it can't leave that. */
  private heldEnlargement(
    cleaned: GraphNode,
    enlarged: GraphNode,
    step: Extract<RecipeStep, { kind: 'resample' }>,
  ): GraphNode | null {
    const { limit, numbers } = step;
    const { source, width, height, method } = numbers;
    const never = method === 'nearest' || method === 'bilinear' || method === 'traced';
    if (!limit || never || width <= source.width || height <= source.height) return null;
    const { size, grid } = cleaned;
    const about = (region: Region) => grow(region, limit.reach, size);
    const range = this.node(['range', limit.reach], {
      ...{ size, grid, form: RANGE, block: BLOCK, cost: 0.02 },
      inputs: [{ node: this.luminanceOf(cleaned), region: about }],
      compute: async (region, read) =>
        rangeOf(await read(0, about(region)), region, size, limit.reach),
    });
    const softly = { ...numbers, method: 'bilinear' as const, light: 'gamma' as const, limit: 0 };
    const bounds = this.stage({ ...step, numbers: softly }, range, 'enlarge');
    return this.node(['held', limit], {
      ...{ size: enlarged.size, grid: enlarged.grid, form: LIGHTNESS, block: BLOCK, cost: 0.005 },
      inputs: [this.luminanceOf(enlarged), bounds].map((node) => ({ node, region: same })),
      compute: async (region, read) =>
        heldTo(await read(0, region), await read(1, region), limit, region),
    });
  }

  /** A kernel with negative lobes swings beyond what a strength can be. */
  private clamped(node: GraphNode): GraphNode {
    return this.node(['clamp'], {
      ...node,
      inputs: [{ node, region: same }],
      cost: 0,
      compute: async (region, read) => clampToOne(await read(0, region), region),
    });
  }

  private strengthsOver(picture: GraphNode): (zone: ZoneMap) => GraphNode {
    return (zone) => zoneNode(this.node, picture, zone);
  }
}
