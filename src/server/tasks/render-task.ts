import type { Run } from '@/core/shop/task';
import { profileName } from '../codecs/profile';
import { SHRUNK_LEVEL } from '../output/shrunk';
import { halvedPath } from '../files/halved';
import { makeFolderOf, store } from '../files/store';
import { adoptParts } from '../files/sweep';
import { decodedPath, inspectedPage } from '../files/take-in';
import { treatedFiles } from '../files/treated';
import { Problem } from '../problem';
import { renderFile } from '../render/render-file';
import { digestOnThread } from '../render/threads';
import type { Doing, Done } from './doing';

/** Renders a trial at its full size. */
export async function doRender(
  { id, payload: { recipe, fileName, facts } }: Run,
  { db, claim, signal, onProgress, stillOwned }: Doing,
): Promise<Done<Run>> {
  const { digest, page } = recipe.original;
  const original = await inspectedPage(db, digest, page);
  const out = await makeFolderOf(store.result(id));
  await adoptParts(out, claim);
  const { name, profile } = original;
  const { found, ...rendered } = await renderFile({
    original: {
      file: store.original(digest),
      name,
      raw: () => decodedPath(digest, name, page),
      treated: (told, stop) => treatedFiles(db, recipe.original.drawn?.placed ?? [], stop, told),
    },
    ...{ recipe, profile, facts, out, claim, onProgress, signal },
    stillOwned: async () => {
      await refuseChanged(digest, name);
      return stillOwned();
    },
    // What is converted is looked at in other colours than it is written in.
    ...(recipe.output.colour === null && {
      small: async (made: string) => makeFolderOf(halvedPath(store.raw(made, 1), SHRUNK_LEVEL)),
    }),
  });
  const { width, height, ppi, bytes } = found;
  return {
    result: {
      ...{ width, height, ppi: ppi!, seconds: rendered.seconds, resumed: rendered.resumed },
      profile: found.profile && profileName(Buffer.from(found.profile)),
    },
    files: [{ role: 'result', path: store.nameOf(out), fileName, bytes, digest: rendered.digest }],
  };
}

/** @throws Problem where the original is not any more what it was when it came, so that nobody prints what it isn't */
async function refuseChanged(digest: string, name: string): Promise<void> {
  const now = await digestOnThread(store.original(digest)).catch(() => null);
  if (now === digest) return;
  throw new Problem(
    'work',
    `The original ${name} is ${now ? 'damaged on the disk' : 'not there any more'}, so its result was not kept. Put it back from a copy, or take it in again.`,
  );
}
