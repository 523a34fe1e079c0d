import sharp from 'sharp';
import type { Region } from '@/core/raster/region';
import type { Stop } from '@/core/stops/stop';
import { inWords, isDiskFull, Problem, type ProblemKind } from '../problem';
import type { Again } from '../sandbox/pool';
import type { Limits } from '../sandbox/limits';
import { serve } from '../sandbox/serve';
import { screenTable } from './colour';
import { decode } from './decode';
import { NeedsTurn, type Decoded, type DecodeTask } from './decoded';
import { halve, type HalveTask } from './halve';
import { lookThrough, type LookTask } from './look-through';
import type { Drawing } from './shapes/drawing';
import { drawBand, drawCell } from './shapes/drawn';
import { takeOut, type TakeOutTask } from './shapes/take-out';
import { unpack, type UnpackTask } from './unpack';

/** What processes do with files that came from outside. */
export type PictureTask =
  | { do: 'decode'; task: DecodeTask }
  | { do: 'draw cell'; drawing: Drawing; cell: Region }
  | { do: 'draw band'; drawing: Drawing; raw: string; band: Region }
  | { do: 'take out'; task: TakeOutTask }
  | { do: 'halve'; task: HalveTask }
  | { do: 'unpack'; task: UnpackTask }
  | { do: 'look through'; task: LookTask }
  | { do: 'screen table'; profile: Uint8Array };

type Value = Decoded | Uint8Array | Stop[] | null;

/** A result, or trouble in words: an error's class doesn't survive the way between processes. */
export type Answer =
  { ok: true; value: Value } | { ok: false; kind: ProblemKind; message: string } | Again;

async function valueOf(task: PictureTask, limits: Limits): Promise<Value> {
  switch (task.do) {
    case 'decode':
      return decode(task.task, limits);
    case 'draw cell':
      return drawCell(task.drawing, task.cell);
    case 'draw band':
      await drawBand(task.drawing, task.raw, task.band);
      return null;
    case 'take out':
      await takeOut(task.task);
      return null;
    case 'halve':
      await halve(task.task);
      return null;
    case 'unpack':
      await unpack(task.task);
      return null;
    case 'look through':
      return lookThrough(task.task);
    case 'screen table':
      return screenTable(task.profile);
  }
}

async function work(task: PictureTask, limits: Limits): Promise<Answer> {
  try {
    return { ok: true, value: await valueOf(task, limits) };
  } catch (error) {
    if (error instanceof NeedsTurn) return { again: error.turn };
    if (error instanceof Problem) return { ok: false, kind: error.kind, message: error.message };
    if (isDiskFull(error)) return { ok: false, kind: 'full', message: inWords(error) };
    throw error;
  }
}

// Pictures come once: what would be kept of them is memory that the next one lacks.
sharp.cache(false);
serve(work);
