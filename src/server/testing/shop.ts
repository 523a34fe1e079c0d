import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import sharp from 'sharp';
import { database } from '../db/connection';

/** An empty shop in a folder of its own, for one test file. */
export interface TestShop {
  folder: string;
  db: Knex;
  close(): Promise<void>;
}

export async function openTestShop(): Promise<TestShop> {
  const folder = await mkdtemp(join(tmpdir(), 'lontano-test-'));
  process.env.LONTANO_DATA = folder;
  const db = await database();
  return {
    folder,
    db,
    close: async () => {
      await db.destroy();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** A made-up photograph-like picture, encoded. */
export async function testJpeg(width = 96, height = 64, quality = 40): Promise<Buffer> {
  return testPixels(width, height).jpeg({ quality }).toBuffer();
}

/** Smooth colour with an edge and a little texture, as a sharp pipeline. */
export function testPixels(width: number, height: number) {
  const pixels = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      const edge = x > width / 2 ? 60 : 0;
      pixels[at] = (x * 160) / width + edge;
      pixels[at + 1] = (y * 180) / height + ((x * 7 + y * 13) % 9);
      pixels[at + 2] = 120 + ((x * y) % 11);
    }
  return sharp(pixels, { raw: { width, height, channels: 3 } });
}

/** Bytes as the body of an upload. */
export const streamOf = (bytes: Uint8Array): ReadableStream<Uint8Array> =>
  new Blob([new Uint8Array(bytes)]).stream();
