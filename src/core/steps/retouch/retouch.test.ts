import { describe, expect, it } from 'vitest';
import { UNFRAMED } from '../../frame/framing';
import { framePlaces } from '../../frame/places';
import { psnr } from '../../inspect/compare';
import { planPrint } from '../../measure/plan';
import { cut, emptyRaster, type Raster } from '../../raster/raster';
import { whole, type Region, type Size } from '../../raster/region';
import { memorySource, random, testContext, testPaper } from '../../testing';
import { findDust } from './find-dust';
import { findSource, sourceInput } from './find-source';
import { onTarget } from './on-target';
import { retouch, SPOT_LIMIT, type Spot } from './retouch';
import { rim, shapeRegion, shapeValues } from './shape';
import { suggestSpots } from './suggest';
import { RGB } from '../../raster/form';

const size: Size = { width: 120, height: 90 };
const grids = { from: size, to: size };

/** A slope of light with woven texture: what a smear would betray. */
function cloth(of: Size = size): Raster {
  const next = random(2);
  const raster = emptyRaster(of.width, of.height, RGB);
  for (let y = 0; y < of.height; y++)
    for (let x = 0; x < of.width; x++) {
      const weave = 0.05 * Math.sin(x * 1.1) * Math.sin(y * 1.3) + 0.02 * (next() - 0.5);
      const light = 0.35 + 0.25 * (x / of.width) + 0.1 * (y / of.height);
      for (let c = 0; c < 3; c++) raster.planes[c]![y * of.width + x] = light + weave - 0.03 * c;
    }
  return raster;
}

function marked(
  raster: Raster,
  spots: readonly { x: number; y: number; radius: number }[],
  tone = 0.95,
) {
  const result = { ...raster, planes: raster.planes.map((plane) => plane.slice()) };
  for (const { x, y, radius } of spots)
    for (let v = Math.floor(y - radius); v <= y + radius; v++)
      for (let u = Math.floor(x - radius); u <= x + radius; u++)
        if (Math.hypot(u + 0.5 - x, v + 0.5 - y) < radius)
          for (const plane of result.planes) plane[v * raster.width + u] = tone;
  return result;
}

const spot = (named: Partial<Spot>): Spot => ({
  id: 'a',
  how: 'heal',
  points: [[60, 45]],
  radius: 6,
  offset: [16, 2],
  softness: 0.3,
  ...named,
});

const heal = (raster: Raster, spots: Spot[], region: Region = whole(size)) =>
  retouch.apply({ region: whole(size), raster }, { spots }, region, grids);

const within = (raster: Raster, part: Region) =>
  cut({ region: whole(size), raster }, part).planes[1]!;
const SPOT: Region = { x: 54, y: 39, width: 12, height: 12 };

/** What filling with the mean of the surroundings would give. */
function meanFill(raster: Raster): Raster {
  const border = rim(spot({}), shapeRegion(spot({}), size), size);
  const result = { ...raster, planes: raster.planes.map((plane) => plane.slice()) };
  result.planes.forEach((plane) => {
    const mean =
      border.reduce((sum, { x, y }) => sum + plane[y * size.width + x]!, 0) / border.length;
    const shares = shapeValues(spot({}), whole(size));
    shares.forEach((share, i) => (plane[i]! += share * (mean - plane[i]!)));
  });
  return result;
}

const variance = (values: Float32Array) => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
};

