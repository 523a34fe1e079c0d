import type { Space } from './form';
import { rootOf } from './portable-math';
import type { Raster } from './raster';

/**
 * Encoded values to light and back, by the curve of sRGB (IEC 61966-2-1), as tables between whose
 * entries it is taken as straight; mirrored below zero and drawn on beyond one. Built on IEEE
 * arithmetic alone, so that every engine has the same tables.
 */
const FINENESS = 4096;
/** Encoded values and roots of light up to this one are in the tables. */
const REACH = 1.5;
const ENTRIES = FINENESS * REACH + 2;

function lightOf(encoded: number): number {
  if (encoded <= 0.04045) return encoded / 12.92;
  const base = (encoded + 0.055) / 1.055;
  // base^2.4
  return base * base * rootOf(base * base, 5);
}

function encodedOf(light: number): number {
  if (light <= 0.0031308) return light * 12.92;
  // light^(1/2.4) = light^(5/12)
  return 1.055 * rootOf(light * light * light * light * light, 12) - 0.055;
}

let tables: { light: Float64Array; encoded: Float64Array } | undefined;

const ready = () =>
  (tables ??= {
    light: Float64Array.from({ length: ENTRIES }, (_, i) => lightOf(i / FINENESS)),
    // By the root of light, so that the dark end has entries enough.
    encoded: Float64Array.from({ length: ENTRIES }, (_, i) => encodedOf((i / FINENESS) ** 2)),
  });

function along(table: Float64Array, at: number): number {
  const scaled = Math.min(at * FINENESS, ENTRIES - 2);
  const i = Math.floor(scaled);
  return table[i]! + (scaled - i) * (table[i + 1]! - table[i]!);
}

function eachColour(raster: Raster, space: Space, change: (value: number) => number): Raster {
  const { form } = raster;
  const planes = raster.planes.map((plane, c) =>
    c === form.colours
      ? plane
      : plane.map((value) => (value < 0 ? -change(-value) : change(value))),
  );
  return { ...raster, form: { ...form, space }, planes };
}

/** The same picture in values of light, 0–1; alpha stays. */
export function toLight(raster: Raster): Raster {
  const { light } = ready();
  return eachColour(raster, 'light', (value) => along(light, value));
}

/** The inverse of `toLight`, within a hundredth of a level. */
export function fromLight(raster: Raster): Raster {
  const { encoded } = ready();
  return eachColour(raster, 'encoded', (value) => along(encoded, Math.sqrt(value)));
}
