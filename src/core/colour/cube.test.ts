import { describe, expect, it } from 'vitest';
import { RGB, RGBA } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { toSamples } from '../raster/samples';
import { random } from '../testing';
import { formOf } from './form';
import { inkCube, NODES, throughCube } from './cube';

/** Inks by a function of colours. */
const by =
  (inks: (r: number, g: number, b: number) => number[]) =>
  (raster: Raster): Raster => {
    const result = emptyRaster(raster.width, raster.height, formOf('cmyk', false));
    const [r, g, b] = raster.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < r.length; i++) {
      inks(r[i]!, g[i]!, b[i]!).forEach((ink, c) => (result.planes[c]![i] = ink));
    }
    return result;
  };

const curved = by((r, g, b) => [1 - r * r, Math.sin(g * 1.5), r * g * b, (1 - b) ** 3]);

function colours(count: number, form = RGB, seed = 5): Raster {
  const next = random(seed);
  const raster = emptyRaster(count, 1, form);
  for (const plane of raster.planes) for (let i = 0; i < count; i++) plane[i] = next() * 1.1 - 0.05;
  return raster;
}

/** Tetrahedral interpolation in double precision, as it is written down. */
function reference(cube: Float32Array, colour: number[]): number[] {
  const at = colour.map((v) => Math.min(1, Math.max(0, v)) * (NODES - 1));
  const node = at.map((v) => Math.min(NODES - 2, Math.floor(v)));
  const along = at.map((v, i) => ({ i, f: v - node[i]! })).sort((a, b) => b.f - a.f);
  const corner = [...node];
  const value = (n: number[], c: number) =>
    cube[4 * ((n[0]! * NODES + n[1]!) * NODES + n[2]!) + c]!;
  const result = [0, 1, 2, 3].map((c) => (1 - along[0]!.f) * value(corner, c));
  along.forEach(({ i, f }, k) => {
    corner[i]!++;
    for (let c = 0; c < 4; c++) result[c]! += (f - (along[k + 1]?.f ?? 0)) * value(corner, c);
  });
  return result;
}

describe('a cube of inks', () => {
  const cube = inkCube(curved);

  it('is what it was made of at its nodes, and straight between them', () => {
    const nodes = emptyRaster(NODES, 1, RGB);
    nodes.planes.forEach((plane, c) => {
      for (let i = 0; i < NODES; i++) plane[i] = ((i * (c + 3)) % NODES) / (NODES - 1);
    });
    const [wanted, found] = [curved(nodes), throughCube(nodes, cube)];
    found.planes.forEach((plane, c) =>
      plane.forEach((ink, i) => expect(ink).toBeCloseTo(wanted.planes[c]![i]!, 5)),
    );
    const straight = inkCube(by((r, g, b) => [r, (g + b) / 2, 1 - b, 0.3 * r + 0.7 * g]));
    const some = colours(500);
    const mixed = throughCube(some, straight);
    for (let i = 0; i < 500; i++) {
      const [r, g, b] = some.planes.map((p) => Math.min(1, Math.max(0, p[i]!)));
      expect(mixed.planes[1]![i]).toBeCloseTo((g! + b!) / 2, 5);
      expect(mixed.planes[3]![i]).toBeCloseTo(0.3 * r! + 0.7 * g!, 5);
    }
  });

  it('goes by the tetrahedron that a colour lies in, to the last bits of a float', () => {
    const some = colours(2000);
    const { planes } = throughCube(some, cube);
    for (let i = 0; i < 2000; i++) {
      const wanted = reference(
        cube,
        some.planes.map((plane) => plane[i]!),
      );
      wanted.forEach((ink, c) => expect(Math.abs(planes[c]![i]! - ink)).toBeLessThan(3e-6));
    }
  });

  it('gives a pixel the same inks however many there are, and keeps alpha', () => {
    const many = colours(70_001, RGBA);
    const whole = throughCube(many, cube);
    expect(whole.form).toEqual({ colours: 4, alpha: true, space: 'device cmyk' });
    expect(whole.planes[4]).toEqual(many.planes[3]);
    for (const start of [0, 65_530, 69_990]) {
      const part = {
        ...{ width: 11, height: 1, form: many.form },
        planes: many.planes.map((plane) => plane.slice(start, start + 11)),
      };
      throughCube(part, cube).planes.forEach((plane, c) =>
        expect(plane).toEqual(whole.planes[c]!.slice(start, start + 11)),
      );
    }
  });

  it('refuses what has other colours', () => {
    const grey = emptyRaster(2, 2, { colours: 1, alpha: false, space: 'encoded' });
    expect(() => throughCube(grey, cube)).toThrow(/1 planes where 3/);
  });
});

describe('four planes', () => {
  it('are rounded to bytes one after the other', () => {
    const some = throughCube(colours(1003), inkCube(curved));
    const bytes = toSamples(some, 8);
    expect(bytes).toHaveLength(4 * 1003);
    for (let i = 0; i < 1003; i++) {
      for (let c = 0; c < 4; c++) {
        const exact = Math.min(1, Math.max(0, some.planes[c]![i]!)) * 255;
        expect(Math.abs(bytes[4 * i + c]! - exact)).toBeLessThanOrEqual(0.5 + 1e-4);
      }
    }
  });
});
