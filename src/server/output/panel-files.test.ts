import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import sharp from 'sharp';
import yauzl from 'yauzl';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Format } from '@/core/output/formats';
import { usualOutput } from '@/core/output/output';
import { layOutPanels } from '@/core/output/panels';
import { panels, target, writtenPanels } from '../testing/panels';
import { readPdf } from './pdf-read';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-panels-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const laid = layOutPanels(target, panels);
if (!laid.ok) throw new Error(laid.reason);

const written = (format: Format) =>
  writtenPanels(folder, { ...usualOutput(format, 8), panels: { ...panels, as: 'files' } });

/** What an archive holds, by name. */
async function filesIn(path: string): Promise<Map<string, Buffer>> {
  const zip = await yauzl.openPromise(path, { lazyEntries: true });
  const files = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) {
    files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  }
  return files;
}

describe('panels as files of their own', () => {
  it('are each the print’s own pixels at its size, beside a drawing of how they are joined', async () => {
    const { writer, path, sums } = await written('tiff');
    const { found, complaints } = await writer.verify(sums, () => {});
    expect(complaints).toEqual([]);
    expect(found).toMatchObject({ width: 900, height: 600 });
    const files = await filesIn(path);
    expect([...files.keys()]).toEqual([
      ...laid.panels.map(({ name }) => `panel-${name}-of-6.tif`),
      'assembly.pdf',
    ]);
    for (const { name, region } of laid.panels) {
      const picture = sharp(files.get(`panel-${name}-of-6.tif`)!);
      const { width, height, density } = await picture.metadata();
      expect({ width, height, density }).toEqual({
        ...{ width: region.width, height: region.height, density: 254 },
      });
      const pixels = await picture.raw().toBuffer();
      for (const [x, y] of [
        [0, 0],
        [region.width - 1, region.height - 1],
      ] as const) {
        const at = (y * region.width + x) * 3;
        expect([pixels[at], pixels[at + 1]]).toEqual([
          Math.floor((region.x + x) / 4),
          Math.floor((region.y + y) / 3),
        ]);
      }
    }
    const drawing = join(folder, 'assembly.pdf');
    await writeFile(drawing, files.get('assembly.pdf')!);
    expect(files.get('assembly.pdf')!.subarray(0, 5).toString()).toBe('%PDF-');
    await writer.clear();
    expect((await readdir(folder)).filter((name) => name.startsWith('panels'))).toEqual([]);
  });

  it.each(['png', 'jpeg', 'pdf'] as const)('are written as %s as well', async (format) => {
    const { writer, path, sums } = await written(format);
    expect((await writer.verify(sums, () => {})).complaints).toEqual([]);
    const files = await filesIn(path);
    expect(files.size).toBe(7);
    if (format === 'pdf') {
      const one = join(folder, 'one.pdf');
      await writeFile(one, files.get('panel-B3-of-6.pdf')!);
      const { width, pages } = readPdf(one);
      expect({ width, pages }).toEqual({ width: laid.panels[5]!.region.width, pages: 1 });
    }
    await writer.clear();
  });

  it('are the same bytes each time', async () => {
    const digest = async () => {
      const { writer, path } = await written('tiff');
      const bytes = await readFile(path);
      await writer.clear();
      return createHash('sha256').update(bytes).digest('hex');
    };
    expect(await digest()).toBe(await digest());
  });

  it('are told from an archive that holds something else', async () => {
    const { writer, path, sums } = await written('tiff');
    const bytes = await readFile(path);
    bytes[5000]! ^= 1;
    await writeFile(path, bytes);
    await expect(
      writer
        .verify(sums, () => {})
        .then(({ complaints }) => {
          if (complaints.length > 0) throw new Error(complaints.join(' '));
        }),
    ).rejects.toThrow(/is not what was written|invalid|CRC/i);
    await writer.clear();
  });
});
