import type { Rect } from '../frame/framing';
import { MM_PER_INCH } from '../measure/units';
import type { Size } from '../raster/region';
import { NO_MARKS } from './marks';
import { layOutPage, POINTS, type PageLayout, type Stroke } from './page';
import type { Panel, PanelLayout, Panels } from './panels';

const PT = POINTS / MM_PER_INCH;

/** What lies about all panels, in millimetres: what is folded back, and at the top and bottom a pocket beyond it. */
const outerOf = ({ hem, pocket }: Panels, at: 'side' | 'end'): number =>
  at === 'side' ? hem : hem + pocket;

interface Laid {
  target: Size & { ppi: number };
  panels: Panels;
  layout: Extract<PanelLayout, { ok: true }>;
}

/** Whether an edge of a panel is one of the whole print. */
const outer = ({ column, row }: Panel, { columns, rows }: Laid['layout']) => ({
  left: column === 0,
  right: column === columns - 1,
  top: row === 0,
  bottom: row === rows - 1,
});

/** A panel's own page: its picture, what is left about it, and where it is cut, folded, joined and pierced. */
export function layOutPanelPage({ target, panels, layout }: Laid, panel: Panel): PageLayout {
  const { ppi } = target;
  const { region } = panel;
  const at = outer(panel, layout);
  const margin = {
    left: at.left ? outerOf(panels, 'side') * PT : 0,
    right: at.right ? outerOf(panels, 'side') * PT : 0,
    top: at.top ? outerOf(panels, 'end') * PT : 0,
    bottom: at.bottom ? outerOf(panels, 'end') * PT : 0,
  };
  const points = (pixels: number) => (pixels / ppi) * POINTS;
  // Laid out as a print of the material's size, whose marks say where it is cut.
  const material = {
    width: ((points(region.width) + margin.left + margin.right) / POINTS) * ppi,
    height: ((points(region.height) + margin.top + margin.bottom) / POINTS) * ppi,
  };
  const marks = { ...NO_MARKS, crop: true, slug: true };
  const page = layOutPage({ ...material, ppi, bleed: 0 }, marks);
  const picture: Rect = {
    x: page.trim.x + margin.left,
    y: page.trim.y + margin.bottom,
    width: points(region.width),
    height: points(region.height),
  };
  const strokes = [
    ...page.strokes,
    ...foldsOf(page.trim, picture, margin),
    ...joinsOf({ target, panels, layout }, panel, page.trim, picture),
  ];
  const targets = eyeletsOf({ target, panels, layout }, panel, picture);
  return { ...page, picture, strokes, targets };
}

const GAP = 2 * PT;
const LENGTH = 5 * PT;

const upright = (x: number, { y, height }: Rect): Stroke[] => [
  { from: { x, y: y - GAP }, to: { x, y: y - GAP - LENGTH }, dashed: true },
  { from: { x, y: y + height + GAP }, to: { x, y: y + height + GAP + LENGTH }, dashed: true },
];
const level = (y: number, { x, width }: Rect): Stroke[] => [
  { from: { x: x - GAP, y }, to: { x: x - GAP - LENGTH, y }, dashed: true },
  { from: { x: x + width + GAP, y }, to: { x: x + width + GAP + LENGTH, y }, dashed: true },
];

/** Where material is folded back: along the picture's outer edges. */
function foldsOf(
  trim: Rect,
  picture: Rect,
  margin: Record<'left' | 'right' | 'top' | 'bottom', number>,
): Stroke[] {
  return [
    ...(margin.left > 0 ? upright(picture.x, trim) : []),
    ...(margin.right > 0 ? upright(picture.x + picture.width, trim) : []),
    ...(margin.bottom > 0 ? level(picture.y, trim) : []),
    ...(margin.top > 0 ? level(picture.y + picture.height, trim) : []),
  ];
}

/** How far the neighbour before reaches over: left of it and above it. */
function joinsOf({ target, layout }: Laid, panel: Panel, trim: Rect, picture: Rect): Stroke[] {
  const points = (pixels: number) => (pixels / target.ppi) * POINTS;
  const find = (column: number, row: number) =>
    layout.panels.find((one) => one.column === column && one.row === row);
  const { column, row, region } = panel;
  const left = find(column - 1, row)?.region;
  const above = find(column, row - 1)?.region;
  return [
    ...(left ? upright(picture.x + points(left.x + left.width - region.x), trim) : []),
    ...(above
      ? level(picture.y + picture.height - points(above.y + above.height - region.y), trim)
      : []),
  ];
}

/** The radius of an eyelet's mark. */
const EYELET = 2.5 * PT;

/** Eyelets in the middle of the hem, evenly along the whole print's edges: those that lie on this panel. */
function eyeletsOf({ target, panels }: Laid, panel: Panel, picture: Rect): PageLayout['targets'] {
  const { hem, eyelets } = panels;
  if (eyelets === 0 || hem === 0) return [];
  const { region } = panel;
  const pixels = (mm: number) => (mm / MM_PER_INCH) * target.ppi;
  const points = (px: number) => (px / target.ppi) * POINTS;
  const half = pixels(hem) / 2;
  const along = (side: number) => {
    const count = Math.max(1, Math.round(side / pixels(eyelets)));
    return Array.from({ length: count + 1 }, (_, i) => (i * side) / count);
  };
  const corners = new Set<string>();
  const all = [
    ...along(target.width).flatMap((x) => [
      { x, y: -half },
      { x, y: target.height + half },
    ]),
    ...along(target.height).flatMap((y) => [
      { x: -half, y },
      { x: target.width + half, y },
    ]),
  ];
  return all
    .filter(
      ({ x, y }) =>
        x >= region.x - half - 1 &&
        x <= region.x + region.width + half + 1 &&
        y >= region.y - half - 1 &&
        y <= region.y + region.height + half + 1,
    )
    .filter(({ x, y }) => {
      const key = `${Math.round(x)} ${Math.round(y)}`;
      const first = !corners.has(key);
      corners.add(key);
      return first;
    })
    .map(({ x, y }) => ({
      x: picture.x + points(x - region.x),
      y: picture.y + picture.height - points(y - region.y),
      radius: EYELET,
    }));
}

/** How much smaller the drawing of the assembly is. */
export const ASSEMBLY_SCALE = 50;
/** About the drawing, in points. */
const RIM = 15 * PT;

/** A drawing of how panels lie, at 1:50: the panels' outlines, and where each name stands, in points. */
export interface Assembly {
  media: Size;
  outlines: { rect: Rect; name: string }[];
  /** the printed face, without what is folded back */
  face: Rect;
}

/** @param size the whole print in pixels and its ppi */
export function layOutAssembly({ target, panels, layout }: Laid): Assembly {
  const points = (pixels: number) => ((pixels / target.ppi) * POINTS) / ASSEMBLY_SCALE;
  const side = (outerOf(panels, 'side') * PT) / ASSEMBLY_SCALE;
  const end = (outerOf(panels, 'end') * PT) / ASSEMBLY_SCALE;
  const [width, height] = [points(target.width), points(target.height)];
  // Room for a line of words, however small the print is.
  const media = {
    width: Math.max(width + 2 * side + 2 * RIM, 120 * PT),
    height: height + 2 * end + 3 * RIM,
  };
  const face = { x: RIM + side, y: 2 * RIM + end, width, height };
  return {
    ...{ media, face },
    outlines: layout.panels.map(({ region, name }) => ({
      name,
      rect: {
        x: face.x + points(region.x),
        y: face.y + height - points(region.y + region.height),
        width: points(region.width),
        height: points(region.height),
      },
    })),
  };
}
