import { expect, it } from 'vitest';
import { whole } from '@/core/raster/region';
import { faded, ring } from '@/core/testing/drawn';
import { pdfOf } from '@/core/tracing/pdf';
import { trace } from '@/core/tracing/trace';
import { drawTraced, type TracedPart } from '@/core/tracing/traced';
import { openPdf } from './pdf';

const side = (pixels: number): TracedPart => ({
  ...{ source: { x: 0, y: 0, width: pixels, height: pixels }, turn: 0, straighten: 0 },
  ...{ width: 360, height: 360 },
});

it.each([
  ['areas', ring(), 1.6],
  ['a gradient', faded(), 2.5],
])(
  'a traced drawing of %s looks the same, drawn from its PDF by a program of others',
  async (_, drawing, most) => {
    const part = side(drawing.width);
    const tracing = trace(drawing);
    const pdf = await openPdf(Buffer.from(pdfOf(tracing, part, 72, 'A ring')), 'ring.pdf');
    try {
      expect(pdf.page(1).size).toEqual({ width: 360, height: 360 });
      const data = await pdf.draw(1, whole(part), part);
      let off = 0;
      drawTraced(tracing, part, whole(part)).planes.forEach((plane, c) =>
        plane.forEach((value, i) => (off += Math.abs(255 * value - data[4 * i + c]!))),
      );
      expect(off / (3 * 360 * 360)).toBeLessThan(most);
    } finally {
      pdf.close();
    }
  },
);
