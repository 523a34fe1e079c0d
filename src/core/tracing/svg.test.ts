import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { RGB, RGBA } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { whole } from '../raster/region';
import { svgOf } from './svg';
import { trace } from './trace';
import { drawTraced, type TracedPart } from './traced';

/** A ring on a ground with a bar across its middle, soft at its edges. */
function drawing(form = RGB): Raster {
  const side = 72;
  const raster = emptyRaster(side, side, form);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++)
      for (let k = 0; k < 16; k++) {
        const u = x + ((k % 4) + 0.5) / 4 - 36;
        const v = y + ((k >> 2) + 0.5) / 4 - 36;
        const far = Math.hypot(u, v);
        const bar = Math.abs(v) < 6 && Math.abs(u) < 30;
        const ring = far > 16 && far < 27;
        const colour = bar ? [0.8, 0.2, 0.1] : ring ? [0.1, 0.25, 0.5] : [0.96, 0.94, 0.88];
        colour.forEach((value, c) => (raster.planes[c]![y * side + x]! += value / 16));
        if (form.alpha && (bar || ring)) raster.planes[3]![y * side + x]! += 1 / 16;
      }
  return raster;
}

const part: TracedPart = {
  ...{ source: { x: 0, y: 0, width: 72, height: 72 }, turn: 0, straighten: 0 },
  ...{ width: 360, height: 360 },
};

describe('a tracing as SVG', () => {
  it('looks like what is drawn, in a program of others', async () => {
    const tracing = trace(drawing());
    const svg = svgOf(tracing, part, 72, 'A ring');
    const { data, info } = await sharp(Buffer.from(svg))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([360, 360]);
    const own = drawTraced(tracing, part, whole(part));
    let off = 0;
    own.planes.forEach((plane, c) =>
      plane.forEach((value, i) => (off += Math.abs(255 * value - data[3 * i + c]!))),
    );
    expect(off / data.length).toBeLessThan(1);
  });

  it('is as large as its print, and says what it is', () => {
    const svg = svgOf(trace(drawing()), part, 90, 'Ring & bar <1>');
    expect(svg).toContain('width="4.0000in" height="4.0000in"');
    expect(svg).toContain('<title>Ring &amp; bar &lt;1&gt;</title>');
  });

  it('leaves out what is transparent', () => {
    const raster = drawing(RGBA);
    const svg = svgOf(trace(raster), part, 72, '');
    // The ring in two halves, or as many as the bar leaves of it, and the bar; no ground.
    expect(svg).not.toContain('#f5f0e0');
    expect(svg.match(/<path/g)!.length).toBeLessThan(6);
  });

  it('draws what fades as a gradient', () => {
    const raster = emptyRaster(120, 120, RGB);
    raster.planes.forEach((plane, c) =>
      plane.forEach((_, i) => (plane[i] = 0.2 + (0.6 * (i % 120)) / 120 + 0.1 * c)),
    );
    const size = { ...part, source: { x: 0, y: 0, width: 120, height: 120 } };
    const svg = svgOf(trace(raster), size, 72, '');
    expect(svg).toContain('<linearGradient');
    // From left to right, as it changes.
    const [, x1, y1, x2, y2] = /x1="(\S+)" y1="(\S+)" x2="(\S+)" y2="(\S+)"/.exec(svg)!.map(Number);
    expect(x2! - x1!).toBeGreaterThan(300);
    expect(Math.abs(y2! - y1!)).toBeLessThan(1);
  });
});