describe('healing', () => {
  const truth = cloth();
  const damaged = marked(truth, [{ x: 60, y: 45, radius: 5 }]);

  it('comes nearer to the truth than a mean fill, with texture like its surroundings', () => {
    const input = { region: whole(size), raster: damaged };
    const offset = findSource(spot({}), input, size)!;
    const healed = heal(damaged, [spot({ offset })]);
    const filled = meanFill(damaged);
    const good = within(truth, SPOT);
    expect(psnr(within(healed, SPOT), good)).toBeGreaterThan(psnr(within(filled, SPOT), good) + 1);
    const kept = variance(within(healed, SPOT)) / variance(good);
    expect(kept).toBeGreaterThan(0.6);
    expect(kept).toBeLessThan(1.6);
    expect(variance(within(filled, SPOT))).toBeLessThan(0.4 * variance(good));
  });

  it('takes the tones of its own surroundings, however light its source is', () => {
    const slope = emptyRaster(size.width, size.height, RGB);
    slope.planes.forEach((plane) => {
      for (let i = 0; i < plane.length; i++) plane[i] = (i % size.width) / size.width;
    });
    const healed = heal(marked(slope, [{ x: 60, y: 45, radius: 5 }], 0), [
      spot({ offset: [40, 0] }),
    ]);
    expect(psnr(within(healed, SPOT), within(slope, SPOT))).toBeGreaterThan(45);
  });

  it('cloning takes pixels as they are', () => {
    const cloned = heal(truth, [spot({ how: 'clone', offset: [20, -10] })]);
    const at = (raster: Raster, x: number, y: number) => raster.planes[0]![y * size.width + x];
    expect(at(cloned, 60, 45)).toBe(at(truth, 80, 35));
  });

  it('changes nothing beside the spot, and each spot can be undone', () => {
    const both = [spot({}), spot({ id: 'b', points: [[20, 20]], offset: [12, 12] })];
    const one = heal(damaged, [both[0]!]);
    const two = heal(damaged, both);
    const elsewhere = { x: 80, y: 60, width: 30, height: 20 };
    expect(within(two, elsewhere)).toEqual(within(damaged, elsewhere));
    expect(within(one, SPOT)).toEqual(within(two, SPOT));
    const first = { x: 12, y: 12, width: 16, height: 16 };
    expect(within(one, first)).toEqual(within(damaged, first));
    expect(within(two, first)).not.toEqual(within(damaged, first));
  });

  it('reads only its spot and its source for a region, not all between', () => {
    const pulled = retouch.inputRegion(
      { spots: [spot({})] },
      { x: 0, y: 0, width: 9, height: 9 },
      grids,
    );
    expect(pulled).toEqual({ x: 0, y: 0, width: 9, height: 9 });
    const touching = retouch.inputRegion({ spots: [spot({})] }, SPOT, grids);
    expect(touching.width).toBeLessThan(50);
  });

  it('stays on the picture at its borders', () => {
    const result = heal(truth, [
      spot({ points: [[0, 0]], offset: [-300, -300] }),
      spot({ id: 'c', points: [[119, 89]], offset: [50, 50] }),
    ]);
    for (const plane of result.planes) expect(plane.every(Number.isFinite)).toBe(true);
  });
});

describe('finding a source', () => {
  it('stays clear of the spot itself and of other spots', () => {
    const input = { region: whole(size), raster: cloth() };
    const other = spot({ points: [[78, 45]], radius: 9 });
    const [dx, dy] = findSource(spot({}), input, size, [other])!;
    expect(Math.hypot(dx, dy)).toBeGreaterThanOrEqual(12);
    expect(Math.hypot(60 + dx - 78, 45 + dy - 45)).toBeGreaterThan(9 + 5);
  });

  it('prefers what goes on as its surroundings do', () => {
    // Stripes across: only sources on the same phase continue them.
    const stripes = emptyRaster(size.width, size.height, RGB);
    stripes.planes.forEach((plane) => {
      for (let i = 0; i < plane.length; i++)
        plane[i] = Math.floor(i / size.width) % 12 < 6 ? 0.3 : 0.7;
    });
    const [, dy] = findSource(spot({}), { region: whole(size), raster: stripes }, size)!;
    expect(((dy % 12) + 12) % 12).toBe(0);
  });

  it('says that there is none where there is no room', () => {
    const small = { width: 14, height: 14 };
    const input = { region: whole(small), raster: emptyRaster(14, 14, RGB) };
    expect(findSource(spot({ points: [[7, 7]] }), input, small)).toBeNull();
    expect(sourceInput(spot({ points: [[7, 7]] }), small)).toEqual(whole(small));
  });
});

