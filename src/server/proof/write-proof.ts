import { open, rename, stat } from 'node:fs/promises';
import type { Facts } from '@/core/output/facts';
import { layOutProof } from '@/core/output/proof-sheet';
import { spaceOf } from '@/core/output/output';
import { whole, type Region } from '@/core/raster/region';
import { toSamples } from '@/core/raster/samples';
import { graphOf } from '@/core/recipe/graph';
import { ditherOf, type Recipe } from '@/core/recipe/recipe';
import { Kept } from '@/core/render/kept';
import { renderNode, type RenderTools } from '@/core/render/render';
import type { Source } from '@/core/raster/source';
import { transformsFrom } from '@/core/colour/transforms';
import { paperOf, type ProofPayload } from '@/core/shop/proof';
import { engine } from '../colour/engine';
import { carriedProfile, convertedBy, profileBytes, type ProfileBytes } from '../colour/profiles';
import { digestOfFile } from '../files/digest';
import type { Described } from '../output/described';
import { lineOf, rowSum, type SampleFile } from '../output/samples';
import { writeAll } from '../output/write-all';
import { writerOf } from '../output/writer';
import { Problem } from '../problem';
import { packedOnThread } from '../render/threads';
import { composeProof, type ProofPicture } from './compose';

/** Bytes of nodes that are kept from one picture to the next. */
const KEPT_BYTES = 64 << 20;

/** What the making of a proof uses. */
export interface ProofTools {
  /** the pixels that each recipe begins with, in their order */
  sources: readonly Source[];
  /** the original's profile, or null */
  profile: Uint8Array | null;
  /** where profiles that it is converted to come from, where that isn't the shop */
  profileBytes?: ProfileBytes;
  tools: Pick<RenderTools, 'masks' | 'network'>;
  facts: Facts;
  /** how the files are called that it is written into before it is whole, and where it goes then */
  part: string;
  out: string;
  /** asked last of all, before it takes its place */
  stillOwned?: () => Promise<boolean>;
  onProgress?: (share: number) => Promise<void>;
  signal?: AbortSignal;
}

export interface WrittenProof {
  found: Described;
  bytes: number;
  digest: string;
}

/** Pictures are computed before anything is written, which is little against them. */
const COMPUTING = 0.9;

/**
 * Writes a proof: parts of results as their files hold them, to the byte, at the scale of the print. It is written beside its
 * place, read back, and renamed.
 * @throws Problem where there is no room on the sheet, or the file is not as it should be
 */
export async function writeProof(
  { recipes, words, on, format }: Omit<ProofPayload, 'fileName'>,
  given: ProofTools,
): Promise<WrittenProof> {
  const { profile: own, profileBytes: bytesOf = profileBytes, facts, part, signal } = given;
  const { onProgress = async () => {} } = given;
  const [first] = recipes as [Recipe];
  const settings = Math.max(...words.trials.map((one) => one.settings.length + 1));
  const asked = { stops: words.stops.length, trials: recipes.length, settings };
  const sheet = layOutProof(paperOf(on), asked);
  if (!sheet.ok) throw new Problem('usage', sheet.reason);
  const profiles = await convertedBy(first, own, bytesOf);
  const transformed = transformsFrom(engine);
  const tools: RenderTools = {
    ...{ ...given.tools, store: new Kept(KEPT_BYTES) },
    ...(profiles && { convert: (how) => transformed(profiles, how) }),
  };
  const pictures = recipes.map((recipe, i) => picture(recipe, given.sources[i]!, tools, signal));
  const space = spaceOf(first.output);
  const canvas = await composeProof(
    sheet,
    words,
    { pictures, space, ppi: first.target.ppi },
    (share) => onProgress(share * COMPUTING),
  );
  const recipe: Recipe = {
    ...{ ...first, alpha: 'none', steps: [], tagOnly: false },
    target: { ...canvas.size, ppi: first.target.ppi, bleed: 0 },
    output: { ...first.output, format, compression: 'deflate', depth: 8 },
  };
  const profile = await carriedProfile(first, own, bytesOf);
  const packed = packedOnThread;
  const writer = writerOf({ recipe, profile, part, facts, exif: null, packed, signal });
  try {
    const rows = await writer.begin();
    await putRows(rows, canvas.samples);
    const line = lineOf(rows);
    const sums = Uint32Array.from({ length: canvas.size.height }, (_, y) =>
      rowSum(canvas.samples.subarray(y * line, (y + 1) * line)),
    );
    const finished = await writer.end(() => {});
    const { found, complaints } = await writer.verify(
      [{ part: whole(canvas.size), sums }],
      () => {},
    );
    if (complaints.length > 0) {
      throw new Problem(
        'work',
        `The written proof did not pass its check. ${complaints.join(' ')}`,
      );
    }
    const [{ size: bytes }, digest] = [await stat(finished), await digestOfFile(finished)];
    signal?.throwIfAborted();
    if (given.stillOwned && !(await given.stillOwned())) signal?.throwIfAborted();
    await rename(finished, given.out);
    await onProgress(1);
    return { found, bytes, digest };
  } finally {
    await writer.clear();
  }
}

/** A result's parts as its file holds them. */
function picture(
  recipe: Recipe,
  source: Source,
  tools: RenderTools,
  signal?: AbortSignal,
): ProofPicture {
  const { size, read } = renderNode(source, graphOf(recipe).written, tools);
  return {
    ...{ size, ppi: recipe.target.ppi },
    samples: async (region: Region) =>
      toSamples(await read(region, signal), 8, ditherOf(recipe, region)),
  };
}

async function putRows({ path, start }: SampleFile, samples: Uint8Array): Promise<void> {
  const file = await open(path, 'r+');
  try {
    await writeAll(file, samples, start);
  } finally {
    await file.close();
  }
}
