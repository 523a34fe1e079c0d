import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { z } from 'zod';
import { sidesOf, typedPaper } from '@/core/measure/typed';
import { OPEN_PAPER, type Paper } from '@/core/measure/paper';
import { bareName } from '@/core/output/names';
import type { Size } from '@/core/raster/region';
import type { Sheet } from '@/core/shop/lists';
import { Problem } from '../problem';

/** What a customer's list says of one file; what it leaves open is as the folder has it. */
const Written = z.object({
  title: z.string().trim().max(120).optional(),
  customer: z.string().trim().max(120).optional(),
  /** as it would be typed: 90x60, 60 cm, A2 */
  size: z.string().trim().max(80).optional(),
  material: z.string().trim().max(60).optional(),
  device: z.string().trim().max(60).optional(),
  due: z.union([z.literal(''), z.iso.date()]).optional(),
  note: z.string().trim().max(1000).optional(),
});
export type Written = z.infer<typeof Written>;

/** What lists say of files, by name; or what is wrong with that. */
export type Orders = Map<string, Written | { wrong: string }>;

/** Files that say what is ordered, rather than being ordered. */
export const isOrder = (name: string): boolean => /\.(csv|json)$/i.test(name);

/** Longer lists are none. */
const LIST_BYTES = 4e6;

/**
 * Reads a list of orders that lies among pictures: a CSV whose first line names its columns, one of them “file”; or JSON of
 * one order beside the picture whose name it has, or of many by file.
 * @returns by the name of each file: what is ordered, or what is wrong with that
 * @throws Problem where it can't be read at all
 */
export async function readOrders(folder: string, name: string): Promise<Orders> {
  const path = join(folder, name);
  if ((await stat(path)).size > LIST_BYTES) {
    throw new Problem('input', `${name} is too large for a list of orders.`);
  }
  const text = await readFile(path, 'utf8');
  const found = /\.csv$/i.test(name) ? linesOf(name, text) : entriesOf(name, text);
  return new Map(
    found.map(([file, written]): [string, Written | { wrong: string }] => {
      const read = Written.safeParse(written);
      if (read.success) return [file, read.data];
      const [issue] = read.error.issues;
      return [file, { wrong: `${name}: ${issue!.path.join('.')}: ${issue!.message}` }];
    }),
  );
}

function linesOf(name: string, text: string): [string, unknown][] {
  let lines: Record<string, string>[];
  try {
    lines = parse(text, {
      columns: (names: string[]) => names.map((column) => column.trim().toLowerCase()),
      ...{ bom: true, trim: true, skip_empty_lines: true, delimiter: [',', ';', '\t'] },
    });
  } catch (error) {
    throw new Problem('input', `${name} is no CSV that can be read: ${(error as Error).message}`);
  }
  if (lines.some(({ file }) => !file)) {
    throw new Problem('input', `${name} has no column “file”, or a line without one.`);
  }
  return lines.map(({ file, ...written }) => [file!, written]);
}

function entriesOf(name: string, text: string): [string, unknown][] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Problem('input', `${name} is no JSON that can be read.`);
  }
  const many = z.array(z.looseObject({ file: z.string().min(1) })).safeParse(value);
  if (many.success) return many.data.map(({ file, ...written }) => [file, written]);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new Problem('input', `${name} says nothing of an order.`);
  }
  // photo.jpg.json or photo.json, beside photo.jpg.
  return [[name.replace(/\.json$/i, ''), value]];
}

/** What a list says of a file, by its whole name or by that without its ending. @throws Problem that says what is wrong */
export function orderFor(orders: Orders, name: string): Written {
  const found = orders.get(name) ?? orders.get(bareName(name)) ?? {};
  if ('wrong' in found) throw new Problem('input', found.wrong);
  return found;
}

/** The paper that a list orders; null where it says nothing of that. @throws Problem that says what is wrong */
export function paperOrdered(
  { size = '' }: Written,
  picture: Size,
  sheets: readonly Sheet[],
): Paper | null {
  if (size === '') return null;
  const typed = typedPaper(size, 'cm', sheets);
  if (!typed.ok) throw new Problem('input', `Its size “${size}” can't be used. ${typed.why}`);
  return { ...OPEN_PAPER, ...sidesOf(typed.value, picture) };
}
