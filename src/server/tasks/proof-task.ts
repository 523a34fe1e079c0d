import { rm } from 'node:fs/promises';
import { networksFrom } from '@/core/learned/networks';
import type { ProofTask } from '@/core/shop/task';
import { profileName } from '../codecs/profile';
import { proofed } from '../db/jobs';
import { masksFrom } from '../files/masks';
import { modelBytes } from '../files/models';
import { makeFolderOf, partOf, store } from '../files/store';
import { writeProof } from '../proof/write-proof';
import { factsOfProof } from './request-proof';
import type { Doing, Done } from './doing';
import { sourceOf, type OpenSource } from './source-of';

const network = networksFrom(modelBytes);

/** Makes a proof of trials at chosen places. */
export async function doProof(
  { id, jobId, payload }: ProofTask,
  { db, claim, signal, onProgress, stillOwned }: Doing,
): Promise<Done<ProofTask>> {
  const started = performance.now();
  const out = await makeFolderOf(store.result(id));
  const part = partOf(out, claim);
  const open: OpenSource[] = [];
  try {
    for (const recipe of payload.recipes) open.push(await sourceOf(db, recipe, signal));
    const { found, bytes, digest } = await writeProof(payload, {
      sources: open.map(({ source }) => source),
      profile: open[0]!.profile,
      tools: { network, masks: masksFrom(store.masks()) },
      facts: factsOfProof(payload),
      ...{ part, out, stillOwned, signal },
      onProgress: (share) => {
        onProgress(share);
        signal.throwIfAborted();
        // Whoever reports for this task gets its turn.
        return new Promise((resolve) => setImmediate(resolve));
      },
    });
    const { width, height, ppi, profile } = found;
    return {
      result: {
        ...{ width, height, ppi: ppi!, seconds: (performance.now() - started) / 1000 },
        ...{ profile: profile && profileName(Buffer.from(profile)), resumed: false },
      },
      files: [
        { role: 'result', path: store.nameOf(out), fileName: payload.fileName, bytes, digest },
      ],
      also: (trx) => proofed(trx, jobId),
    };
  } finally {
    await Promise.all(open.map(({ close }) => close()));
    await rm(part, { force: true });
  }
}
