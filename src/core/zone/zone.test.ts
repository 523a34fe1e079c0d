import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { emptyRaster, type Raster } from '../raster/raster';
import { whole, type Region, type Size } from '../raster/region';
import { memorySource, testPicture } from '../testing';
import { Stroke } from './brush';
import { emptyMask, maskBytes, maskFromBytes, type Mask } from './mask';
import { partReach, partValues } from './parts';
import { zoneInput, zoneValues } from './render-zone';
import {
  elsewhere,
  joinedFrom,
  mapOf,
  MASK_LIMIT,
  maskSize,
  mayJoin,
  newPart,
  paintedIn,
  Zone,
  ZoneMap,
  zonePart,
  type ComputedKind,
  type ComputedPart,
  type Found,
} from './zone';
import { RGB } from '../raster/form';

const size: Size = { width: 73, height: 54 };
const picture = testPicture(size);
const KINDS = Object.keys(newPart) as ComputedKind[];
const NOTHING_FOUND: Found = { size, faces: [] };
const ONE_FACE: Found = { size, faces: [{ x: 20, y: 10, width: 30, height: 36, sure: 0.9 }] };
/** A zone as a work keeps it. */
const kept = (named: Partial<Zone>): Zone => ({
  ...{ id: 'z', name: 'Sky', parts: [], painted: null, feather: 0, inverted: false },
  ...named,
});
/** A part of each kind, with a face to be found. */
const everyKind = mapOf(kept({ parts: KINDS.map((kind) => newPart[kind]()) }), [], ONE_FACE);

const zoneOf = (named: Partial<ZoneMap>): ZoneMap => ({
  parts: [],
  painted: null,
  feather: 0,
  inverted: false,
  ...named,
});

const valuesOf = (plain: ZoneMap, mask?: Mask, of: Raster = picture): Float32Array => {
  const zone = mask && paintedIn(plain).length === 0 ? { ...plain, painted } : plain;
  const sides = { width: of.width, height: of.height };
  const masks = masksOf(zone, mask);
  return zoneValues(zone, { region: whole(sides), raster: of }, whole(sides), sides, masks)
    .planes[0]!;
};

/** What was painted for a zone, wherever it names it. */
const masksOf = (zone: ZoneMap, mask?: Mask): Map<string, Mask> =>
  new Map(mask ? paintedIn(zone).map(({ digest }) => [digest, mask]) : []);

/** A picture that is one thing at the left and another at the right. */
function halves(left: [number, number, number], right: [number, number, number]): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      plane[i] = (i % size.width < size.width / 2 ? left : right)[c]! / 255;
  });
  return raster;
}

/** Values well within the left and the right half. */
function sides(part: ComputedPart, of: Raster): [number, number] {
  const values = partValues(part, { region: whole(size), raster: of }, whole(size), size);
  const row = 25 * size.width;
  return [values[row + 12]!, values[row + 60]!];
}

/** What a mask is named here. */
const painted = { digest: 'a', width: 1, height: 1 };
const joinedPart = { kind: 'map', joining: 'add', inverted: false };

/** Another zone, feathered and painted on, as a part that is taken away. */
const joinedMap = {
  ...{ kind: 'map' as const, joining: 'take away' as const, inverted: true },
  map: zoneOf({ parts: [newPart.edges()], painted, feather: 1.5 }),
};

