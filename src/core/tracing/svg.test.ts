import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { RGBA } from '../raster/form';
import { whole } from '../raster/region';
import { faded, ring } from '../testing/drawn';
import { pdfOf } from './pdf';
import { svgOf } from './svg';
import { trace } from './trace';
import { drawTraced, type TracedPart } from './traced';

const part: TracedPart = {
  ...{ source: { x: 0, y: 0, width: 72, height: 72 }, turn: 0, straighten: 0 },
  ...{ width: 360, height: 360 },
};

describe('a tracing as SVG', () => {
  it('looks like what is drawn, in a program of others', async () => {
    const tracing = trace(ring());
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
    const svg = svgOf(trace(ring()), part, 90, 'Ring & bar <1>');
    expect(svg).toContain('width="4.0000in" height="4.0000in"');
    expect(svg).toContain('<title>Ring &amp; bar &lt;1&gt;</title>');
  });

  it('leaves out what is transparent', () => {
    const raster = ring(RGBA);
    const svg = svgOf(trace(raster), part, 72, '');
    // The ring in two halves, or as many as the bar leaves of it, and the bar; no ground.
    expect(svg).not.toContain('#f5f0e0');
    expect(svg.match(/<path/g)!.length).toBeLessThan(6);
  });

  it('draws what fades as a gradient', () => {
    const raster = faded();
    const size = { ...part, source: { x: 0, y: 0, width: 120, height: 120 } };
    const svg = svgOf(trace(raster), size, 72, '');
    expect(svg).toContain('<linearGradient');
    // From left to right, as it changes.
    const [, x1, y1, x2, y2] = /x1="(\S+)" y1="(\S+)" x2="(\S+)" y2="(\S+)"/.exec(svg)!.map(Number);
    expect(x2! - x1!).toBeGreaterThan(300);
    expect(Math.abs(y2! - y1!)).toBeLessThan(1);
  });
});

describe('a tracing as PDF', () => {
  const objects = (pdf: string) => [...pdf.matchAll(/^(\d+) 0 obj$/gm)].map(({ index }) => index);

  it('tells where each of its objects begins, and how long its content is', () => {
    const pdf = pdfOf(trace(ring()), part, 90, 'Ring (1) é');
    const begin = Number(/startxref\n(\d+)\n/.exec(pdf)![1]);
    expect(pdf.slice(begin, begin + 4)).toBe('xref');
    const told = [...pdf.matchAll(/^(\d{10}) 00000 n $/gm)].map(([, at]) => Number(at));
    expect(told).toEqual(objects(pdf));
    const [, length] = /\/Length (\d+) >>\nstream\n/.exec(pdf)!;
    const content = pdf.slice(pdf.indexOf('stream\n') + 7, pdf.indexOf('endstream'));
    expect(content.length).toBe(Number(length));
    expect(content).toMatch(/^q\n0\.8/);
    // As large as its print, and by its name.
    expect(pdf).toContain('/MediaBox [0 0 288.0000 288.0000]');
    const [, title] = /\/Title <feff([0-9a-f]+)>/.exec(pdf)!;
    expect(Buffer.from(title!, 'hex').swap16().toString('utf16le')).toBe('Ring (1) é');
  });

  it('names what lets light through once, and gradients with their stops', () => {
    const size = { ...part, source: { x: 0, y: 0, width: 120, height: 120 } };
    const pdf = pdfOf(trace(faded()), size, 72, '');
    expect(pdf).toMatch(/\/Pattern cs \/P0 scn/);
    expect(pdf.match(/\/FunctionType 2/g)).toHaveLength(4);
    expect(pdf).toContain('/Bounds [0.25 0.5 0.75]');
  });
});
