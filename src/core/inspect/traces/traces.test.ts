import { describe, expect, it } from 'vitest';
import { fromSamples } from '../../raster/samples';
import { random } from '../../testing';
import { patchOf } from '../patches';
import { bandTraces } from './bands';
import { toneTraces } from './by-tone';
import { grainTraces, plainestFirst } from './grain';
import { periodTraces } from './periods';
import { profileTraces } from './profiles';
import type { Square } from './square';
import { tracesOf } from './traces';

const SIDE = 96;
type Level = (x: number, y: number) => number;

/** A grey square. */
function square(level: Level, side = SIDE): Square {
  const samples = Uint8Array.from({ length: 3 * side * side }, (_, i) => {
    const at = Math.floor(i / 3);
    return Math.max(0, Math.min(255, Math.round(level(at % side, Math.floor(at / side)))));
  });
  const region = { x: 0, y: 0, width: side, height: side };
  return patchOf(fromSamples(samples, side, side, 3, 8), region);
}

const gauss = (next: () => number) => () =>
  Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());

/** Noise of a level; specks of it are two pixels wide where it is grained. */
function noise(level: number, grained: boolean): Level {
  const normal = gauss(random(3));
  const values = Float64Array.from({ length: (SIDE + 1) ** 2 }, normal);
  const at = (x: number, y: number) => values[y * (SIDE + 1) + x]!;
  return (x, y) =>
    128 +
    level * (grained ? (at(x, y) + at(x + 1, y) + at(x, y + 1) + at(x + 1, y + 1)) / 2 : at(x, y));
}

/** Bars 24 px wide whose edges rise as a Gaussian of `sigma` lets them, with rims of `rim`. */
const bars =
  (sigma: number, rim = 0): Level =>
  (x) => {
    const from = ((x + 12) % 48) - 24;
    const far = 12 - Math.abs(from) + 0.3;
    const soft = 1 / (1 + Math.exp((-1.7 * far) / sigma));
    return 60 + 120 * soft + 120 * rim * (far / 2) * Math.exp(-(far * far) / 4);
  };

describe('grain', () => {
  // Of the plainest blocks: the logarithm of luminance's variance, then how alike neighbours are.
  const of = (level: Level) => grainTraces(plainestFirst([square(level)]));

  it('tells how strong noise is', () => {
    const [weak, strong] = [2, 8].map((level) => of(noise(level, false))[0]!);
    expect(strong! - weak!).toBeCloseTo(2 * Math.log(4), 0);
  });

  it('tells specks from white noise', () => {
    const white = of(noise(6, false)).slice(1, 3);
    const grained = of(noise(6, true)).slice(1, 3);
    white.forEach((alike) => expect(Math.abs(alike)).toBeLessThan(0.12));
    grained.forEach((alike) => expect(alike).toBeGreaterThan(0.2));
  });
});

describe('noise by tone', () => {
  // Of the darkest to the lightest quarter of the tones: plain blocks, and what luminance and colour have left beyond all.
  const of = (level: Level) => toneTraces(plainestFirst([square(level)]));
  const normal = gauss(random(9));
  const values = Float64Array.from({ length: SIDE * SIDE }, normal);
  /** Fields of four tones with noise of a level each. */
  const fields =
    (levels: readonly number[]): Level =>
    (x, y) => {
      const tone = Math.min(3, Math.floor((4 * x) / SIDE));
      return 32 + 64 * tone + levels[tone]! * values[y * SIDE + x]!;
    };

  it('tells where it is strongest', () => {
    const [darkest, , , lightest] = [0, 3, 6, 9].map((at) => of(fields([8, 6, 4, 2]))[at + 1]!);
    expect(darkest! - lightest!).toBeCloseTo(2 * Math.log(4), 0);
    const even = [0, 3, 6, 9].map((at) => of(fields([5, 5, 5, 5]))[at + 1]!);
    expect(Math.max(...even) - Math.min(...even)).toBeLessThan(0.5);
  });

  it('says nothing of tones that are not there', () => {
    const one = of((x, y) => 96 + 4 * values[y * SIDE + x]!);
    expect(one[0]).toBe(0);
    expect(one[3]).toBeGreaterThan(0.9);
    expect(one.slice(6)).toEqual([0, 0, 0, 0, 0, 0]);
  });
});

