import { describe, expect, it } from 'vitest';
import { edgeWidth, findEdges } from './edge-width';

const size = { width: 80, height: 60 };
/** An upright edge that climbs over so many pixels. */
const ramp = (over: number, climb = 0.6) =>
  Float32Array.from({ length: size.width * size.height }, (_, i) => {
    const x = (i % size.width) - 39.5;
    return 0.2 + climb * Math.min(1, Math.max(0, x / over + 0.5));
  });

describe('the rise of edges', () => {
  it.each([1, 2, 5])('of %i pixels is found', (over) => {
    const plane = ramp(over);
    const places = findEdges(plane, size, 8);
    expect(places.length).toBeGreaterThan(10);
    expect(places.every(({ stride }) => stride === 1)).toBe(true);
    expect(edgeWidth(plane, places, 7)).toBeCloseTo(over, 0);
  });

  it('of a softer picture is longer at the same places', () => {
    const places = findEdges(ramp(1), size, 8);
    expect(edgeWidth(ramp(6), places, 7)).toBeGreaterThan(2 * edgeWidth(ramp(2), places, 7));
  });

  it('is no number where there are no edges', () => {
    expect(findEdges(ramp(1, 0), size, 8)).toEqual([]);
    expect(edgeWidth(ramp(1), [], 7)).toBeNaN();
  });
});
