import { rotation } from '../../frame/framing';
import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region, Size } from '../../raster/region';
import { kernels, type Kernel, type Method } from './kernels';

/** A resampling whose target grid lies at an angle on the frame. */
export interface Slant {
  method: Method;
  /** rectangle of the straightened frame that the target shows, in its pixels */
  source: Region;
  target: Size;
  frame: Size;
  /** clockwise, in degrees */
  degrees: number;
}

/** Where target pixels lie on the frame as it came: centre = origin + column x across + row x down. */
interface Walk {
  x: number;
  y: number;
  acrossX: number;
  acrossY: number;
  downX: number;
  downY: number;
}

/** Half-pixel centres; frame pixel 0 is centred at 0. */
function walk({ source, target, frame, degrees }: Slant): Walk {
  const { cos, sin } = rotation(degrees);
  const stepX = source.width / target.width;
  const stepY = source.height / target.height;
  const x = source.x + stepX / 2 - frame.width / 2;
  const y = source.y + stepY / 2 - frame.height / 2;
  return {
    x: frame.width / 2 + x * cos + y * sin - 0.5,
    y: frame.height / 2 - x * sin + y * cos - 0.5,
    acrossX: stepX * cos,
    acrossY: -stepX * sin,
    downX: stepY * sin,
    downY: stepY * cos,
  };
}

const radiusOf = (method: Method): number => (method === 'nearest' ? 0.5 : kernels[method].radius);

/** How much wider the kernel is than when enlarging, so that reducing doesn't alias. */
const widening = ({ source, target }: Slant): number =>
  Math.max(1, source.width / target.width, source.height / target.height);

/** The part of the frame that `region` of the target needs. */
export function slantedPull(slant: Slant, region: Region): Region {
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const reach = Math.ceil(radiusOf(slant.method) * widening(slant)) + 1;
  const columns = [region.x, region.x + region.width - 1];
  const rows = [region.y, region.y + region.height - 1];
  const corners = columns.flatMap((u) =>
    rows.map((v) => [x + u * acrossX + v * downX, y + u * acrossY + v * downY] as const),
  );
  const span = (values: number[], size: number) => {
    // Centres beyond the rim stand on it, and reach inward from there.
    const within = values.map((value) => Math.min(Math.max(value, 0), size - 1));
    const first = Math.max(Math.floor(Math.min(...within)) - reach, 0);
    const last = Math.min(Math.ceil(Math.max(...within)) + reach, size - 1);
    return { first, length: last - first + 1 };
  };
  const across = span(
    corners.map(([u]) => u),
    slant.frame.width,
  );
  const down = span(
    corners.map(([, v]) => v),
    slant.frame.height,
  );
  return { x: across.first, y: down.first, width: across.length, height: down.length };
}

/** Samples of a kernel a source pixel; between them it is taken as straight. */
const FINENESS = 1024;
const tables = new Map<Method, Float64Array>();

function tableOf(method: Exclude<Method, 'nearest'>): Float64Array {
  let table = tables.get(method);
  if (!table) {
    const kernel: Kernel = kernels[method];
    table = Float64Array.from({ length: kernel.radius * FINENESS + 2 }, (_, i) =>
      kernel.weight(i / FINENESS),
    );
    tables.set(method, table);
  }
  return table;
}

/** Kernel weights of the `count` pixels from `first` on, around `centre`; returns their sum. */
function weigh(
  weights: Float64Array,
  table: Float64Array,
  first: number,
  count: number,
  centre: number,
  scale: number,
): number {
  let sum = 0;
  for (let k = 0; k < count; k++) {
    const at = Math.abs(first + k - centre) * scale;
    const i = Math.floor(at);
    const weight = i + 1 < table.length ? table[i]! + (at - i) * (table[i + 1]! - table[i]!) : 0;
    weights[k] = weight;
    sum += weight;
  }
  return sum;
}

/**
 * Resampling at an angle: straightening and enlarging in one go, so that pixels are made anew only
 * once. The kernel stands upright on the frame, its taps outside are left out and the rest
 * renormalised, as in the upright resampling.
 */
export function resampleSlanted(input: Window, slant: Slant, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, input.raster.planes.length);
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const { method, frame } = slant;
  const { region: covered, raster } = input;
  const planes = raster.planes;
  const widened = widening(slant);
  const support = radiusOf(method) * widened;
  const table = method === 'nearest' ? null : tableOf(method);
  const across = new Float64Array(Math.ceil(2 * support) + 2);
  const down = new Float64Array(across.length);
  const sums = new Float64Array(planes.length);

  for (let v = 0, i = 0; v < region.height; v++) {
    for (let u = 0; u < region.width; u++, i++) {
      const cx = x + (region.x + u) * acrossX + (region.y + v) * downX;
      const cy = y + (region.x + u) * acrossY + (region.y + v) * downY;
      if (!table) {
        const px = Math.min(Math.max(Math.round(cx), 0), frame.width - 1);
        const py = Math.min(Math.max(Math.round(cy), 0), frame.height - 1);
        const at = (py - covered.y) * covered.width + px - covered.x;
        for (let c = 0; c < planes.length; c++) result.planes[c]![i] = planes[c]![at]!;
        continue;
      }
      // A centre beyond the rim stands on it: there is nothing out there to weigh.
      const inX = Math.min(Math.max(cx, 0), frame.width - 1);
      const inY = Math.min(Math.max(cy, 0), frame.height - 1);
      const left = Math.max(Math.floor(inX - support) + 1, 0);
      const top = Math.max(Math.floor(inY - support) + 1, 0);
      const columns = Math.min(Math.ceil(inX + support) - 1, frame.width - 1) - left + 1;
      const rows = Math.min(Math.ceil(inY + support) - 1, frame.height - 1) - top + 1;
      const scale = FINENESS / widened;
      const total =
        weigh(across, table, left, columns, inX, scale) * weigh(down, table, top, rows, inY, scale);
      sums.fill(0);
      for (let r = 0; r < rows; r++) {
        const line = (top + r - covered.y) * covered.width + left - covered.x;
        const weight = down[r]!;
        for (let c = 0; c < planes.length; c++) {
          const plane = planes[c]!;
          let sum = 0;
          for (let k = 0; k < columns; k++) sum += across[k]! * plane[line + k]!;
          sums[c]! += weight * sum;
        }
      }
      for (let c = 0; c < planes.length; c++) result.planes[c]![i] = sums[c]! / total;
    }
  }
  return result;
}
