import { rotation } from '../../frame/framing';
import type { Region, Size } from '../../raster/region';

/** A resampling whose target grid may lie at an angle on the frame. */
export interface Slant {
  /** rectangle of the straightened frame that the target shows, in its pixels */
  source: Region;
  target: Size;
  frame: Size;
  /** clockwise, in degrees */
  degrees: number;
}

/** Where target pixels lie on the frame as it came: centre = origin + column x across + row x down. */
export interface Walk {
  x: number;
  y: number;
  acrossX: number;
  acrossY: number;
  downX: number;
  downY: number;
}

/** Half-pixel centres; frame pixel 0 is centred at 0. */
export function walk({ source, target, frame, degrees }: Slant): Walk {
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

/** How much wider a kernel is than when enlarging, so that reducing doesn't alias. */
export const widening = ({ source, target }: Slant): number =>
  Math.max(1, source.width / target.width, source.height / target.height);

/** The part of the frame that `region` of the target needs, `support` source pixels about centres. */
export function pullAround(slant: Slant, region: Region, support: number): Region {
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const reach = Math.ceil(support) + 1;
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
