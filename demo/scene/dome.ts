import { fractal, hash } from './noise';

/**
 * The demo shop's main picture: the dome of an invented observatory at dusk, as a signed distance
 * field, marched ray by ray (Hart 1996, "Sphere tracing"). Lengths in metres, y is up.
 */

const enum Material {
  Ground,
  Stone,
  Cornice,
  Iron,
  Shell,
  Brass,
  Brick,
  Tiles,
  Interior,
}

const TURN = Math.PI * 2;
/** the dome's slit looks this way */
const SLIT = 1.2;
const SLIT_COS = Math.cos(SLIT);
const SLIT_SIN = Math.sin(SLIT);
const DRUM = 3;
const SPRING = 2.15;
const PANELS = 28;
const POSTS = 84;

const wrap = (x: number): number => x - Math.floor(x);

function boxDistance(x: number, y: number, z: number, hx: number, hy: number, hz: number): number {
  const a = Math.abs(x) - hx;
  const b = Math.abs(y) - hy;
  const c = Math.abs(z) - hz;
  const outside = Math.sqrt(
    Math.max(a, 0) * Math.max(a, 0) +
      Math.max(b, 0) * Math.max(b, 0) +
      Math.max(c, 0) * Math.max(c, 0),
  );
  return outside + Math.min(Math.max(a, b, c), 0);
}

function groundShape(x: number, z: number): number {
  const r = Math.sqrt(x * x + z * z);
  const slope = -0.2 - Math.max(0, r - 4.6) ** 1.25 * 0.22;
  if (r <= 4.3) return slope;
  const rough = (fractal(x * 0.6 + 3, z * 0.6, 5) - 0.45) * 1.9;
  return slope + rough * Math.min(1, (r - 4.3) * 0.6);
}

/** The ground is looked up far too often to be made of noise each time: a table, read bilinearly. */
const GROUND_CELLS = 1536;
const GROUND_REACH = 24;
const ground = new Float64Array((GROUND_CELLS + 1) ** 2);
for (let j = 0; j <= GROUND_CELLS; j++)
  for (let i = 0; i <= GROUND_CELLS; i++) {
    ground[j * (GROUND_CELLS + 1) + i] = groundShape(
      (i / GROUND_CELLS - 0.5) * 2 * GROUND_REACH,
      (j / GROUND_CELLS - 0.5) * 2 * GROUND_REACH,
    );
  }

function groundHeight(x: number, z: number): number {
  const limit = GROUND_CELLS - 1e-6;
  const u = Math.min(limit, Math.max(0, (x / GROUND_REACH / 2 + 0.5) * GROUND_CELLS));
  const v = Math.min(limit, Math.max(0, (z / GROUND_REACH / 2 + 0.5) * GROUND_CELLS));
  const i = Math.floor(u);
  const j = Math.floor(v);
  const at = j * (GROUND_CELLS + 1) + i;
  const below = at + GROUND_CELLS + 1;
  const a = u - i;
  const top = ground[at]! * (1 - a) + ground[at + 1]! * a;
  const bottom = ground[below]! * (1 - a) + ground[below + 1]! * a;
  return top + (bottom - top) * (v - j);
}

let material: Material = Material.Ground;
let nearest = 0;

function take(d: number, kind: Material): void {
  if (d < nearest) {
    nearest = d;
    material = kind;
  }
}

