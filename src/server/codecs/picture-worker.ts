import type { Region } from '@/core/raster/region';
import { Problem, type ProblemKind } from '../problem';
import { decode } from './decode';
import type { Decoded, DecodeTask } from './decoded';
import type { Drawing } from './shapes/drawing';
import { drawBand, drawCell } from './shapes/drawn';

/** What the picture threads do. */
export type PictureTask =
  | { do: 'decode'; task: DecodeTask }
  | { do: 'draw cell'; drawing: Drawing; cell: Region }
  | { do: 'draw band'; drawing: Drawing; raw: string; band: Region };

/** A result, or trouble in words: an error's class doesn't survive the way between threads. */
export type Answer =
  | { ok: true; value: Decoded | Uint8Array | null }
  | { ok: false; kind: ProblemKind; message: string };

export default async function work(task: PictureTask): Promise<Answer> {
  try {
    if (task.do === 'decode') return { ok: true, value: await decode(task.task) };
    if (task.do === 'draw band') {
      await drawBand(task.drawing, task.raw, task.band);
      return { ok: true, value: null };
    }
    return { ok: true, value: new Uint8Array(await drawCell(task.drawing, task.cell)) };
  } catch (error) {
    if (error instanceof Problem) return { ok: false, kind: error.kind, message: error.message };
    throw error;
  }
}
