import { z } from 'zod';
import { graphOf } from '../recipe/graph';
import type { Recipe } from '../recipe/recipe';
import { secondsFor } from './cost';

const Times = z.number().positive();

/** How fast runs of a kind went, as times of the machine of reference (cost.ts). */
const Speed = z.object({ slowest: Times, usual: Times, quickest: Times });
type Speed = z.infer<typeof Speed>;

/** How fast results are made here. */
export const Throughput = z.object({
  /** whatever they are; a guess before the first run */
  overall: Speed,
  /** by what runs are alike in */
  kinds: z.record(z.string(), Speed),
});
export type Throughput = z.infer<typeof Throughput>;

/** What a run is estimated by. */
export const RunCost = z.object({
  /** what it is like, the narrowest first */
  kinds: z.array(z.string()).min(1),
  /** seconds on the machine of reference */
  seconds: z.number(),
});
export type RunCost = z.infer<typeof RunCost>;

export const runCost = (recipe: Recipe): RunCost => ({
  kinds: kindsOf(recipe),
  seconds: secondsFor(recipe, 1),
});

/** A finished run: what it was estimated by, and how long it took in seconds. */
export interface FinishedRun {
  cost: RunCost;
  seconds: number;
}

/** Finished runs that a kind is told from, the newest ones. */
const TOLD_BY = 5;
/** How far the next run may be off the runs that are known, by how many those are. */
const DOUBT = [0.5, 0.35, 0.25, 0.15];
/** Runs of other kinds tell less. */
const OTHER_KIND = 0.3;

/** What runs are alike in, from all that costs time to how they enlarge. */
export function kindsOf(recipe: Recipe): string[] {
  const { enlargedBy } = graphOf(recipe);
  const { format, depth } = recipe.output;
  const steps = [...new Set(recipe.steps.map(({ kind }) => kind))].sort();
  return [[enlargedBy, ...steps, format, depth].join(' '), enlargedBy];
}

/** What finished runs tell. @param runs the newest first */
export function throughputOf(runs: readonly FinishedRun[]): Throughput {
  const all: number[] = [];
  const kinds = new Map<string, number[]>();
  for (const { cost, seconds } of runs) {
    const speed = cost.seconds / seconds;
    all.push(speed);
    for (const kind of cost.kinds) kinds.set(kind, [...(kinds.get(kind) ?? []), speed]);
  }
  return {
    overall: speedOf(all),
    kinds: Object.fromEntries([...kinds].map(([kind, speeds]) => [kind, speedOf(speeds)])),
  };
}

function speedOf(speeds: readonly number[]): Speed {
  const last = speeds.slice(0, TOLD_BY).sort((a, b) => a - b);
  const doubt = DOUBT[Math.min(last.length, DOUBT.length - 1)]!;
  return {
    slowest: (last[0] ?? 1) * (1 - doubt),
    // The middle one: neither a lucky nor a disturbed run.
    usual: last[last.length >> 1] ?? 1,
    quickest: (last.at(-1) ?? 1) * (1 + doubt),
  };
}

/** Seconds that a run will take here. */
export interface Estimate {
  least: number;
  likely: number;
  most: number;
}

/** What a run of a recipe will take. */
export const estimate = (recipe: Recipe, throughput: Throughput): Estimate =>
  estimateBy(runCost(recipe), throughput);

/** Told by runs of its kind, else of its way to enlarge, else by all. */
export function estimateBy(cost: RunCost, { overall, kinds }: Throughput): Estimate {
  const [own, ...wider] = cost.kinds;
  const known = kinds[own!];
  const { slowest, usual, quickest } =
    known ?? wider.flatMap((kind) => kinds[kind] ?? []).at(0) ?? overall;
  const doubt = known ? 0 : OTHER_KIND;
  const seconds = (speed: number) => Math.max(0.5, cost.seconds / speed);
  return {
    least: seconds(quickest * (1 + doubt)),
    likely: seconds(usual),
    most: seconds(slowest * (1 - doubt)),
  };
}