describe('zones that are joined', () => {
  const zones: Zone[] = [
    { ...zoneOf({ inverted: true }), id: 'sky', name: 'Sky', parts: [newPart.round()] },
    { ...zoneOf({}), id: 'sea', name: 'Sea', parts: [newPart.linear()] },
    { ...zoneOf({}), id: 'both', name: 'Both', parts: [zonePart('sky'), zonePart('sea')] },
  ];
  const map = (id: string, list = zones) =>
    mapOf(
      list.find((zone) => zone.id === id)!,
      list,
      NOTHING_FOUND,
    );

  it('are the most that either is', () => {
    const [sky, sea, both] = ['sky', 'sea', 'both'].map((id) => valuesOf(map(id)));
    both!.forEach((value, i) => expect(value).toBe(Math.max(sky![i]!, sea![i]!)));
  });

  it('may be all that a zone is not', () => {
    const inside = valuesOf(map('both'));
    valuesOf(elsewhere(map('both'))).forEach((value, i) =>
      expect(value).toBeCloseTo(1 - inside[i]!, 6),
    );
  });

  it('count for nothing where they are gone, or lead back to themselves', () => {
    const round: Zone[] = [
      { ...zones[0]!, parts: [zonePart('both'), zonePart('lost'), newPart.tones()] },
      zones[1]!,
      zones[2]!,
    ];
    expect(map('sky', round).parts).toEqual([
      { ...joinedPart, map: { ...map('both'), parts: [{ ...joinedPart, map: map('sea') }] } },
      newPart.tones(),
    ]);
    expect(ZoneMap.safeParse(map('sky', round)).success).toBe(true);
    expect(mayJoin(round[0]!, 'both', round)).toBe(false);
    expect(mayJoin(round[1]!, 'both', round)).toBe(true);
    expect(joinedFrom(['both'], round)).toEqual(new Set(['both', 'sky', 'lost', 'sea']));
  });

  it('stay few, however often each is joined from others', () => {
    const many = Array.from({ length: 12 }, (_, k): Zone => {
      const parts = Array.from({ length: 12 }, () => zonePart(`${k + 1}`));
      return { ...zoneOf({}), id: `${k}`, name: `${k}`, parts };
    });
    const count = ({ parts }: ZoneMap): number =>
      1 + parts.reduce((sum, part) => sum + (part.kind === 'map' ? count(part.map) : 0), 0);
    expect(count(map('0', many))).toBe(1 + 12 + 144);
    expect(mayJoin(many[0]!, 'x', many)).toBe(false);
  });
});

describe('parts of a zone', () => {
  it('find tones, softly bounded', () => {
    const of = halves([20, 20, 20], [200, 200, 200]);
    expect(sides(newPart.tones(), of)).toEqual([1, 0]);
    expect(sides({ ...newPart.tones(), from: 0.7, to: 1 }, of)).toEqual([0, 1]);
    expect(sides({ ...newPart.tones(), inverted: true }, of)).toEqual([0, 1]);
    const between = halves([77, 77, 77], [77, 77, 77]);
    expect(sides({ ...newPart.tones(), soft: 0.2 }, between)[0]).toBeCloseTo(0.5, 1);
  });

  it('find a colour whatever its lightness', () => {
    const of = halves([190, 40, 40], [40, 60, 180]);
    const red: ComputedPart = { ...newPart.colour(), colour: '#d04040' };
    expect(sides(red, of)[0]).toBeGreaterThan(0.9);
    expect(sides(red, of)[1]).toBe(0);
  });

  it('find skin tones, light and dark, and neither grass nor sky', () => {
    const [light, dark] = sides(newPart.skin(), halves([232, 190, 165], [120, 78, 58]));
    expect(light).toBe(1);
    expect(dark).toBe(1);
    expect(sides(newPart.skin(), halves([70, 120, 50], [90, 130, 200]))).toEqual([0, 0]);
  });

  it('tell flat areas from edges', () => {
    const of = halves([60, 60, 60], [180, 180, 180]);
    const at = (part: ComputedPart, x: number) =>
      partValues(part, { region: whole(size), raster: of }, whole(size), size)[
        25 * size.width + x
      ]!;
    expect(at(newPart.flat(), 10)).toBe(1);
    expect(at(newPart.flat(), 37)).toBe(0);
    expect(at(newPart.edges(), 10)).toBe(0);
    expect(at(newPart.edges(), 37)).toBe(1);
  });

  it('find two-toned strokes as lettering has, and no soft climb', () => {
    const strokes = emptyRaster(size.width, size.height, RGB);
    const climb = emptyRaster(size.width, size.height, RGB);
    for (let i = 0; i < size.width * size.height; i++) {
      const x = i % size.width;
      strokes.planes.forEach((plane) => (plane[i] = x % 6 < 2 ? 0.1 : 0.9));
      climb.planes.forEach((plane) => (plane[i] = x / size.width));
    }
    expect(sides(newPart.lettering(), strokes)[0]).toBeGreaterThan(0.9);
    expect(sides(newPart.lettering(), climb)).toEqual([0, 0]);
  });

  it('climb along a line and fall about a point', () => {
    const linear = sides({ ...newPart.linear(), x0: 0, y0: 0.5, x1: 1, y1: 0.5 }, picture);
    expect(linear[0]).toBeLessThan(0.2);
    expect(linear[1]).toBeGreaterThan(0.8);
    const round = valuesOf(zoneOf({ parts: [newPart.round()] }));
    expect(round[27 * size.width + 36]).toBe(1);
    expect(round[0]).toBe(0);
  });

  it.each(KINDS)('%s stays within 0 and 1, and its schema allows what it begins with', (kind) => {
    const zone = kept({ parts: [newPart[kind]()] });
    expect(Zone.safeParse(zone).success).toBe(true);
    for (const value of valuesOf(mapOf(zone, [], ONE_FACE))) {
      expect(value).toBeGreaterThanOrEqual(0);
      expect(value).toBeLessThanOrEqual(1);
    }
  });
});

