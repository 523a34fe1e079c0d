/** A rectangle of whole pixels; `x`, `y` is its upper left corner on its own grid. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A grid's extent in whole pixels. */
export interface Size {
  width: number;
  height: number;
}

/** The whole of a grid as a region. */
export const whole = (size: Size): Region => ({
  x: 0,
  y: 0,
  width: size.width,
  height: size.height,
});

/** `region` with `reach` pixels more on every side, cut off at the borders of `size`. */
export function grow(region: Region, reach: number, size: Size): Region {
  return clip(
    {
      x: region.x - reach,
      y: region.y - reach,
      width: region.width + 2 * reach,
      height: region.height + 2 * reach,
    },
    size,
  );
}

/** The part of `region` that lies on a grid of `size`; width and height are 0 where there is none. */
export function clip(region: Region, size: Size): Region {
  const x = Math.min(Math.max(region.x, 0), size.width);
  const y = Math.min(Math.max(region.y, 0), size.height);
  const right = Math.min(Math.max(region.x + region.width, x), size.width);
  const bottom = Math.min(Math.max(region.y + region.height, y), size.height);
  return { x, y, width: right - x, height: bottom - y };
}

/** The part of `cell` that lies in `region`, both on one grid; width or height is 0 where there is none. */
export function within(cell: Region, region: Region): Region {
  const moved = { ...cell, x: cell.x - region.x, y: cell.y - region.y };
  const inside = clip(moved, { width: region.width, height: region.height });
  return { ...inside, x: inside.x + region.x, y: inside.y + region.y };
}

/** `region` moved outward to multiples of `step`, cut off at the borders of `size`. */
export function alignOutward(region: Region, step: number, size: Size): Region {
  const x = Math.floor(region.x / step) * step;
  const y = Math.floor(region.y / step) * step;
  return clip(
    {
      x,
      y,
      width: Math.ceil((region.x + region.width) / step) * step - x,
      height: Math.ceil((region.y + region.height) / step) * step - y,
    },
    size,
  );
}

/** Whether every pixel of `inner` lies in `outer`. */
export const contains = (outer: Region, inner: Region): boolean =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height;

/** The smallest region that holds both. */
export function union(a: Region, b: Region): Region {
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** Cuts a grid into bands of at most `rows` rows, top to bottom. */
export function strips(size: Size, rows: number): Region[] {
  const result: Region[] = [];
  for (let y = 0; y < size.height; y += rows) {
    result.push({ x: 0, y, width: size.width, height: Math.min(rows, size.height - y) });
  }
  return result;
}

/** The cells of an absolute grid that touch `region`, each cut off at the borders of `size`. @param cell its sides */
export function cells(region: Region, cell: number | Size, size: Size): Region[] {
  const { width, height } = typeof cell === 'number' ? { width: cell, height: cell } : cell;
  const result: Region[] = [];
  const firstY = Math.floor(region.y / height) * height;
  const firstX = Math.floor(region.x / width) * width;
  for (let y = firstY; y < region.y + region.height; y += height) {
    for (let x = firstX; x < region.x + region.width; x += width) {
      const part = clip({ x, y, width, height }, size);
      if (part.width > 0 && part.height > 0) result.push(part);
    }
  }
  return result;
}

/**
 * Sides of cells that share a grid out evenly: as few as may be, none larger than `most`.
 * @param step what their sides are multiples of; `most` is one as well
 */
export function evenCell(size: Size, most: number, step: number): Size {
  const side = (of: number) => Math.ceil(of / Math.ceil(of / most) / step) * step;
  return { width: side(size.width), height: side(size.height) };
}

/** The parts of a region above, below, left and right of a part of it. */
export function beside(region: Region, inner: Region): Region[] {
  const [right, bottom] = [inner.x + inner.width, inner.y + inner.height];
  const size = { width: region.x + region.width, height: region.y + region.height };
  return [
    { ...region, height: inner.y - region.y },
    { ...region, y: bottom, height: size.height - bottom },
    { x: region.x, y: inner.y, width: inner.x - region.x, height: inner.height },
    { x: right, y: inner.y, width: size.width - right, height: inner.height },
  ]
    .map((part) => clip(part, size))
    .filter(({ width, height }) => width > 0 && height > 0);
}
