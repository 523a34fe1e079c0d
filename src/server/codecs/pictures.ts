import type { Region } from '@/core/raster/region';
import type { Stop } from '@/core/stops/stop';
import { entryOf } from '../entry';
import { Problem } from '../problem';
import { isNoAnswer, type NoAnswer } from '../sandbox/confined';
import type { Kind, Turn } from '../sandbox/limits';
import { Pool } from '../sandbox/pool';
import type { Decoded, DecodeTask } from './decoded';
import { formatOf } from './format';
import type { HalveTask } from './halve';
import { readHeader } from './header';
import type { LookTask } from './look-through';
import type { Answer, PictureTask } from './picture-process';
import type { UnpackTask } from './unpack';
import { bandsOf, layOutDrawing, type Drawing } from './shapes/drawing';
import type { TakeOutTask } from './shapes/take-out';

// Next loads route handlers in separate bundles; they share the processes through this one.
const shared = globalThis as { lontanoPictures?: Pool<PictureTask, Answer> };

/** Processes that work on files from outside, so that a hostile or heavy one costs nothing but itself. */
const pool = (): Pool<PictureTask, Answer> =>
  (shared.lontanoPictures ??= new Pool(entryOf('server/codecs/picture-process')));

/** Starts a process, so that the first file doesn't wait for it. */
export const warmPictureProcesses = (): void => pool().warm();

/** Ends the processes; a later task starts new ones. */
export function endPictureProcesses(): void {
  shared.lontanoPictures?.end();
  shared.lontanoPictures = undefined;
}

const BETTER = 'Ask for it in a simpler form, best as TIFF or PNG.';
const WHY: Record<NoAnswer['why'], string> = {
  time: `takes too long to be read and was given up. ${BETTER}`,
  memory: `needs more memory to be read than a file is given. ${BETTER}`,
  broke: `can't be read: something in it is damaged, or made to do harm. ${BETTER}`,
  killed: 'could not be read: its process was ended again and again. Take it in once more.',
};

interface Options {
  from?: Turn;
  signal?: AbortSignal;
}

async function answer<T>(
  task: PictureTask,
  kind: Kind,
  name: string,
  options?: Options,
): Promise<T> {
  const got = await pool()
    .run(task, kind, options)
    .catch((error: unknown) => {
      if (!isNoAnswer(error)) throw error;
      if (error.why === 'broke' || error.why === 'killed')
        console.error(`${name}: ${error.message}`);
      throw new Problem(error.why === 'killed' ? 'work' : 'input', `${name} ${WHY[error.why]}`);
    });
  if ('again' in got) throw new Error('a turn that was asked for was not given');
  if (!got.ok) throw new Problem(got.kind, got.message);
  return got.value as T;
}

/** Enough of a file to tell its format. */
const BEGINNING = 4096;

/**
 * `decode` in a process of its own.
 * @throws Problem where the file can't be used, or needs more than a file is given
 */
export async function decodePicture(task: DecodeTask): Promise<Decoded> {
  const format = formatOf(await readHeader(task.file, task.name, BEGINNING), task.name);
  const kind = format === 'svg' || format === 'pdf' ? 'shapes' : 'pixels';
  return answer<Decoded>({ do: 'decode', task }, kind, task.name);
}

/** `halve` in a process of its own. */
export const halvePicture = (task: HalveTask): Promise<void> =>
  answer<void>({ do: 'halve', task }, 'pixels', 'The picture');

/** `unpack` in a process of its own. */
export const unpackPicture = (task: UnpackTask): Promise<void> =>
  answer<void>({ do: 'unpack', task }, 'pixels', 'The file');

/** `lookThrough` in a process of its own. */
export const stopsOfPicture = (task: LookTask): Promise<Stop[]> =>
  answer<Stop[]>({ do: 'look through', task }, 'pixels', 'The picture');

/** `screenTable` in a process of its own. */
export const screenTableOf = (profile: Uint8Array): Promise<Uint8Array | null> =>
  answer<Uint8Array | null>({ do: 'screen table', profile }, 'pixels', 'The colour profile');

/** `takeOut` in a process of its own. */
export const takeOutPicture = (task: TakeOutTask): Promise<void> =>
  answer<void>({ do: 'take out', task }, 'shapes', task.name);

/** Samples of a cell of a drawing. */
export const drawnCell = (drawing: Drawing, cell: Region): Promise<Uint8Array> =>
  answer<Uint8Array>({ do: 'draw cell', drawing, cell }, 'shapes', drawing.name);

/**
 * Draws a whole picture into a file of decoded pixels, band by band with bounded memory.
 * @param onProgress share that is done, 0–1
 */
export async function drawToFile(
  drawing: Drawing,
  raw: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  await layOutDrawing(drawing, raw);
  const bands = bandsOf(drawing.size);
  let next = 0;
  let done = 0;
  const lane = async () => {
    while (next < bands.length) {
      const band = bands[next++]!;
      await answer({ do: 'draw band', drawing, raw, band }, 'shapes', drawing.name, { signal });
      onProgress(++done / bands.length);
    }
  };
  await Promise.all([lane(), lane()]);
}
