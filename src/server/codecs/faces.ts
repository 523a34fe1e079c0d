import { faceDetector } from '@/core/faces/detector';
import type { Face } from '@/core/faces/face';
import { findFaces } from '@/core/faces/find';
import type { Kind } from '@/core/inspect/kind';
import { readAnyConvolutions } from '@/core/learned/onnx';
import type { Source } from '@/core/raster/source';
import { toldBy } from './learned';

const found = toldBy('faces', (bytes) => faceDetector(readAnyConvolutions(bytes)));

/** Faces on a picture; none of drawings, on which it wasn't taught, and where the model is missing. */
export async function facesOfPixels(source: Source, kind: Kind): Promise<Face[]> {
  if (kind !== 'photograph' && kind !== 'mixed') return [];
  return (await found((detector) => findFaces(source, detector))) ?? [];
}