describe('finding dust', () => {
  const dust = [
    { x: 30, y: 30, radius: 2 },
    { x: 90, y: 50, radius: 3 },
    { x: 60, y: 70, radius: 1.5 },
  ];
  const even = (): Raster => {
    const next = random(7);
    const raster = emptyRaster(size.width, size.height, RGB);
    raster.planes.forEach((plane) => {
      for (let i = 0; i < plane.length; i++) plane[i] = 0.4 + 0.01 * (next() - 0.5);
    });
    return raster;
  };

  it('finds specks, light and dark, and their size', () => {
    for (const tone of [0.9, 0.05]) {
      const found = findDust(marked(even(), dust, tone));
      for (const { x, y, radius } of dust) {
        const near = found.find(
          ({ points }) => Math.hypot(points[0]![0] - x, points[0]![1] - y) < 1.5,
        );
        expect(near, `${x}, ${y}`).toBeDefined();
        expect(near!.radius).toBeGreaterThan(radius);
        expect(near!.radius).toBeLessThan(radius + 3.5);
      }
      expect(found).toHaveLength(dust.length);
    }
  });

  it('finds a scratch as one stroke along it', () => {
    const scratched = even();
    for (let k = 0; k < 50; k++)
      for (const plane of scratched.planes) plane[(20 + k) * size.width + 40 + (k >> 2)] = 0.95;
    const found = findDust(scratched);
    const long = found.find(({ points }) => points.length === 2)!;
    const [[x0, y0], [x1, y1]] = long.points as [[number, number], [number, number]];
    expect(Math.hypot(x1 - x0, y1 - y0)).toBeGreaterThan(40);
    expect(long.radius).toBeLessThan(5);
  });

  it('takes neither edges, nor texture, nor noise for dust', () => {
    const edge = even();
    for (const plane of edge.planes)
      for (let i = 0; i < plane.length; i++) if (i % size.width > 60) plane[i]! += 0.4;
    expect(findDust(edge)).toEqual([]);
    expect(findDust(cloth())).toEqual([]);
    expect(findDust(even())).toEqual([]);
  });

  it('suggests each once, the strongest first, with a source that mends it', async () => {
    const wide = { width: 700, height: 100 };
    const picture = marked(
      {
        ...emptyRaster(wide.width, wide.height, RGB),
        planes: cloth(wide).planes.map((p) => p.map((v, i) => 0.4 + 0.02 * Math.sin(i) + 0 * v)),
      },
      // On the border between two parts of the search.
      [
        { x: 512, y: 50, radius: 3 },
        { x: 100, y: 40, radius: 2.5 },
      ],
    );
    const shares: number[] = [];
    const spots = await suggestSpots(memorySource(picture), (share) => {
      shares.push(share);
    });
    expect(spots).toHaveLength(2);
    expect(new Set(spots.map(({ id }) => id)).size).toBe(2);
    expect(shares.at(-1)).toBe(1);
    expect(await suggestSpots(memorySource(picture), () => false)).toEqual([]);
  });
});

describe('spots after enlarging', () => {
  const paper = testPaper({ width: { value: 120, unit: 'cm' } });
  const planned = planPrint({ rect: whole(size) }, paper, 100);
  if (!planned.ok) throw new Error(planned.reason);

  it('lie where they lay on the original, larger by the factor', () => {
    const context = testContext(size, { plan: planned.plan, phase: 'target' });
    const [there] = retouch.resolve({ spots: [spot({})] }, context)!.spots as [Spot];
    const factor = planned.plan.picture.width / size.width;
    expect(there.points[0]![0]).toBeCloseTo(60 * factor, 6);
    expect(there.radius).toBeCloseTo(Math.min(SPOT_LIMIT, 6 * factor), 6);
    expect(there.offset[0]).toBe(Math.round(16 * factor));
    const [here] = retouch.resolve({ spots: [spot({})] }, testContext(size))!.spots as [Spot];
    expect(here).toEqual(spot({}));
  });

  it.each([0, 90, 180, 270] as const)('follow a turn by %d degrees and back', (turn) => {
    for (const straighten of [0, 7.5, -20]) {
      const places = framePlaces(size, { ...UNFRAMED, turn, straighten });
      for (const [x, y] of [
        [0, 0],
        [31.5, 70],
        [119, 3],
      ] as const) {
        const [u, v] = places.toFrame(x, y);
        const [a, b] = places.toGrid(u, v);
        expect(a).toBeCloseTo(x, 8);
        expect(b).toBeCloseTo(y, 8);
      }
    }
  });

  it('turns the upper left corner where a quarter turn brings it', () => {
    const turned = { ...UNFRAMED, turn: 90 as const };
    const [x, y] = framePlaces(size, turned).toFrame(0, 0);
    expect([x, y].map((at) => Math.round(at * 1e9) / 1e9 + 0)).toEqual([90, 0]);
    const rect = { x: 0, y: 0, width: 90, height: 120 };
    const upright = planPrint({ rect }, testPaper({ width: { value: 90, unit: 'px' } }), 100);
    if (!upright.ok) throw new Error(upright.reason);
    expect(onTarget(upright.plan, turned, size).point(0, 0)[0]).toBeCloseTo(
      upright.plan.picture.width,
      6,
    );
  });

  it('are scaled for a rendering from afar', () => {
    const small = retouch.proxy({ spots: [spot({})] }, 0.5).spots[0]!;
    expect(small).toMatchObject({ points: [[30, 22.5]], radius: 3, offset: [8, 1] });
  });
});