/** Distance to the nearest surface; leaves what it is made of in `material`. */
function distance(x: number, y: number, z: number): number {
  const r = Math.sqrt(x * x + z * z);
  material = Material.Ground;
  // Above the highest rock the ground is at least this far; nearer, its slope shortens the step.
  nearest = y < 2 ? (y - groundHeight(x, z)) * 0.55 : Math.min(9, y - 1.4);

  const domeY = Math.max(0, y - 1.6);
  if (Math.sqrt(r * r + domeY * domeY) < nearest + 4.4) {
    take(Math.max(r - DRUM, Math.abs(y - 0.9) - 1.15), Material.Stone);
    take(Math.max(Math.abs(r - 3.12) - 0.16, Math.abs(y - 2.08) - 0.09), Material.Cornice);
    take(Math.max(Math.abs(r - 3.5) - 0.42, Math.abs(y - 0.98) - 0.04), Material.Cornice);
    if (Math.abs(r - 3.84) < nearest + 0.05 && y < nearest + 1.6 && y > 0.9 - nearest) {
      const step = TURN / POSTS;
      const angle = Math.round(Math.atan2(z, x) / step) * step;
      const px = x - 3.84 * Math.cos(angle);
      const pz = z - 3.84 * Math.sin(angle);
      take(
        Math.max(Math.sqrt(px * px + pz * pz) - 0.017, Math.abs(y - 1.22) - 0.24),
        Material.Iron,
      );
      for (let k = 0; k < 3; k++) {
        const dy = y - 1.46 + 0.15 * k;
        take(Math.sqrt((r - 3.84) * (r - 3.84) + dy * dy) - 0.016, Material.Iron);
      }
    }
    const X = x * SLIT_COS + z * SLIT_SIN;
    const Z = -x * SLIT_SIN + z * SLIT_COS;
    const Y = y - SPRING;
    const R = Math.sqrt(X * X + Y * Y + Z * Z);
    if (Math.abs(R - 3) < nearest + 0.2) {
      const rib = Math.max(
        0,
        1 - Math.abs(wrap(Math.atan2(Z, X) / (TURN / PANELS) + 0.5) - 0.5) * PANELS,
      );
      let shell = Math.max(Math.abs(R - 3) - 0.06 - 0.035 * rib, -Y);
      shell = Math.max(shell, -boxDistance(X - 2.2, Y - 1.6, Z, 2.6, 2.6, 0.55));
      take(shell, R < 2.93 ? Material.Interior : Material.Shell);
      const rim = Math.abs(Math.sqrt(X * X + Y * Y) - 2.98) - 0.1;
      take(Math.max(rim, Math.abs(Math.abs(Z) - 0.62) - 0.07, -Y), Material.Cornice);
    }
    const along = X * 0.66 + Y * 0.75;
    const across = -X * 0.75 + Y * 0.66 + 0.1;
    const tube = Math.sqrt(across * across + Z * Z);
    take(Math.max(tube - 0.42, Math.abs(along - 1.5) - 1.75), Material.Brass);
    take(Math.max(Math.abs(tube - 0.43) - 0.03, Math.abs(along - 1.7) - 0.06), Material.Cornice);
    take(Math.max(Math.abs(tube - 0.43) - 0.03, Math.abs(along - 3.05) - 0.06), Material.Cornice);
  }
  const house = boxDistance(x + 4.9, y - 0.85, z - 0.3, 1.65, 1.4, 1.25);
  if (house < nearest) {
    take(boxDistance(x + 4.9, y - 0.35, z - 0.3, 1.5, 0.75, 1.1), Material.Brick);
    const roof = boxDistance(x + 4.9, y - 1.3, z - 0.3, 1.65, 0.42, 1.25);
    const slope = (y - 1.28) * 0.8 + Math.abs(z - 0.3) * 0.6 - 0.25;
    take(Math.max(roof, slope), Material.Tiles);
    take(boxDistance(x + 5.6, y - 1.75, z - 0.1, 0.16, 0.42, 0.16), Material.Brick);
  }
  const mx = x - 5.3;
  const mz = z + 0.6;
  const mast = Math.sqrt(mx * mx + mz * mz);
  if (mast < nearest + 0.6) {
    take(Math.max(mast - 0.03, Math.abs(y - 2) - 2.6), Material.Iron);
    for (let k = 0; k < 4; k++) {
      const arm = k === 3 ? 4.4 : 2.2 + 0.8 * k;
      const dy = y - arm;
      take(
        Math.max(Math.sqrt(dy * dy + mz * mz) - 0.018, Math.abs(mx) - 0.42 + (arm - 2.2) * 0.1),
        Material.Iron,
      );
    }
  }
  return nearest;
}

type Vector = [number, number, number];
const normalise = ([x, y, z]: Vector): Vector => {
  const length = Math.sqrt(x * x + y * y + z * z);
  return [x / length, y / length, z / length];
};
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

const EYE: Vector = [-4.6, 1.35, 13.2];
const LOOK_AT: Vector = [0.35, 2.25, 0];
const FORWARD = normalise([LOOK_AT[0] - EYE[0], LOOK_AT[1] - EYE[1], LOOK_AT[2] - EYE[2]]);
const RIGHT = normalise(cross(FORWARD, [0, 1, 0]));
const UP = cross(RIGHT, FORWARD);
const SUN = normalise([-0.85, 0.16, 0.42]);

