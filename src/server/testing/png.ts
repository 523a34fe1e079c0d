import { PNG_SIGNATURE, pngChunk } from '../output/png-chunks';

/** A PNG of chunks. */
export const pngOf = (chunks: readonly [type: string, data: Buffer][]): Buffer =>
  Buffer.concat([PNG_SIGNATURE, ...chunks.map(([type, data]) => pngChunk(type, data))]);
