import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { fromSamples } from '../raster/samples';
import { random } from '../testing';
import { patchOf, type Patch } from './patches';
import { smallDrawing } from './small-drawing';

const badge = (fill: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 96 96"><rect width="96" height="96" fill="#f4efe2"/><circle cx="48" cy="46" r="37" fill="${fill}"/><circle cx="48" cy="46" r="29" fill="#e9c46a"/><path d="M48 22l7 16 17 2-13 12 4 17-15-9-15 9 4-17-13-12 17-2z" fill="#264653"/><path d="M14 84q34-14 68 0" stroke="#264653" stroke-width="3" fill="none"/></svg>`;

async function patch(image: Sharp): Promise<Patch> {
  const { data, info } = await image.removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const raster = fromSamples(data, info.width, info.height, 3, 8);
  return patchOf(raster, { x: 0, y: 0, width: info.width, height: info.height });
}

const drawn = (side: number, fill = '#b5432f') =>
  patch(sharp(Buffer.from(badge(fill)), { density: (72 * side) / 96 }).resize(side, side));

/** Something photographed: tones that change everywhere, with noise. */
function photographed(side: number, grey: boolean): Promise<Patch> {
  const next = random(8);
  const pixels = Buffer.alloc(3 * side * side);
  for (let i = 0; i < side * side; i++) {
    const [x, y] = [i % side, Math.floor(i / side)];
    const light = 120 + 60 * Math.sin(x / 9 + y / 14) + 30 * Math.sin(x / 3) * Math.cos(y / 4);
    const noise = 12 * next();
    for (let c = 0; c < 3; c++)
      pixels[3 * i + c] = light + noise + (grey ? 0 : 9 * c * Math.sin(y / 7));
  }
  return patch(sharp(pixels, { raw: { width: side, height: side, channels: 3 } }));
}

describe('a small drawing', () => {
  it.each([40, 64, 96, 128, 200])(
    'of %i pixels is told by areas and their mixtures',
    async (side) => {
      const found = smallDrawing([await drawn(side)]);
      expect(found.drawn).toBe(true);
      // Its edges are mixtures: it was not made pixel by pixel.
      expect(found.byPixels).toBe(false);
    },
  );

  it('is told where it is all grey', async () => {
    expect(smallDrawing([await drawn(96, '#777777')]).drawn).toBe(true);
  });

  it.each([true, false])('is not a photograph of the same size (grey: %s)', async (grey) => {
    for (const side of [48, 96, 160]) {
      const found = smallDrawing([await photographed(side, grey)]);
      expect(found.drawn).toBe(false);
    }
  });

  it('is made pixel by pixel where it has few colours and no mixtures', async () => {
    const image = sharp(Buffer.from(badge('#b5432f')))
      .resize(32, 32)
      .png({ palette: true, colours: 16 });
    const found = smallDrawing([await patch(sharp(await image.toBuffer()))]);
    expect(found.byPixels).toBe(true);
    expect(found.colours).toBeLessThanOrEqual(16);
  });

  it('of many colours of a palette is no picture made pixel by pixel, where it is larger', async () => {
    const smooth = await drawn(128);
    // The nearest of five levels a channel, as a palette has them.
    const planes = smooth.raster.planes.map((plane) => plane.map((v) => Math.round(v * 4) / 4));
    const region = { x: 0, y: 0, width: 128, height: 128 };
    const found = smallDrawing([patchOf({ ...smooth.raster, planes }, region)]);
    expect(found.colours).toBeGreaterThan(16);
    expect(found.colours).toBeLessThanOrEqual(64);
    expect([found.byPixels, found.drawn]).toEqual([false, true]);
  });

  it('is told over all of its parts', async () => {
    const parts = [await drawn(96), await photographed(96, false), await photographed(96, true)];
    expect(smallDrawing(parts).drawn).toBe(false);
    expect(smallDrawing([parts[0]!, parts[0]!]).drawn).toBe(true);
  });
});
