import { closeSync, openSync } from 'node:fs';
import { ProfileProblem } from '@/core/colour/problem';
import { transformsFrom, type ProfilePair } from '@/core/colour/transforms';
import { emptyRaster } from '@/core/raster/raster';
import { whole, type Region } from '@/core/raster/region';
import { lentSamples, type Samples } from '@/core/raster/samples';
import { ModelProblem } from '@/core/learned/network';
import { networksFrom } from '@/core/learned/networks';
import { graphOf } from '@/core/recipe/graph';
import { inOrder, type GraphNode } from '@/core/recipe/graph-node';
import { ditherOf, type Recipe } from '@/core/recipe/recipe';
import { Carry } from '@/core/render/carry';
import { renderNode } from '@/core/render/render';
import { carryPlans } from '@/core/render/schedule';
import { resample } from '@/core/steps/resample/resample';
import type { MaskReader } from '@/core/zone/render-zone';
import { rowSum, type SampleFile } from '../output/samples';
import { packStrip, type PackedStrip, type StripTask } from '../output/strip';
import { engine } from '../colour/engine';
import { openRaw } from '../codecs/raw';
import { digestOfFile } from '../files/digest';
import { masksFrom } from '../files/masks';
import { modelBytes } from '../files/models';
import { writeWhole } from '../files/whole-io';
import { Problem } from '../problem';
import { openScratch, writeBlock, type ScratchFile } from './scratch-file';
import { RGB } from '@/core/raster/form';

/** One part of a node: computed in a thread of the pool, from the top down, and written in its place. */
export interface PartTask {
  /** file of the original's decoded pixels */
  raw: string;
  recipe: Recipe;
  /** the profiles that colours are converted between; null where they aren't */
  profiles: ProfilePair | null;
  /** folder of painted masks */
  masks: string;
  /** nodes that were computed already */
  materialised: ScratchFile[];
  /** the node's hash */
  hash: string;
  part: Region;
  /** rows of the tiles that it is walked down in */
  rows: number;
  to: { block: ScratchFile; index: number } | { samples: SampleFile };
  /** thousands of pixels that are done, of all parts together */
  done: SharedArrayBuffer;
}

/** What a thread answers. */
export interface Answer {
  /** trouble that a person can do something about, in words */
  trouble?: string;
  /** sums of what it wrote: of every row of samples, or of a block */
  sums?: Uint32Array;
  /** a strip's bytes */
  packed?: PackedStrip;
  /** of the file that was asked for */
  digest?: string;
}

/** Asks a thread to start, and to have its kernels compiled before somebody waits for them. */
export interface WarmTask {
  warm: true;
}

/** Asks for the digest of a file. */
export interface DigestTask {
  digestOf: string;
}

/** How often it is done. */
const WARM_TIMES = 12;

const network = networksFrom(modelBytes);
const transformed = transformsFrom(engine);
const masksIn = new Map<string, MaskReader>();

function masksOf(folder: string): MaskReader {
  const known = masksIn.get(folder) ?? masksFrom(folder);
  masksIn.set(folder, known);
  return known;
}

export default async function work(
  task: PartTask | WarmTask | DigestTask | StripTask,
): Promise<Answer> {
  try {
    if ('digestOf' in task) return { digest: await digestOfFile(task.digestOf) };
    if ('strip' in task) return { packed: packStrip(task) };
    if (!('warm' in task)) return { sums: await computePart(task) };
    await warmUp();
    return {};
  } catch (error) {
    // An error that crosses threads forgets what it was.
    if (
      error instanceof Problem ||
      error instanceof ModelProblem ||
      error instanceof ProfileProblem
    )
      return { trouble: error.message };
    throw error;
  }
}

/** Enlarges nothing to speak of a few times, until the engine has optimised what most runs do. */
async function warmUp(): Promise<void> {
  const from = { width: 128, height: 32 };
  const to = { width: 2048, height: 512 };
  const raster = emptyRaster(from.width, from.height, RGB);
  const upright = { turn: 0, straighten: 0, light: 'gamma', limit: 0, step: 10 } as const;
  const numbers = { ...upright, method: 'lanczos3', source: whole(from), ...to } as const;
  for (let i = 0; i < WARM_TIMES; i++) {
    const input = { region: whole(from), raster };
    lentSamples(resample.apply(input, numbers, whole(to), { from, to }), 8);
  }
}

/** The graph of the last recipe: parts of one run come one after the other. */
let known: { text: string; nodes: Map<string, GraphNode> } | undefined;

function nodeOf({ recipe, hash }: PartTask): GraphNode {
  const text = JSON.stringify(recipe);
  if (known?.text !== text) {
    const nodes = inOrder(graphOf(recipe).written);
    known = { text, nodes: new Map(nodes.map((node) => [node.hash, node])) };
  }
  return known.nodes.get(hash)!;
}

async function computePart(task: PartTask): Promise<Uint32Array> {
  const { part, rows, to } = task;
  const node = nodeOf(task);
  const source = await openRaw(task.raw);
  const scratch = new Map(task.materialised.map((file) => [file.hash, openScratch(file)]));
  const done = new Int32Array(task.done);
  const out = 'samples' in to ? openSync(to.samples.path, 'r+') : null;
  const sums = new Uint32Array(out === null ? 1 : part.height);
  try {
    const { tiles, plans } = carryPlans(
      { node, rows },
      part,
      ({ hash, inputs }) => inputs.length === 0 || scratch.has(hash),
    );
    const carry = new Carry(plans);
    const picture = renderNode(source, node, {
      ...{ store: carry, masks: masksOf(task.masks), network },
      ...(task.profiles && { convert: (how) => transformed(task.profiles!, how) }),
      materialised: (hash) => scratch.get(hash),
    });
    for (const tile of tiles) {
      const raster = await picture.lend(tile);
      if ('samples' in to) {
        const samples = lentSamples(raster, to.samples.depth, ditherOf(task.recipe, tile));
        writeSamples(out!, to.samples, samples, tile, sums.subarray(tile.y - part.y));
      } else sums[0] = writeBlock(to.block, to.index, raster);
      carry.nextTile();
      Atomics.add(done, 0, Math.round((tile.width * tile.height) / 1024));
    }
    return sums;
  } finally {
    if (out !== null) closeSync(out);
    for (const file of scratch.values()) file.close();
    await source.close();
  }
}

/** Writes a tile in its place, and the sums of its rows. */
function writeSamples(
  file: number,
  to: SampleFile,
  samples: Samples,
  tile: Region,
  sums: Uint32Array,
): void {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
  const pixelBytes = (to.channels * to.depth) / 8;
  const line = tile.width * pixelBytes;
  const at = (y: number) => to.start + (y * to.size.width + tile.x) * pixelBytes;
  const whole = tile.width === to.size.width;
  if (whole) writeWhole(file, bytes, at(tile.y));
  for (let y = 0; y < tile.height; y++) {
    const row = bytes.subarray(y * line, (y + 1) * line);
    sums[y] = rowSum(row);
    if (!whole) writeWhole(file, row, at(tile.y + y));
  }
}
