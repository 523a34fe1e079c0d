import { describe, expect, it } from 'vitest';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import { pointSpread, type Spread } from '../steps/deblur/point-spread';
import { memorySource, random } from '../testing';
import { measureBlur } from './blur';
import { meanPower, powersOf } from './mean-power';
import { measureLocalBlur } from './local-blur';
import { samplePicture, type Sample } from './patches';

const size = { width: 320, height: 320 };

/** Grey discs of every size and tone laid over each other: subjects as photographs hold them (Lee, Mumford & Huang 2001). */
function leaves(seed: number): Float64Array {
  const next = random(seed);
  const plane = new Float64Array(size.width * size.height).fill(0.5);
  for (let i = 0; i < 2500; i++) {
    const radius = 2 / Math.sqrt(1 - next() * 0.9975);
    const [cx, cy, tone] = [next() * size.width, next() * size.height, next() * 0.8 + 0.1];
    for (let y = Math.max(0, Math.ceil(cy - radius)); y <= Math.min(319, cy + radius); y++)
      for (let x = Math.max(0, Math.ceil(cx - radius)); x <= Math.min(319, cx + radius); x++) {
        if ((x - cx) ** 2 + (y - cy) ** 2 <= radius * radius) plane[y * size.width + x] = tone;
      }
  }
  return plane;
}

function blurred(plane: Float64Array, spread: Spread): Float64Array {
  const { side, weights } = pointSpread(spread);
  const reach = (side - 1) / 2;
  return plane.map((_, i) => {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    let sum = 0;
    for (let v = -reach; v <= reach; v++)
      for (let u = -reach; u <= reach; u++) {
        const column = Math.min(319, Math.max(0, x + u));
        const row = Math.min(319, Math.max(0, y + v));
        sum += weights[(v + reach) * side + u + reach]! * plane[row * size.width + column]!;
      }
    return sum;
  });
}

/** A plane as it is written, with noise of a level. */
async function sampled(plane: Float64Array, noise: number, seed: number): Promise<Sample> {
  const next = random(seed);
  const raster: Raster = emptyRaster(size.width, size.height, RGB);
  plane.forEach((value, i) => {
    const off = (next() + next() + next() - 1.5) * 2 * noise;
    const level = Math.round(value * 255 + off) / 255;
    for (const one of raster.planes) one[i] = level;
  });
  return samplePicture(memorySource(raster));
}

async function blurOf(plane: Float64Array, noise = 1, seed = 5) {
  const { patches } = await sampled(plane, noise, seed);
  const power = meanPower(powersOf(patches));
  return power && measureBlur(power, noise);
}

describe('blur', () => {
  const subject = leaves(7);

  it.each([0.8, 1.2, 1.8, 2.5])(
    'of a Gaussian of %d px is found within a fifth',
    async (radius) => {
      // The discs' own hard rims are sharper than a lens: what is taken off for that is missing here.
      const { sigma, motion } = (await blurOf(blurred(subject, { form: 'gaussian', radius })))!;
      expect(sigma).toBeGreaterThan(0.8 * radius);
      expect(sigma).toBeLessThan(1.2 * radius);
      expect(motion).toBeNull();
    },
  );

  it('is none in a sharp picture', async () => {
    const { sigma, width } = (await blurOf(subject, 0.3))!;
    expect(sigma).toBeLessThan(0.3);
    expect(width).toBeLessThan(2);
  });

  it.each([0, 35, 90])('by motion is told with its direction of %d°', async (angle) => {
    const { motion } = (await blurOf(blurred(subject, { form: 'motion', length: 8, angle })))!;
    const off = Math.abs((((motion!.angle - angle) % 180) + 270) % 180) - 90;
    expect(Math.abs(off)).toBeLessThan(15);
    expect(motion!.length).toBeGreaterThan(5);
    expect(motion!.length).toBeLessThan(11);
  });

  it.each([2.5, 4])('of a lens out of focus is told as a disc of %d px', async (radius) => {
    const { disc, motion } = (await blurOf(blurred(subject, { form: 'disc', radius })))!;
    expect(Math.abs(disc!.radius / radius - 1)).toBeLessThan(0.1);
    expect(motion).toBeNull();
  });

  it.each([0.5, 1.5, 3])('of a Gaussian of %d px is no disc', async (radius) => {
    expect(await blurOf(blurred(subject, { form: 'gaussian', radius }))).toMatchObject({
      disc: null,
    });
  });

  it('can’t be told where nothing stands out', async () => {
    expect(await blurOf(new Float64Array(size.width * size.height).fill(0.4))).toBeNull();
  });
});

describe('where it is soft', () => {
  const subject = leaves(11);
  const soft = blurred(subject, { form: 'gaussian', radius: 2 });
  const local = async (plane: Float64Array) => {
    const sample = await sampled(plane, 0.5, 3);
    return measureLocalBlur(powersOf(sample.patches), sample, 0.5);
  };

  it('is told by the sharpest and the softest part', async () => {
    const right = await local(subject.map((v, i) => (i % size.width < 200 ? v : soft[i]!)));
    expect(right!.sharpest.part).toMatch(/left|^top$|^middle$|^bottom$/);
    expect(right!.softest.part).toMatch(/right/);
    expect(right!.softest.width - right!.sharpest.width).toBeGreaterThan(2);
    const above = await local(subject.map((v, i) => (i < 120 * size.width ? soft[i]! : v)));
    expect(above!.softest.part).toMatch(/top|upper/);
  });

  it('is nowhere in a picture that is alike all over', async () => {
    expect(await local(subject)).toBeNull();
    expect(await local(soft)).toBeNull();
    expect(await local(new Float64Array(size.width * size.height).fill(0.3))).toBeNull();
  });
});
