import { fractal, hash, valueNoise } from './noise';

type Colour = [number, number, number];

const mix = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
const clamp = (value: number): number => Math.min(1, Math.max(0, value));
const smooth = (from: number, to: number, value: number): number => {
  const t = clamp((value - from) / (to - from));
  return t * t * (3 - 2 * t);
};

const DARK: Colour = [0.16, 0.09, 0.03];
const WARM: Colour = [0.72, 0.5, 0.18];
const BRIGHT: Colour = [1, 0.9, 0.62];
const SHADE: Colour = [0.05, 0.04, 0.04];

/** Brass under one lamp: 0 in shade to 1 in its mirror image. */
const brass = (light: number): Colour =>
  light < 0.5 ? mix(DARK, WARM, clamp(light * 2)) : mix(WARM, BRIGHT, clamp(light * 2 - 1));

/** A turned disc: grooves catch the light in two opposite fans. */
function turned(r: number, angle: number, fineness: number): number {
  const groove = valueNoise(r * fineness, 3) * 0.24 + valueNoise(r * fineness * 5, 9) * 0.12;
  const fan = Math.abs(Math.cos(angle - 0.7)) ** 5 + 0.4 * Math.abs(Math.cos(angle + 0.9)) ** 9;
  return 0.2 + 0.62 * fan + groove * (0.4 + fan) - 0.14;
}

/** Engraved marks every degree; longer ones every five and ten. */
function engraved(r: number, angle: number, rim: number): number {
  const degrees = ((angle * 180) / Math.PI + 360) % 360;
  const nearest = Math.round(degrees);
  const length = nearest % 10 === 0 ? 0.062 : nearest % 5 === 0 ? 0.045 : 0.028;
  const off = (Math.abs(degrees - nearest) * Math.PI * r) / 180;
  return r < rim && r > rim - length ? 1 - smooth(0.0009, 0.0019, off) : 0;
}

/** A knurled knob: two crossing spirals of fine ridges, and a polished cap. */
function knob(x: number, y: number, r: number): Colour {
  const d = Math.hypot(x, y) / r;
  const angle = Math.atan2(y, x);
  if (d > 0.8) {
    const ridges = Math.sin(angle * 96) * Math.sin(angle * 96 + d * 40);
    const side = 0.5 - 0.42 * Math.sin(angle + 0.8);
    return brass(clamp(side * (0.62 + 0.5 * ridges)));
  }
  if (d > 0.72) return brass(0.12);
  return brass(
    clamp(turned(d, angle, 160) + 0.25 * smooth(0.5, 0, Math.hypot(x + r / 4, y + r / 4) / r)),
  );
}

function screw(x: number, y: number, r: number, slot: number): Colour {
  const d = Math.hypot(x, y) / r;
  const across = Math.abs(x * Math.sin(slot) - y * Math.cos(slot)) / r;
  if (across < 0.12 && d < 0.92) return SHADE;
  const bevel = d > 0.82 ? 0.3 - 0.5 * Math.sin(Math.atan2(y, x) + 0.8) : 0.62;
  return brass(clamp(bevel + 0.14 * valueNoise(x * 900, y * 40)));
}

const KNOBS: [number, number, number][] = [
  [1.18, 0.28, 0.15],
  [1.3, 0.72, 0.11],
];
const SCREWS: [number, number][] = [
  [0.08, 0.08],
  [0.94, 0.07],
  [0.07, 0.92],
  [0.95, 0.93],
  [1.43, 0.07],
  [1.43, 0.93],
];
const CENTRE = { x: 0.5, y: 0.52 };
const RIM = 0.43;

/** Colour at a point of the instrument, which is 1.5 wide and 1 high. */
function shade(x: number, y: number): Colour {
  for (const [kx, ky, r] of KNOBS) {
    if (Math.hypot(x - kx, y - ky) < r) return knob(x - kx, y - ky, r);
  }
  for (const [i, [sx, sy]] of SCREWS.entries()) {
    if (Math.hypot(x - sx, y - sy) < 0.032) return screw(x - sx, y - sy, 0.032, hash(i, 5) * 3);
  }
  const [dx, dy] = [x - CENTRE.x, y - CENTRE.y];
  const r = Math.hypot(dx, dy);
  const angle = Math.atan2(dy, dx);
  let colour: Colour;
  if (r < RIM) {
    const mark = engraved(r, angle, RIM - 0.012) + engraved(r * 1.55, angle * 1.0, RIM * 0.97);
    const ring = Math.abs(r - RIM * 0.66) < 0.004 || Math.abs(r - RIM * 0.34) < 0.004 ? 1 : 0;
    const metal = brass(clamp(turned(r, angle, 420) + 0.06 * fractal(x * 30, y * 30, 4)));
    colour = mix(metal, SHADE, clamp(mark + ring) * 0.86);
    // The alidade, a flat bar across the circle with bevelled edges.
    const along = dx * Math.cos(0.5) + dy * Math.sin(0.5);
    const across = dy * Math.cos(0.5) - dx * Math.sin(0.5);
    const half = 0.03 + 0.012 * smooth(0.1, 0.4, Math.abs(along));
    if (Math.abs(across) < half && r < RIM * 0.93) {
      const bevel = Math.abs(across) > half - 0.006 ? (across < 0 ? 0.9 : 0.14) : 0;
      const brushed =
        0.42 + 0.3 * valueNoise(along * 60, across * 1400) + 0.1 * Math.cos(along * 9);
      colour = brass(clamp(bevel || brushed));
    }
    if (r < 0.03) colour = screw(dx, dy, 0.03, 1.1);
  } else if (r < RIM + 0.016) {
    colour = brass(clamp(0.5 - 0.45 * Math.sin(angle + 0.8)));
  } else {
    // The plate, brushed from left to right, with a soft lamp from above.
    const brushed = valueNoise(x * 24, y * 900) * 0.5 + valueNoise(x * 90, y * 1800) * 0.25;
    const lamp = 0.5 - 0.45 * Math.hypot(x - 0.3, y + 0.1) + 0.2;
    colour = brass(clamp(0.12 + lamp * 0.5 + brushed * 0.32));
  }
  // Shadows that raised parts cast to the lower right.
  for (const [kx, ky, kr] of [...KNOBS, [CENTRE.x, CENTRE.y, RIM + 0.016] as const]) {
    const away = Math.hypot(x - kx - 0.02, y - ky - 0.026) - kr;
    if (Math.hypot(x - kx, y - ky) > kr)
      colour = mix(colour, SHADE, 0.62 * (1 - smooth(0, 0.045, away)));
  }
  // Stains of a hundred years.
  return mix(colour, DARK, 0.34 * smooth(0.56, 0.74, fractal(x * 3.1 + 5, y * 3.1, 5)));
}

/** The brass instruments as RGB samples; four rays a pixel. */
export function renderBrass(width: number, height: number): Uint8Array {
  const pixels = new Uint8Array(width * height * 3);
  const unit = 1 / height;
  for (let v = 0, at = 0; v < height; v++) {
    for (let u = 0; u < width; u++, at += 3) {
      const sum: Colour = [0, 0, 0];
      for (const [ox, oy] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
      ] as const) {
        const colour = shade((u + ox) * unit, (v + oy) * unit);
        for (let c = 0; c < 3; c++) sum[c]! += colour[c]! / 4;
      }
      for (let c = 0; c < 3; c++) pixels[at + c] = Math.round(255 * clamp(sum[c]!) ** 0.62);
    }
  }
  return pixels;
}
