import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Metadata } from 'sharp';
import { formatBytes } from '@/core/measure/format';
import { config } from '../config';
import { Problem } from '../problem';
import { LIMITS, turnFor, type Limits } from '../sandbox/limits';
import { NeedsTurn, type DecodeTask } from './decoded';
import type { InputFormat } from './format';

/** Longest side that is taken in; JPEG's own limit, and enough for any scan. */
const SIDE_LIMIT = 65_535;

/** @throws Problem where a file promises more pixels than are taken in */
export function refuseTooLarge(
  { width, height, isProgressive }: Metadata,
  format: InputFormat,
  { name, mostPixels = Infinity }: Pick<DecodeTask, 'name' | 'mostPixels'>,
): void {
  const most = Math.min(mostPixels, config().picturePixels);
  const held = heldWhole(format, Boolean(isProgressive));
  const limit = Math.min(most, held === 0 ? most : WHOLE_MEMORY / held);
  if (width * height <= limit && Math.max(width, height) <= SIDE_LIMIT) return;
  const whole = limit < most;
  const what = whole ? 'more than is taken in of such a file' : 'more than is taken in';
  const instead = whole ? 'Ask for a TIFF of it, or for' : 'Ask for a smaller file or';
  throw new Problem(
    'input',
    `${name} says it is ${width} x ${height} pixels, ${what} (${Math.floor(limit / 1e6)} megapixels). ${instead} a part of it.`,
  );
}

/** What a process takes that decodes row by row, in bytes. */
const BASE_MEMORY = 130e6;
/** Memory for a file that its decoder can only hold all at once. */
const WHOLE_MEMORY = LIMITS.pixels.heavy.memory - BASE_MEMORY;

/**
 * Bytes a pixel that a decoder holds at once, as measured; 0 where it comes row by row. (Coefficients of a
 * progressive JPEG are 16 bits each.)
 */
function heldWhole(format: InputFormat, progressive: boolean): number {
  if (format === 'avif') return 20;
  if (format === 'webp') return 11;
  if (format === 'gif') return 7;
  if (!progressive) return 0;
  return format === 'png' ? 7 : 7.6;
}

/** Milliseconds of CPU a megapixel, three times what a slow format took on a slow machine. */
const CPU_MS: Partial<Record<InputFormat, number>> = { avif: 600, webp: 300 };
const USUAL_CPU_MS = 60;

/** @throws NeedsTurn where a file needs more than it is given now */
export function refuseUnlessGiven(
  { width, height, isProgressive }: Metadata,
  format: InputFormat,
  limits: Limits | undefined,
): void {
  if (!limits) return;
  const megapixels = (width * height) / 1e6;
  const needs = {
    memory: BASE_MEMORY + megapixels * 1e6 * heldWhole(format, Boolean(isProgressive)),
    cpu: megapixels * (CPU_MS[format] ?? USUAL_CPU_MS),
  };
  if (needs.memory <= limits.memory && needs.cpu <= limits.cpu) return;
  throw new NeedsTurn(turnFor('pixels', needs) ?? 'heavy');
}

/** Disk that is left alone, in bytes. */
const SPARED = 500e6;

/**
 * A small file can hold many pixels; decoded they must find room on the disk.
 * @throws Problem where they don't
 */
export async function refuseWithoutRoom(
  { width, height, hasAlpha }: Metadata,
  depth: 8 | 16,
  { raw, name }: DecodeTask,
): Promise<void> {
  const needed = (width * height * (hasAlpha ? 4 : 3) * depth) / 8;
  const { bavail, bsize } = await statfs(dirname(raw));
  if (needed + SPARED <= bavail * bsize) return;
  throw new Problem(
    'full',
    `${name} needs ${formatBytes(needed)} on disk to be worked on. ${formatBytes(bavail * bsize)} are free, of which ${formatBytes(SPARED)} are kept back for the shop's records. Nothing was kept; free some space and take it in again.`,
  );
}

/** @throws Problem where samples are of a kind that is not read: all but 8 or 16 bits without a sign, and light as floats */
export function refuseSamples({ depth, space }: Metadata, name: string): void {
  if (depth === 'uchar' || depth === 'ushort') return;
  if (depth === 'float' && space === 'scrgb') return;
  throw new Problem(
    'input',
    `${name} holds its samples as ${SAMPLES[depth ?? ''] ?? depth}, which is not read. Ask for it with 8 or 16 bits a channel.`,
  );
}

const SAMPLES: Record<string, string> = {
  char: 'numbers of 8 bits with a sign',
  short: 'numbers of 16 bits with a sign',
  uint: 'numbers of 32 bits',
  int: 'numbers of 32 bits with a sign',
  float: 'floating-point numbers without colours of their own',
  double: 'floating-point numbers of 64 bits',
};