/** Light from a direction of the sky: gradient, high cloud, stars, and two ridges on the horizon. */
function sky(dx: number, dy: number, dz: number): Vector {
  const height = Math.max(0, dy);
  const glow = (1 - height) ** 5;
  const sunward = Math.max(0, dx * SUN[0] + dz * SUN[2]);
  let r = 0.05 + 0.5 * glow * (0.4 + 0.6 * sunward);
  let g = 0.065 + glow * (0.17 + 0.13 * sunward);
  let b = 0.17 + 0.2 * glow;
  const stretch = dx / (dy + 1.2);
  const wisps = fractal(stretch * 5 + 2 + fractal(stretch * 9, dy * 30, 3), dy * 22, 6);
  const cloud = Math.max(0, wisps - 0.5) * 2.2 * Math.exp(-height * 6);
  r += cloud * 0.42;
  g += cloud * 0.2;
  b += cloud * 0.17;

  const azimuth = Math.atan2(dx, -dz);
  const a = azimuth * 210;
  const e = Math.asin(Math.max(-1, Math.min(1, dy))) * 210;
  const seed = hash(Math.floor(a), Math.floor(e));
  if (seed > 0.991 && height > 0.08) {
    const sx = a - Math.floor(a) - hash(Math.floor(a) + 7, Math.floor(e));
    const sy = e - Math.floor(e) - hash(Math.floor(a), Math.floor(e) + 7);
    const light =
      Math.exp(-(sx * sx + sy * sy) * 40) * (0.12 + (seed - 0.991) * 130) * Math.min(1, height * 4);
    r += light;
    g += light * 0.97;
    b += light * 0.92;
  }
  const far = 0.06 * fractal(azimuth * 4 + 9, 1, 6) + 0.015 * fractal(azimuth * 30, 4, 3) - 0.008;
  if (dy < far) {
    const m = 0.5 + 0.5 * fractal(azimuth * 60, dy * 160, 4);
    [r, g, b] = [0.1 + 0.06 * m, 0.1 + 0.04 * m, 0.16 + 0.03 * m];
  }
  const near = 0.035 * fractal(azimuth * 7 + 2, 5, 6) - 0.012;
  if (dy < near) {
    const depth = Math.min(1, (near - dy) * 7);
    const woods = fractal(azimuth * 160, dy * 300, 5) - 0.5;
    const slopes = fractal(azimuth * 14 + 5, dy * 26 - azimuth * 9, 5);
    const m = (0.55 + 0.8 * slopes + 0.7 * woods) * (1 - 0.55 * depth);
    [r, g, b] = [0.075 * m + 0.012, 0.078 * m + 0.014, 0.1 * (1 - 0.5 * depth) * m + 0.022];
  }
  return [r, g, b];
}

/** Reflectance, shine and own light of a surface point. */
interface Surface {
  colour: Vector;
  shine: number;
  light: Vector;
}

const grey = (level: number): Vector => [level, level, level];