describe('faces', () => {
  const faces = (parts: Zone['parts'], found: Found) => valuesOf(mapOf(kept({ parts }), [], found));
  const at = (values: Float32Array, x: number, y: number) => values[y * size.width + x]!;

  it('are ovals where they were found, as large as asked', () => {
    const values = faces([{ ...newPart.faces(), grow: 1 }], ONE_FACE);
    expect(at(values, 35, 28)).toBe(1);
    expect(at(values, 35, 15)).toBe(1);
    // A corner of the face’s square is none of it.
    expect(at(values, 21, 11)).toBeLessThan(0.1);
    expect(at(values, 65, 28)).toBe(0);
    const wide = faces([{ ...newPart.faces(), grow: 2 }], ONE_FACE);
    expect(at(wide, 21, 11)).toBeGreaterThan(0.9);
  });

  it('are nowhere where none was found', () => {
    expect(faces([newPart.faces()], NOTHING_FOUND).every((value) => value === 0)).toBe(true);
  });

  it('are told as shares, so that their map holds for any grid of the picture', () => {
    const [part] = mapOf(kept({ parts: [newPart.faces()] }), [], ONE_FACE).parts;
    expect(part).toMatchObject({
      kind: 'faces',
      places: [{ x: 20 / 73, y: 10 / 54, width: 30 / 73, height: 36 / 54 }],
    });
    expect(ZoneMap.safeParse(mapOf(kept({ parts: [newPart.faces()] }), [], ONE_FACE)).success).toBe(
      true,
    );
  });
});

