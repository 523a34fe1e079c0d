import { stat } from 'node:fs/promises';
import { rename, rm } from 'node:fs/promises';
import type { Region } from '@/core/raster/region';
import { networksFrom } from '@/core/learned/networks';
import { Kept } from '@/core/render/kept';
import { render } from '@/core/render/render';
import type { SheetTask } from '@/core/shop/task';
import { screenTableOf } from '../codecs/pictures';
import { digestOfFile } from '../files/digest';
import { masksFrom } from '../files/masks';
import { modelBytes } from '../files/models';
import { makeFolderOf, partOf, store } from '../files/store';
import type { SheetPane } from '../sheet/pane';
import { writeSheet } from '../sheet/write-sheet';
import type { Doing, Done } from './doing';
import { sourceOf } from './source-of';

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
      const { source, profile, close } = await sourceOf(db, recipe, signal);
      sources.push({ close });
      const table = (profile && (await screenTableOf(profile))) ?? new Uint8Array();
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