function surface(kind: Material, x: number, y: number, z: number, ny: number): Surface {
  const none: Vector = [0, 0, 0];
  const angle = Math.atan2(z, x);
  switch (kind) {
    case Material.Ground: {
      const rock = fractal(x * 3, z * 3, 6);
      const grain = fractal(x * 40, z * 40, 4);
      if (ny > 0.78 && rock > 0.45) {
        const blade = fractal(x * 90, z * 30, 3);
        return {
          colour: [0.1 + 0.1 * blade, 0.13 + 0.13 * blade, 0.06 + 0.05 * grain],
          shine: 0,
          light: none,
        };
      }
      const v = 0.8 + 0.4 * grain;
      return {
        colour: [(0.2 + 0.22 * rock) * v, (0.19 + 0.2 * rock) * v, (0.16 + 0.13 * rock) * v],
        shine: 0,
        light: none,
      };
    }
    case Material.Stone: {
      const row = Math.floor(y / 0.14);
      const u = (angle / TURN) * 110 + (row & 1) * 0.5;
      const mortar = Math.abs(wrap(u) - 0.5) > 0.455 || Math.abs(wrap(y / 0.14) - 0.5) > 0.43;
      const v =
        (0.8 + 0.35 * hash(Math.floor(u), row) + 0.3 * (fractal(angle * 90, y * 30, 5) - 0.5)) *
        (mortar ? 0.55 : 1);
      const w = wrap((angle / TURN) * 16);
      if (Math.abs(w - 0.5) < 0.09 && y > 1.25 && y < 1.82) {
        const bar =
          Math.abs(w - 0.5) < 0.006 ||
          Math.abs(y - 1.53) < 0.018 ||
          Math.abs(Math.abs(w - 0.5) - 0.085) < 0.006;
        const lamp = 0.75 + 0.5 * fractal(w * 30 + Math.floor((angle / TURN) * 16) * 7, y * 6, 3);
        return {
          colour: [0.1, 0.08, 0.06],
          shine: 0.2,
          light: bar ? none : [1.15 * lamp, 0.72 * lamp, 0.28 * lamp],
        };
      }
      const spill =
        Math.exp(-Math.max(0, 1.25 - y) * 5) *
        Math.exp(-Math.abs(w - 0.5) * 9) *
        (y < 1.25 ? 0.08 : 0);
      return {
        colour: [0.5 * v, 0.44 * v, 0.37 * v],
        shine: 0.03,
        light: [spill, spill * 0.62, spill * 0.25],
      };
    }
    case Material.Cornice: {
      const v = 0.9 + 0.25 * (fractal(angle * 70, y * 50, 4) - 0.4);
      return { colour: [0.46 * v, 0.45 * v, 0.44 * v], shine: 0.05, light: none };
    }
    case Material.Iron:
      return { colour: [0.16, 0.17, 0.18], shine: 0.5, light: none };
    case Material.Shell: {
      const X = x * SLIT_COS + z * SLIT_SIN;
      const Z = -x * SLIT_SIN + z * SLIT_COS;
      const azimuth = Math.atan2(Z, X);
      const elevation = Math.asin(Math.max(-1, Math.min(1, (y - SPRING) / 3)));
      const panel = Math.floor(azimuth / (TURN / PANELS) + 0.5);
      const row = Math.floor(elevation / 0.2);
      const seam = Math.abs(wrap(elevation / 0.2) - 0.5) > 0.475 ? 0.62 : 1;
      const nearRib = Math.abs(wrap(azimuth / (TURN / PANELS) + 0.5) - 0.5) < 0.05;
      const du = wrap(azimuth * 14) - 0.5;
      const dv = wrap(elevation / 0.05) - 0.5;
      const rivet = nearRib && du * du + dv * dv < 0.0144 ? 0.6 : 1;
      const streak = 0.82 + 0.25 * fractal(azimuth * 40, elevation * 3, 4);
      const v =
        (0.9 + 0.12 * hash(panel, row) + 0.15 * (fractal(azimuth * 22, elevation * 30, 5) - 0.5)) *
        seam *
        rivet *
        streak;
      return { colour: [0.6 * v, 0.63 * v, 0.63 * v], shine: 0.35, light: none };
    }
    case Material.Brass:
      return { colour: [0.5, 0.36, 0.16], shine: 0.8, light: [0.1, 0.05, 0.02] };
    case Material.Brick: {
      const row = Math.floor(y / 0.055);
      const u = (x + z) / 0.19 + (row & 1) * 0.5;
      const joint =
        Math.abs(wrap(y / 0.055) - 0.5) > 0.42 || Math.abs(wrap(u) - 0.5) > 0.465 ? 0.72 : 1;
      const v =
        (0.75 + 0.3 * hash(Math.floor(u), row) + 0.2 * fractal(x * 30 + z * 30, y * 60, 4)) * joint;
      const window =
        Math.abs(wrap(x / 0.85) - 0.5) < 0.2 &&
        Math.abs(y - 0.4) < 0.24 &&
        Math.abs(z - 0.3) > 1.05;
      const bar = Math.abs(wrap(x / 0.85) - 0.5) < 0.015 || Math.abs(y - 0.4) < 0.02;
      return {
        colour: [0.3 * v, 0.17 * v, 0.13 * v],
        shine: 0,
        light: window && !bar ? [1.1, 0.66, 0.25] : none,
      };
    }
    case Material.Tiles: {
      const t = Math.abs(wrap(x / 0.12) - 0.5) > 0.42 ? 0.6 : 1;
      const u = Math.abs(wrap(z / 0.14) - 0.5) > 0.42 ? 0.75 : 1;
      const v = 0.8 + 0.4 * hash(Math.floor(x / 0.12), Math.floor(z / 0.14));
      return {
        colour: [0.16 * t * u * v, 0.14 * t * u * v, 0.15 * t * u * v],
        shine: 0.1,
        light: none,
      };
    }
    case Material.Interior:
      return { colour: grey(0.12), shine: 0, light: [0.03, 0.018, 0.008] };
  }
}

