import { rm } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { networksFrom } from '@/core/learned/networks';
import { formatBytes, formatPpi } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { formatOfName } from '@/core/output/formats';
import type { Source } from '@/core/raster/source';
import type { Recipe } from '@/core/recipe/recipe';
import { ProofFormat, type ProofOn } from '@/core/shop/proof';
import type { SheetStop } from '@/core/shop/sheet';
import { profileName } from '@/server/codecs/profile';
import { openRaw } from '@/server/codecs/raw';
import { drawnSource } from '@/server/codecs/shapes/drawn-source';
import { drawingOf } from '@/server/codecs/shapes/drawing';
import { masksFrom } from '@/server/files/masks';
import { modelBytes } from '@/server/files/models';
import { Problem } from '@/server/problem';
import { writeProof } from '@/server/proof/write-proof';
import { loadThreads } from '@/server/render/threads';
import { factsOfProof, proofOf } from '@/server/tasks/request-proof';
import { withDecoded, type Input } from './input';
import type { OrderOptions, TreatmentOptions } from './options';
import type { OutputOptions } from './output';
import { placesOf } from './places';
import { renderOnPage } from './placed';
import { prepared, type Prepared } from './prepared';
import type { ProofOptions } from './proof-options';

const network = networksFrom(modelBytes);

/** Writes a proof: places of the print at its own size, with wedges and lines. */
export async function proof(
  input: string,
  out: string,
  options: OrderOptions & TreatmentOptions & OutputOptions & ProofOptions,
): Promise<void> {
  const format = ProofFormat.safeParse(formatOfName(out)).data;
  if (!format) throw new Problem('usage', `${basename(out)} should end in .pdf or .tif.`);
  loadThreads();
  await withDecoded(input, options.page, async (decoded) => {
    const made = await prepared(decoded, format, options);
    const { original, work, models, given, masks } = made;
    const on: ProofOn = options.strip
      ? { kind: 'strip', width: options.strip }
      : { kind: 'sheet', paper: options.sheet };
    const stops = await stopsOf(decoded, options);
    const heading = decoded.name;
    const payload = proofOf(original, work, work.trials, models, { on, format, stops, heading });
    const [recipe] = payload.recipes as [Recipe];
    const { source, close } = await sourceOf(decoded, recipe, made);
    const path = resolve(out);
    const part = `${path}.part`;
    try {
      const { found, bytes, digest } = await writeProof(payload, {
        ...{ sources: [source], profile: decoded.profile, facts: factsOfProof(payload) },
        ...(given && { profileBytes: () => Promise.resolve(given.bytes) }),
        tools: { network, masks: masksFrom(masks) },
        ...{ part, out: path },
      });
      const { width, height, ppi, profile } = found;
      const mm = (pixels: number, of: number) =>
        Math.round((pixels / of) * MM_PER_INCH * 100) / 100;
      const facts = {
        ...{ width, height, ppi: ppi?.x ?? null, bytes, format, digest },
        mm: ppi && { width: mm(width, ppi.x), height: mm(height, ppi.y) },
        profile: profile && profileName(Buffer.from(profile)),
        places: stops.length,
      };
      console.log(
        options.json
          ? JSON.stringify(facts)
          : `${basename(out)}: ${stops.length} places at ${formatPpi(recipe.target.ppi)} ppi, ${width} x ${height} pixels, ${formatBytes(bytes)}`,
      );
    } finally {
      await close();
      await rm(part, { force: true });
    }
  });
}

/** Places that are named, or those of the original that are worth a look. */
async function stopsOf(decoded: Input, { place }: ProofOptions): Promise<SheetStop[]> {
  if (place) return place.map(({ x, y }) => ({ title: placeName(x, y), words: '', x, y }));
  if (decoded.findings.vector) return [{ title: placeName(0.5, 0.5), words: '', x: 0.5, y: 0.5 }];
  const original = await openRaw(decoded.raw);
  try {
    return (await placesOf(decoded, original)).slice(0, 6);
  } finally {
    await original.close();
  }
}

const placeName = (x: number, y: number): string =>
  `${Math.round(x * 100)} %, ${Math.round(y * 100)} %`;

async function sourceOf(
  { raw, file, name }: Input,
  recipe: Recipe,
  { pictures, masks }: Prepared,
): Promise<{ source: Source; close(): Promise<void> }> {
  if (!recipe.original.drawn) {
    const source = await openRaw(raw);
    return { source, close: () => source.close() };
  }
  const treated = await renderOnPage(recipe.original.drawn.placed, pictures, {
    masks,
    onProgress: () => {},
  });
  return { source: drawnSource(drawingOf(recipe, file, name, treated)), close: async () => {} };
}
