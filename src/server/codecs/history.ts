import { measureHistory, type History } from '@/core/inspect/history';
import type { JpegFacts } from '@/core/inspect/jpeg';
import type { Kind } from '@/core/inspect/kind';
import { denseNetwork, type DenseNetwork } from '@/core/learned/dense';
import { MODELS } from '@/core/learned/models';
import { ModelProblem } from '@/core/learned/network';
import { readDense } from '@/core/learned/onnx';
import type { Source } from '@/core/raster/source';
import { modelBytes } from '../files/models';

let loaded: Promise<DenseNetwork> | null = null;

/** Loaded once; where it failed it is tried again with the next picture. */
function network(): Promise<DenseNetwork> {
  loaded ??= modelBytes(MODELS.measure.digest).then((bytes) => denseNetwork(readDense(bytes)));
  loaded.catch(() => (loaded = null));
  return loaded;
}

/** What happened to a picture; null of drawings, on which it wasn't taught, and where the model is missing. */
export async function historyOfPixels(
  source: Source,
  kind: Kind,
  jpeg: JpegFacts | null,
): Promise<History | null> {
  if (kind !== 'photograph' && kind !== 'mixed') return null;
  try {
    return await measureHistory(source, await network(), jpeg);
  } catch (error) {
    if (error instanceof ModelProblem) return null;
    throw error;
  }
}
