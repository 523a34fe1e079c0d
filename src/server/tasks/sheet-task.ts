import type { Knex } from 'knex';
import { stat } from 'node:fs/promises';
import { rename, rm } from 'node:fs/promises';
import { networksFrom } from '@/core/learned/networks';
import { cells, type Region } from '@/core/raster/region';
import { fromSamples } from '@/core/raster/samples';
import { cut, emptyRaster, paste } from '@/core/raster/raster';
import type { Source } from '@/core/raster/source';
import { Kept } from '@/core/render/kept';
import { render } from '@/core/render/render';
import type { Recipe } from '@/core/recipe/recipe';
import type { SheetTask } from '@/core/shop/task';
import { drawnCell, screenTableOf } from '../codecs/pictures';
import { openRaw } from '../codecs/raw';
import { CELL, drawingOf, type Drawing } from '../codecs/shapes/drawing';
import { digestOfFile } from '../files/digest';
import { masksFrom } from '../files/masks';
import { modelBytes } from '../files/models';
import { makeFolderOf, partOf, store } from '../files/store';
import { decodedPath, inspectedPage } from '../files/take-in';
import { treatedFiles } from '../files/treated';
import type { SheetPane } from '../sheet/pane';
import { writeSheet } from '../sheet/write-sheet';
import type { Doing, Done } from './doing';

/** Bytes of nodes that are kept from one crop to the next. */
const KEPT_BYTES = 64 << 20;

const network = networksFrom(modelBytes);

/** Makes a comparison sheet of trials at chosen places. */
export async function doSheet(
  { id, payload: { fileName, words, recipes } }: SheetTask,
  { db, claim, signal, onProgress, stillOwned }: Doing,
): Promise<Done<SheetTask>> {
  const started = performance.now();
  const out = await makeFolderOf(store.result(id));
  const part = partOf(out, claim);
  const sources: { close(): Promise<void> }[] = [];
  try {
    const panes: SheetPane[] = [];
    for (const recipe of recipes) {
      const { source, table, close } = await sourceOf(db, recipe, signal);
      sources.push({ close });
      const tools = { network, masks: masksFrom(store.masks()), store: new Kept(KEPT_BYTES) };
      const { size, read } = render(source, recipe, tools);
      const picture = { size, read: (region: Region) => read(region, signal) };
      panes.push({ picture, table, ppi: recipe.target.ppi });
    }
    await writeSheet(part, words, {
      panes,
      onProgress: (share) => {
        onProgress(share);
        signal.throwIfAborted();
        // Whoever reports for this task gets its turn.
        return new Promise((resolve) => setImmediate(resolve));
      },
    });
    const [{ size: bytes }, digest] = [await stat(part), await digestOfFile(part)];
    signal.throwIfAborted();
    if (!(await stillOwned())) signal.throwIfAborted();
    await rename(part, out);
    return {
      result: { seconds: (performance.now() - started) / 1000 },
      files: [{ role: 'result', path: store.nameOf(out), fileName, bytes, digest }],
    };
  } finally {
    await Promise.all(sources.map(({ close }) => close()));
    await rm(part, { force: true });
  }
}

/** The pixels that a recipe begins with, and how its colours look on a screen. */
async function sourceOf(
  db: Knex,
  recipe: Recipe,
  signal: AbortSignal,
): Promise<{ source: Source; table: Uint8Array; close(): Promise<void> }> {
  const { digest, page } = recipe.original;
  const { name, profile } = await inspectedPage(db, digest, page);
  const table = (profile && (await screenTableOf(profile))) ?? new Uint8Array();
  if (recipe.original.drawn) {
    const treated = await treatedFiles(db, recipe.original.drawn.placed, signal);
    return {
      source: drawnSource(drawingOf(recipe, store.original(digest), name, treated)),
      table,
      close: async () => {},
    };
  }
  const source = await openRaw(await decodedPath(digest, name, page));
  return { source, table, close: () => source.close() };
}

/** A drawing, read cell by cell as its regions are asked for. */
function drawnSource(drawing: Drawing): Source {
  const { size, channels } = drawing;
  return {
    size,
    async read(region) {
      const parts = await Promise.all(
        cells(region, CELL, size).map(async (cell) => {
          const samples = await drawnCell(drawing, cell);
          return {
            region: cell,
            raster: fromSamples(samples, cell.width, cell.height, channels, 8),
          };
        }),
      );
      const [only] = parts;
      if (parts.length === 1 && only) return cut({ ...only }, region);
      const whole = emptyRaster(region.width, region.height, only!.raster.form);
      for (const one of parts) paste(one, { region, raster: whole });
      return whole;
    },
  };
}