/** Light that leaves a surface point towards the eye. */
function shade(x: number, y: number, z: number, dx: number, dy: number, dz: number): Vector {
  const kind = material;
  // The ground's table is coarse: a wider look hides its cells.
  const e = kind === Material.Ground ? 0.04 : 0.002;
  const [nx, ny, nz] = normalise([
    distance(x + e, y, z) - distance(x - e, y, z),
    distance(x, y + e, z) - distance(x, y - e, z),
    distance(x, y, z + e) - distance(x, y, z - e),
  ]);
  let lit = 1;
  const facing = Math.max(0, nx * SUN[0] + ny * SUN[1] + nz * SUN[2]);
  if (facing > 0) {
    for (let t = 0.05, k = 0; k < 32 && t < 9; k++) {
      const d = distance(x + SUN[0] * t, y + SUN[1] * t, z + SUN[2] * t);
      lit = Math.min(lit, (9 * d) / t);
      if (lit < 0.02) {
        lit = 0;
        break;
      }
      t += Math.max(d, 0.04);
    }
  }
  let open = 1;
  for (let k = 1; k < 5; k++) {
    const d = distance(x + nx * k * 0.13, y + ny * k * 0.13, z + nz * k * 0.13);
    open -= ((k * 0.13 - d) * 0.55) / k;
  }
  open = Math.max(0.15, open);
  const { colour, shine, light } = surface(kind, x, y, z, ny);
  const sun = facing * lit;
  const above = (0.5 + 0.5 * ny) * open;
  const bounce = Math.max(0, -nx * 0.6 + nz * 0.3) * open;
  const [hx, hy, hz] = normalise([SUN[0] - dx, SUN[1] - dy, SUN[2] - dz]);
  const glint = shine * 2 * lit * Math.max(0, nx * hx + ny * hy + nz * hz) ** 40;
  return [
    colour[0] * (1.9 * sun + 0.17 * above + 0.06 * bounce) + light[0] + glint,
    colour[1] * (1.05 * sun + 0.22 * above + 0.04 * bounce) + light[1] + glint * 0.7,
    colour[2] * (0.5 * sun + 0.38 * above + 0.04 * bounce) + light[2] + glint * 0.4,
  ];
}

/** Light along one ray; u, v are picture coordinates about the middle, v upward. */
function trace(u: number, v: number): Vector {
  const [dx, dy, dz] = normalise([
    FORWARD[0] * 1.75 + RIGHT[0] * u + UP[0] * v,
    FORWARD[1] * 1.75 + RIGHT[1] * u + UP[1] * v,
    FORWARD[2] * 1.75 + RIGHT[2] * u + UP[2] * v,
  ]);
  let t = 4;
  for (let k = 0; k < 130 && t < 60; k++) {
    const x = EYE[0] + dx * t;
    const y = EYE[1] + dy * t;
    const z = EYE[2] + dz * t;
    const d = distance(x, y, z);
    if (d < 0.0004 + 0.0006 * t * 0.4) {
      const [r, g, b] = shade(x, y, z, dx, dy, dz);
      const haze = 1 - Math.exp(-Math.max(0, t - 9) * 0.012);
      const air = sky(dx, Math.max(0.01, dy), dz);
      return [
        r * (1 - haze) + air[0] * haze,
        g * (1 - haze) + air[1] * haze,
        b * (1 - haze) + air[2] * haze,
      ];
    }
    t += d * 0.85;
    if (t > 22 && dy > 0.05) break;
  }
  return sky(dx, dy, dz);
}

/** A filmic curve and gamma: scene light to encoded 0–1 (Narkowicz 2015, fitted curve). */
function develop(light: number): number {
  const x = light * 1.02;
  const toned = (x * (2.51 * x + 0.03)) / (x * (2.43 * x + 0.59) + 0.14);
  return Math.max(0, Math.min(1, toned)) ** (1 / 2.2);
}

/**
 * Rows `from` to `to` of the picture, interleaved 8-bit RGB.
 * @param samples rays a pixel along each axis
 */
export function renderDome(
  width: number,
  height: number,
  from: number,
  to: number,
  samples: number,
): Uint8Array {
  const out = new Uint8Array((to - from) * width * 3);
  const share = 1 / (samples * samples);
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      let r = 0;
      let g = 0;
      let b = 0;
      for (let j = 0; j < samples; j++)
        for (let i = 0; i < samples; i++) {
          const u = (((x + (i + 0.5) / samples) / width) * 2 - 1) * 0.62 * (width / height);
          const v = -(((y + (j + 0.5) / samples) / height) * 2 - 1) * 0.62;
          const light = trace(u, v);
          r += Math.min(light[0], 4) * share;
          g += Math.min(light[1], 4) * share;
          b += Math.min(light[2], 4) * share;
        }
      const grain = (hash(x * 3 + 1, y) + hash(x * 3 + 2, y) - 1) * 3;
      const at = ((y - from) * width + x) * 3;
      out[at] = Math.max(0, Math.min(255, develop(r) * 255 + 0.5 + grain));
      out[at + 1] = Math.max(0, Math.min(255, develop(g) * 255 + 0.5 + grain));
      out[at + 2] = Math.max(0, Math.min(255, develop(b) * 255 + 0.5 + grain));
    }
  }
  return out;
}
