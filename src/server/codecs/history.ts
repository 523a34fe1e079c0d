import { measureHistory, type History } from '@/core/inspect/history';
import type { JpegFacts } from '@/core/inspect/jpeg';
import type { Kind } from '@/core/inspect/kind';
import { denseNetwork } from '@/core/learned/dense';
import { readDense } from '@/core/learned/onnx';
import type { Source } from '@/core/raster/source';
import { toldBy } from './learned';

const build = (bytes: Uint8Array) => denseNetwork(readDense(bytes));
const measured = toldBy('measure', build);
const ofKind = toldBy('noiseKind', build);

/** What happened to a picture; null of drawings, on which it wasn't taught, and where the model is missing. */
export async function historyOfPixels(
  source: Source,
  kind: Kind,
  jpeg: JpegFacts | null,
): Promise<History | null> {
  if (kind !== 'photograph' && kind !== 'mixed') return null;
  return measured(async (measure) => {
    const kind = await ofKind((network) => Promise.resolve(network));
    return measureHistory(source, { measure, kind }, jpeg);
  });
}