describe('a zone', () => {
  it('joins its parts in their order', () => {
    const dark = newPart.tones();
    const left: ComputedPart = { ...newPart.linear(), x0: 0.6, y0: 0.5, x1: 0.4, y1: 0.5 };
    const of = halves([20, 20, 20], [20, 20, 20]);
    const at = (zone: ZoneMap) => {
      const values = valuesOf(zone, undefined, of);
      return [values[25 * size.width + 5], values[25 * size.width + 70]];
    };
    expect(at(zoneOf({ parts: [dark] }))).toEqual([1, 1]);
    expect(at(zoneOf({ parts: [dark, { ...left, joining: 'limit' }] }))).toEqual([1, 0]);
    expect(at(zoneOf({ parts: [dark, { ...left, joining: 'take away' }] }))).toEqual([0, 1]);
    expect(at(zoneOf({ parts: [left], inverted: true }))).toEqual([0, 1]);
    expect(at(zoneOf({}))).toEqual([0, 0]);
  });

  it('is feathered without losing its middle', () => {
    const sharp = valuesOf(zoneOf({ parts: [{ ...newPart.round(), inner: 0.25, outer: 0.26 }] }));
    const soft = valuesOf(
      zoneOf({ parts: [{ ...newPart.round(), inner: 0.25, outer: 0.26 }], feather: 4 }),
    );
    const total = (values: Float32Array) => values.reduce((sum, value) => sum + value, 0);
    expect(Math.abs(total(soft) / total(sharp) - 1)).toBeLessThan(0.05);
    const steepest = (values: Float32Array) =>
      Math.max(...values.map((value, i) => Math.abs(value - (values[i + 1] ?? value))));
    expect(steepest(soft)).toBeLessThan(0.4 * steepest(sharp));
  });

  it('gives the same values however the picture is cut', async () => {
    const mask = emptyMask(size);
    new Stroke(mask, { radius: 9, softness: 0.5, flow: 0.8, takingAway: false }).to({
      ...{ x: 30, y: 20 },
      pressure: 1,
    });
    for (const zone of [
      { ...everyKind, feather: 2.5, painted },
      zoneOf({ parts: [newPart.flat()], painted }),
      zoneOf({ parts: [newPart.tones(), joinedMap], feather: 3 }),
    ]) {
      const all = valuesOf(zone, mask);
      const region = fc.record({
        ...{ x: fc.nat(60), y: fc.nat(40) },
        ...{ width: fc.integer({ min: 1, max: 13 }), height: fc.integer({ min: 1, max: 13 }) },
      });
      await fc.assert(
        fc.asyncProperty(region, async (part: Region) => {
          const pulled = zoneInput(zone, part, size);
          const raster = await memorySource(picture, pulled).read(pulled);
          const got = zoneValues(zone, { region: pulled, raster }, part, size, masksOf(zone, mask))
            .planes[0]!;
          got.forEach((value, i) => {
            const x = part.x + (i % part.width);
            const y = part.y + Math.floor(i / part.width);
            expect(value).toBe(all[y * size.width + x]);
          });
        }),
        { numRuns: 30 },
      );
    }
    expect(partReach(newPart.lettering())).toBe(4);
    expect(partReach(newPart.round())).toBe(0);
  });
});

