import { z } from 'zod';
import { formatNumber } from '../measure/format';
import { MM_PER_INCH } from '../measure/units';
import type { Region, Size } from '../raster/region';
import { say } from '../words/say';

/** The most panels of a print. */
export const MOST_PANELS = 200;

const Mm = z.number().min(0).max(1000);

/** How a print that is wider than what prints it is cut into panels, and what is left about them to be sewn. */
export const Panels = z.object({
  /** pages of a PDF, or files of their own in a ZIP, whichever their format */
  as: z.enum(['pages', 'files']).default('pages'),
  /** side by side, one below the other, or both */
  way: z.enum(['columns', 'rows', 'grid']),
  /** most that a panel may measure, its overlap included, in millimetres */
  widest: z.number().min(10).max(50_000),
  tallest: z.number().min(10).max(50_000),
  /** what neighbours share, in millimetres */
  overlap: Mm,
  /** material that is folded back along all outer edges, and beyond it at the top and bottom for a rod */
  hem: Mm,
  pocket: Mm,
  /** from one eyelet to the next along the outer edges; 0 without any */
  eyelets: z.number().min(0).max(5000),
});
export type Panels = z.infer<typeof Panels>;

/** Panels before anything of them is chosen. */
export const USUAL_PANELS: Panels = {
  ...{
    as: 'pages',
    way: 'columns',
    widest: 1000,
    tallest: 1000,
    overlap: 10,
    hem: 0,
    pocket: 0,
    eyelets: 0,
  },
};

/** One panel: its place among them, counted from 0, and its part of the result, in pixels. */
export interface Panel {
  column: number;
  row: number;
  /** as it is numbered: 3, or B3 where there are several rows */
  name: string;
  region: Region;
}

/** How panels lie, or in words why they can't. */
export type PanelLayout =
  { ok: true; columns: number; rows: number; panels: Panel[] } | { ok: false; reason: string };

/**
 * Cuts a result into panels of equal size, the first at its left and top, neighbours sharing the overlap at least.
 * @param target the result in pixels, bleed included, and its ppi
 */
export function layOutPanels(target: Size & { ppi: number }, panels: Panels): PanelLayout {
  const pixels = (mm: number) => Math.round((mm / MM_PER_INCH) * target.ppi);
  const overlap = pixels(panels.overlap);
  const { way } = panels;
  const across =
    way === 'rows' ? whole(target.width) : cut(target.width, pixels(panels.widest), overlap);
  const down =
    way === 'columns' ? whole(target.height) : cut(target.height, pixels(panels.tallest), overlap);
  if (!across || !down) {
    const side = across ? 'high' : 'wide';
    const most = formatNumber(across ? panels.tallest : panels.widest);
    return {
      ok: false,
      reason: say`Panels of at most ${most} mm can't be ${side} enough for an overlap of ${formatNumber(panels.overlap)} mm: they have to be more than twice as ${side}.`,
    };
  }
  const [columns, rows] = [across.starts.length, down.starts.length];
  if (columns * rows > MOST_PANELS) {
    return {
      ok: false,
      reason: say`That makes ${columns * rows} panels, more than ${MOST_PANELS}. Make them larger.`,
    };
  }
  const list = down.starts.flatMap((y, row) =>
    across.starts.map((x, column) => ({
      ...{ column, row, name: nameOf(column, row, rows) },
      region: { x, y, width: across.size, height: down.size },
    })),
  );
  return { ok: true, columns, rows, panels: list };
}

/** Letters for rows, numbers for columns. */
const nameOf = (column: number, row: number, rows: number): string =>
  rows === 1 ? String(column + 1) : `${letters(row)}${column + 1}`;

const letters = (n: number): string =>
  (n >= 26 ? letters(Math.floor(n / 26) - 1) : '') + String.fromCharCode(65 + (n % 26));

const whole = (side: number) => ({ size: side, starts: [0] });

/** Parts of a side that are as long as each other and as few as can be; null where they are too narrow to overlap. */
function cut(
  side: number,
  most: number,
  overlap: number,
): { size: number; starts: number[] } | null {
  if (most >= side) return whole(side);
  if (most <= 2 * overlap) return null;
  const count = Math.ceil((side - overlap) / (most - overlap));
  const size = Math.ceil((side + (count - 1) * overlap) / count);
  return {
    size,
    starts: Array.from({ length: count }, (_, i) => Math.round((i * (side - size)) / (count - 1))),
  };
}
