import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LIMITS, LONGER_MEMORY, SHORT_AT_ONCE } from '../sandbox/limits';
import {
  filteredSvg,
  inflatingPdf,
  nestedPdf,
  picturesPdf,
  selfDrawingPdf,
  svgAroundPng,
} from '../testing/hostile';
import { buildPdf } from '../testing/pdf';
import { testJpeg } from '../testing/shop';
import { decodePicture, endPictureProcesses } from './pictures';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-pictures-'));
});
afterAll(async () => {
  endPictureProcesses();
  await rm(folder, { recursive: true, force: true });
});

async function decode(name: string, bytes: Uint8Array) {
  const file = join(folder, name);
  await writeFile(file, bytes);
  return decodePicture({ file, name, page: 1, raw: `${file}.raw`, thumbnail: null });
}

const pdf = () => buildPdf([{ width: 200, height: 100, content: '1 0 0 rg 20 20 60 60 re f' }]);

/** Processes that this one started, with what they hold in memory, in bytes. */
function processes(): { pid: number; memory: number }[] {
  const lines = execFileSync('ps', ['-eo', 'pid=,ppid=,rss=,args='], { encoding: 'utf8' });
  return lines
    .split('\n')
    .map((line) => /^\s*(\d+)\s+(\d+)\s+(\d+)\s+(.*)$/.exec(line))
    .filter((found) => Number(found?.[2]) === process.pid && /picture-process/.test(found![4]!))
    .map((found) => ({ pid: Number(found![1]), memory: Number(found![3]) * 1024 }));
}

describe('files that would hang a decoder or fill its memory', () => {
  it('cost their own refusal: good ones are read meanwhile, memory stays bounded, nothing is left at work', async () => {
    const hostile: [string, Uint8Array, RegExp][] = [
      ['filter.svg', filteredSvg(), /filter\.svg takes too long to be read/],
      ['around.svg', svgAroundPng(20_000), /around\.svg needs more memory/],
      ['self.pdf', selfDrawingPdf(), /self\.pdf (needs more memory|can't be read)/],
      ['nested.pdf', nestedPdf(), /nested\.pdf (needs more memory|takes too long)/],
      ['inflate.pdf', inflatingPdf(400), /inflate\.pdf (needs more memory|takes too long)/],
      ['pictures.pdf', await picturesPdf(400), /pictures\.pdf (needs more memory|takes too long)/],
    ];
    let most = 0;
    const looking = setInterval(() => {
      most = Math.max(
        most,
        processes().reduce((sum, { memory }) => sum + memory, 0),
      );
    }, 100);
    let over = false;
    let refused = 0;
    const refusals = Promise.all(
      hostile.map(([name, bytes]) =>
        decode(name, bytes)
          .then(
            () => 'taken',
            (error: Error & { kind: string }) => `${error.kind}: ${error.message}`,
          )
          .finally(() => refused++),
      ),
    ).finally(() => (over = true));
    let refusedBefore: number | null = null;
    while (!over) {
      const [picture, drawing] = await Promise.all([
        decode('good.jpg', await testJpeg()),
        decode('good.pdf', pdf()),
      ]);
      expect(picture.findings).toMatchObject({ width: 96, height: 64 });
      expect(drawing.findings.vector).toMatchObject({ widthPt: 200, heightPt: 100 });
      refusedBefore ??= refused;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
    clearInterval(looking);
    for (const [i, words] of (await refusals).entries()) {
      expect(words).toMatch(hostile[i]![2]);
      expect(words).toMatch(/^input: /);
    }
    // Good ones waited for short turns alone, however busy the machine is.
    expect(refusedBefore).toBeLessThan(hostile.length / 2);
    // A process is looked at every few hundredths of a second: it may pass its limit by what it takes meanwhile.
    const bound = SHORT_AT_ONCE * LIMITS.pixels.short.memory + LONGER_MEMORY;
    expect(most).toBeGreaterThan(LIMITS.shapes.long.memory);
    expect(most).toBeLessThan(bound * 1.1);
    endPictureProcesses();
    await expect.poll(() => processes().length, { timeout: 5000 }).toBe(0);
  }, 400_000);
});

describe('a process of pictures', () => {
  it('that somebody ends costs no picture', async () => {
    const jpeg = await testJpeg(2400, 1800);
    const reading = decode('killed.jpg', jpeg);
    await expect.poll(() => processes().length, { timeout: 20_000 }).toBeGreaterThan(0);
    await new Promise((resolve) => setTimeout(resolve, 60));
    for (const { pid } of processes()) process.kill(pid, 'SIGKILL');
    expect((await reading).findings.width).toBe(2400);
  });

  it('is given up with all that waits for it, and nothing is begun again', async () => {
    const jpeg = await testJpeg(1200, 900);
    const readings = Array.from({ length: 12 }, (_, i) => decode(`given-up-${i}.jpg`, jpeg));
    const outcomes = Promise.allSettled(readings);
    await Promise.race(readings);
    endPictureProcesses();
    const given = (await outcomes).filter(({ status }) => status === 'rejected');
    // What was at work, and what waited.
    expect(given.length).toBeGreaterThan(2);
    for (const outcome of given) expect(outcome).toMatchObject({ reason: { kind: 'work' } });
    await expect.poll(() => processes().length, { timeout: 5000 }).toBe(0);
  }, 120_000);
});