describe('the brush', () => {
  const brush = { radius: 8, softness: 0.5, flow: 1, takingAway: false };
  const touch = (x: number, y: number, pressure = 1) => ({ x, y, pressure });
  const at = (mask: Mask, x: number, y: number) => mask.ink[y * mask.width + x]!;

  it('leaves a round dab, full in the middle and soft at its rim', () => {
    const mask = emptyMask(size);
    const changed = new Stroke(mask, brush).to(touch(30, 25));
    expect(at(mask, 30, 25)).toBe(255);
    const rim = at(mask, 36, 25);
    expect(rim).toBeGreaterThan(20);
    expect(rim).toBeLessThan(235);
    expect(at(mask, 40, 25)).toBe(0);
    expect(changed).toMatchObject({ x: 22, y: 17 });
  });

  it('draws an even line, the same wherever it goes fast or slow', () => {
    const fast = emptyMask(size);
    const stroke = new Stroke(fast, brush);
    stroke.to(touch(10, 25));
    stroke.to(touch(60, 25));
    const row = Array.from({ length: 40 }, (_, i) => at(fast, 15 + i, 25));
    expect(Math.min(...row)).toBe(255);
    const slow = emptyMask(size);
    const again = new Stroke(slow, brush);
    for (let x = 10; x <= 60; x++) again.to(touch(x, 25));
    for (let x = 15; x < 55; x++)
      expect(Math.abs(at(slow, x, 30) - at(fast, x, 30))).toBeLessThan(12);
  });

  it('does not pile up within a stroke, but does with the next one', () => {
    const mask = emptyMask(size);
    const faint = { ...brush, flow: 0.5 };
    const stroke = new Stroke(mask, faint);
    stroke.to(touch(30, 25));
    stroke.to(touch(33, 25));
    stroke.to(touch(30, 25));
    expect(at(mask, 30, 25)).toBe(128);
    new Stroke(mask, faint).to(touch(30, 25));
    expect(at(mask, 30, 25)).toBeCloseTo(192, -1);
  });

  it('takes away from what is computed beneath, and from what was added', () => {
    const mask = emptyMask(size);
    const everything = zoneOf({ inverted: false, parts: [{ ...newPart.tones(), from: 0, to: 1 }] });
    new Stroke(mask, { ...brush, takingAway: true }).to(touch(30, 25));
    const values = valuesOf(everything, mask);
    expect(values[25 * size.width + 30]).toBe(0);
    expect(values[25 * size.width + 60]).toBe(1);
    new Stroke(mask, brush).to(touch(30, 25));
    expect(valuesOf(everything, mask)[25 * size.width + 30]).toBe(1);
  });

  it('answers the pressure of a pen with width and strength', () => {
    const [light, hard] = [0.1, 1].map((pressure) => {
      const mask = emptyMask(size);
      new Stroke(mask, brush).to(touch(30, 25, pressure));
      return mask;
    }) as [Mask, Mask];
    expect(at(light, 30, 25)).toBeLessThan(0.4 * at(hard, 30, 25));
    expect(at(light, 35, 25)).toBe(0);
    expect(at(hard, 35, 25)).toBeGreaterThan(0);
  });

  it('leaves nothing beside the picture', () => {
    const mask = emptyMask(size);
    expect(new Stroke(mask, brush).to(touch(-40, 10))).toBeNull();
    expect(mask.ink.every((value) => value === 0)).toBe(true);
  });
});

describe('a mask', () => {
  it('goes to bytes and back, and refuses those of another size', () => {
    const mask = emptyMask({ width: 5, height: 3 });
    mask.ink[7] = 200;
    mask.cover[7] = 220;
    const bytes = maskBytes(mask);
    expect(maskFromBytes(bytes, { width: 5, height: 3 })).toEqual(mask);
    expect(() => maskFromBytes(bytes, { width: 4, height: 3 })).toThrow(
      /has 24 bytes, these are 30/,
    );
  });

  it('has the pixels of its picture, up to a limit', () => {
    expect(maskSize({ width: 720, height: 480 })).toEqual({ width: 720, height: 480 });
    expect(maskSize({ width: 6000, height: 4000 })).toEqual({ width: MASK_LIMIT, height: 2731 });
    expect(maskSize({ width: 9000, height: 1 })).toEqual({ width: MASK_LIMIT, height: 1 });
  });

  it('is read smoothly where the picture is larger', () => {
    const mask = emptyMask({ width: 4, height: 1 });
    mask.ink.set([0, 0, 255, 255]);
    mask.cover.set([0, 0, 255, 255]);
    const wide = { width: 16, height: 4 };
    const values = zoneValues(
      zoneOf({ painted: { digest: 'a', width: 4, height: 1 } }),
      { region: whole(wide), raster: emptyRaster(16, 4, RGB) },
      whole(wide),
      wide,
      new Map([['a', mask]]),
    ).planes[0]!;
    const row = [...values.subarray(0, 16)];
    expect(row[0]).toBe(0);
    expect(row[15]).toBe(1);
    expect([...row].sort((a, b) => a - b)).toEqual(row);
    expect(row[8]).toBeGreaterThan(0.4);
    expect(row[8]).toBeLessThan(0.75);
  });
});