describe('bands', () => {
  it('tells by the finest waves how soft a picture is', () => {
    const [sharp, soft] = [0.4, 1.5].map((sigma) => bandTraces([square(bars(sigma))]));
    // The busiest quarter of the blocks: the logarithm of the mean in the finest band of upright waves.
    const finest = 2 * 8 * 4 - 3;
    expect(sharp![finest]! - soft![finest]!).toBeGreaterThan(3);
  });

  it('leaves out blocks where tones are cut off', () => {
    const white = bandTraces([square(() => 255)]);
    expect(white.every((value) => Number.isFinite(value))).toBe(true);
  });
});

describe('profiles', () => {
  const of = (level: Level) => profileTraces([square(level)]);
  /** Of all edges' means: how far from its dark to its light side an edge is just before and after its middle. */
  const rise = (traces: number[]) => traces[2 + 7]! - traces[2 + 5]!;

  it('rise the more slowly the softer a picture is', () => {
    expect(rise(of(bars(0.5)))).toBeGreaterThan(1.5 * rise(of(bars(2))));
  });

  it('swing beyond both sides where it was sharpened', () => {
    const beyond = (traces: number[]) => traces.at(-8)!;
    expect(beyond(of(bars(0.8, 0.6)))).toBeGreaterThan(beyond(of(bars(0.8))) + 0.1);
  });
});

describe('periods', () => {
  it('show at every eighth where blocks do', () => {
    const ground = noise(3, false);
    const blocks = periodTraces([
      square((x, y) => ground(x, y) + (x % 16 < 8 ? 0 : 12) + (y % 16 < 8 ? 0 : 12)),
    ]);
    const none = periodTraces([square(ground)]);
    expect(blocks[0]!).toBeGreaterThan(none[0]! + 2);
  });

  it('show between them where a picture was resized', () => {
    const from = noise(10, false);
    // Enlarged to 5/4 by the straight line between two pixels.
    const resized = square((x, y) => {
      const at = x * 0.8;
      const [left, part] = [Math.floor(at), at - Math.floor(at)];
      return (1 - part) * from(left, y) + part * from(left + 1, y);
    });
    const found = periodTraces([resized]);
    const none = periodTraces([square(from)]);
    expect(found[4]!).toBeGreaterThan(none[4]! + 1);
    // Every fifth pixel lies on one of the original: at a fifth or two fifths.
    const frequency = found[5]!;
    expect(Math.min(Math.abs(frequency - 0.2), Math.abs(frequency - 0.4))).toBeLessThan(0.01);
  });
});

describe('traces', () => {
  const own = { luma: new Array<number>(64).fill(10), chroma: null, samplingX: 2 };

  it('are as many for any picture, and always numbers', () => {
    const count = tracesOf([square(bars(1))], null).length;
    for (const squares of [
      [],
      [square(() => 0, 4)],
      [square(() => 90)],
      [square(noise(40, false)), square(bars(1))],
    ]) {
      const traces = tracesOf(squares, own);
      expect(traces.length).toBe(count);
      expect(traces.every(Number.isFinite)).toBe(true);
    }
  });

  it('end with what the file says of itself', () => {
    const [said, severity, halved] = tracesOf([square(bars(1))], own).slice(-3);
    expect([said, halved]).toEqual([1, 1]);
    expect(severity).toBeGreaterThan(0.1);
    expect([...tracesOf([square(bars(1))], null).slice(-3)]).toEqual([0, 0, 0]);
  });
});
