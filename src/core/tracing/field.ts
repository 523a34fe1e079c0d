import type { Raster } from '../raster/raster';

/** Colours on a lattice, between which they go over evenly. */
export interface Field {
  /** where its first node lies, and how far one lies from the next */
  x: number;
  y: number;
  step: number;
  across: number;
  down: number;
  /** of each channel, row by row */
  values: Float64Array[];
}

/** Pixels from node to node. */
const STEP = 12;
/** Pixels about a node, weighed, that tell how its colour changes. */
const ENOUGH = 40;

/** The field's value at a place, in one channel; beyond its rim that of the rim. */
export function fieldAt(
  { x, y, step, across, down, values }: Field,
  channel: number,
  atX: number,
  atY: number,
): number {
  const u = Math.min(across - 1, Math.max(0, (atX - x) / step));
  const v = Math.min(down - 1, Math.max(0, (atY - y) / step));
  const column = Math.min(across - 2, Math.floor(u));
  const row = Math.min(down - 2, Math.floor(v));
  const [s, t] = [u - column, v - row];
  const plane = values[channel]!;
  const i = row * across + column;
  const above = plane[i]! + s * (plane[i + 1]! - plane[i]!);
  const below = plane[i + across]! + s * (plane[i + across + 1]! - plane[i + across]!);
  return above + t * (below - above);
}

type Plane = Float64Array;
type SixPlanes = [Plane, Plane, Plane, Plane, Plane, Plane];

/** What is summed up about each node: weights, their moments, and those with each channel's values. */
const MOMENTS = 6;

/** Gathers a field from some pixels of a picture. @param box what holds them */
export class FieldOf {
  private readonly field: Field;
  private readonly moments: Float64Array[];
  /** of each channel: value, and value by x and y */
  private readonly sums: Float64Array[];

  constructor(
    private readonly picture: Raster,
    box: { x: number; y: number; width: number; height: number },
  ) {
    const across = Math.max(2, Math.ceil(box.width / STEP) + 1);
    const down = Math.max(2, Math.ceil(box.height / STEP) + 1);
    const nodes = across * down;
    this.field = {
      ...{ x: box.x, y: box.y, step: STEP, across, down },
      values: picture.planes.map(() => new Float64Array(nodes)),
    };
    this.moments = Array.from({ length: MOMENTS }, () => new Float64Array(nodes));
    this.sums = Array.from({ length: 3 * picture.planes.length }, () => new Float64Array(nodes));
  }

  /** Takes a pixel in. */
  add(i: number): void {
    const { x, y, across, down } = this.field;
    const { width, planes } = this.picture;
    const atX = ((i % width) + 0.5 - x) / STEP;
    const atY = (Math.floor(i / width) + 0.5 - y) / STEP;
    const column = Math.min(across - 2, Math.floor(atX));
    const row = Math.min(down - 2, Math.floor(atY));
    const [all, byX, byY, byXX, byXY, byYY] = this.moments as SixPlanes;
    for (let k = 0; k < 4; k++) {
      const nodeX = column + (k & 1);
      const nodeY = row + (k >> 1);
      const node = nodeY * across + nodeX;
      const u = atX - nodeX;
      const v = atY - nodeY;
      const weight = Math.max(0, 1 - Math.abs(u)) * Math.max(0, 1 - Math.abs(v));
      all[node]! += weight;
      byX[node]! += weight * u;
      byY[node]! += weight * v;
      byXX[node]! += weight * u * u;
      byXY[node]! += weight * u * v;
      byYY[node]! += weight * v * v;
      for (let c = 0; c < planes.length; c++) {
        const value = weight * planes[c]![i]!;
        this.sums[3 * c]![node]! += value;
        this.sums[3 * c + 1]![node]! += value * u;
        this.sums[3 * c + 2]![node]! += value * v;
      }
    }
  }

  /** The field: at each node what a plane through the pixels about it has there, elsewhere what lies nearest. */
  made(): Field {
    const { across, down, values } = this.field;
    const known = new Uint8Array(across * down);
    for (let node = 0; node < known.length; node++) {
      const [w, u, v, uu, uv, vv] = this.moments.map((moment) => moment[node]!) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      if (w <= 0) continue;
      known[node] = 1;
      // By Cramer's rule: the plane's height where the node lies.
      const [a, b, c] = [uu * vv - uv * uv, uv * v - u * vv, u * uv - uu * v];
      const determinant = w * a + u * b + v * c;
      const firm = w >= ENOUGH && determinant > 1e-3 * w * w * w;
      values.forEach((plane, channel) => {
        const [s, su, sv] = [0, 1, 2].map((k) => this.sums[3 * channel + k]![node]!) as [
          number,
          number,
          number,
        ];
        plane[node] = firm ? (a * s + b * su + c * sv) / determinant : s / w;
      });
    }
    spread(values, known, across, down);
    return this.field;
  }
}

/** Gives unknown nodes the mean of the known ones beside them, from there on outward. */
function spread(
  values: readonly Float64Array[],
  known: Uint8Array,
  across: number,
  down: number,
): void {
  let rim: number[] = [];
  for (let i = 0; i < known.length; i++) if (known[i]) rim.push(i);
  const beside = (i: number): number[] => {
    const x = i % across;
    return [
      ...(x > 0 ? [i - 1] : []),
      ...(x < across - 1 ? [i + 1] : []),
      ...(i >= across ? [i - across] : []),
      ...(i < across * (down - 1) ? [i + across] : []),
    ];
  };
  while (rim.length > 0) {
    const next = [...new Set(rim.flatMap(beside).filter((i) => !known[i]))];
    for (const i of next) {
      const from = beside(i).filter((j) => known[j]);
      for (const plane of values)
        plane[i] = from.reduce((sum, j) => sum + plane[j]!, 0) / from.length;
    }
    for (const i of next) known[i] = 1;
    rim = next;
  }
}
