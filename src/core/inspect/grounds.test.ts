import { describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { emptyRaster } from '../raster/raster';
import { memorySource, random } from '../testing';
import { measureGrounds, measureSpecks } from './grounds';
import { inspectPixels } from './inspect';
import { samplePicture } from './patches';

const size = { width: 256, height: 256 };

/** Strokes close together on cream, as lettering has them, in a field of their own; with specks of a level. */
function lettering(specks: number) {
  const next = random(9);
  const raster = emptyRaster(size.width, size.height, RGB);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++) {
      const field = y > 60 && y < 190;
      const stroke = field && x % 9 < 2 && y % 20 < 15;
      const speck = field && !stroke ? specks * gauss() : 0;
      [245, 235, 210].forEach((level, c) => {
        raster.planes[c]![i] = (stroke ? 20 : level + speck) / 255;
      });
    }
  return memorySource(raster);
}

async function specksOf(level: number): Promise<number> {
  const { patches } = await samplePicture(lettering(level));
  return measureSpecks(patches, measureGrounds(patches));
}

describe('specks around lettering', () => {
  it('are told by how far they go, and are none where there are none', async () => {
    expect(await specksOf(0)).toBeCloseTo(0, 3);
    for (const level of [2, 4, 7]) {
      const found = await specksOf(level);
      expect(found).toBeGreaterThan(0.7 * level);
      expect(found).toBeLessThan(1.3 * level);
    }
  });

  it('count as ripples of the picture, where edges leave no room to tell them along a line', async () => {
    const { findings } = await inspectPixels(lettering(5));
    expect(findings.kind).not.toBe('photograph');
    expect(findings.grounds).toHaveLength(1);
    expect(findings.ringing).toBeGreaterThan(3.5);
    const clean = await inspectPixels(lettering(0));
    expect(clean.findings.ringing).toBeLessThan(0.5);
  });

  it('are none without a ground', () => {
    expect(measureSpecks([], [])).toBe(0);
  });
});
