import { format } from 'date-fns';
import { rm } from 'node:fs/promises';
import { resolve } from 'node:path';
import { EVIDENCE_ROWS, figureWords } from '@/core/evidence/rows';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { SHEET_MOST, type SheetPaper, type SheetWords } from '@/core/shop/sheet';
import { screenTableOf } from '@/server/codecs/pictures';
import type { RawFile } from '@/server/codecs/raw';
import { Problem } from '@/server/problem';
import type { SheetPane } from '@/server/sheet/pane';
import { writeSheet } from '@/server/sheet/write-sheet';
import type { Report } from './compare';
import type { Input } from './input';
import { placesOf } from './places';

/** What prints are taken to be where no file says it, in pixels per inch. */
const USUAL_PPI = 150;

interface Compared {
  input: Input;
  original: RawFile;
  others: readonly { other: Input; picture: RawFile }[];
  report: Report;
}

/**
 * Writes a comparison sheet of files of the same paper, at the size that the first of the results says it prints at.
 * @throws Problem where there are more files than have room beside each other, or the sheet can't be written
 */
export async function sheet(
  { sheet: out, paper }: { sheet?: string; paper: SheetPaper },
  { input, original, others, report }: Compared,
): Promise<void> {
  if (others.length > SHEET_MOST.trials) {
    throw new Problem(
      'usage',
      `A sheet has room for ${SHEET_MOST.trials} results beside the original; there are ${others.length}. Nothing was written.`,
    );
  }
  const [first] = others as [(typeof others)[number]];
  const tagged = first.other.findings.ppi?.x ?? null;
  const inches = first.picture.size.width / (tagged ?? USUAL_PPI);
  const files = [{ other: input, picture: original }, ...others];
  const panes = await Promise.all(
    files.map(async ({ other, picture }): Promise<SheetPane> => {
      const table = other.profile && (await screenTableOf(other.profile));
      return { picture, ppi: picture.size.width / inches, table: table ?? new Uint8Array() };
    }),
  );
  const high = (original.size.height / original.size.width) * inches;
  const cm = (side: number) => formatNumber((side * MM_PER_INCH) / 10, 1);
  const words: SheetWords = {
    paper,
    heading: input.name,
    print: `${cm(inches)} × ${cm(high)} cm${tagged ? '' : ` (no file says its size: taken at ${USUAL_PPI} ppi)`}`,
    date: format(Date.now(), 'd MMM yyyy'),
    stops: await placesOf(input, original),
    panes: files.map(({ other, picture }, i) => ({
      name: i === 0 ? 'Original' : other.name,
      made: `${picture.size.width} × ${picture.size.height}, ${formatPpi(panes[i]!.ppi)} ppi`,
      settings: [],
    })),
    rows: EVIDENCE_ROWS.map((row) => ({
      title: `${row.title}, ${row.unit}`,
      better: `${row.good} is ${row.means}`,
      figures: [
        figureWords(row, row.ofOriginal?.({ ...report.original, edgeRisePx: null }) ?? null),
        ...report.trials.map((trial) => figureWords(row, row.of(trial))),
      ],
    })),
  };
  const path = resolve(out!);
  try {
    await writeSheet(path, words, { panes });
  } catch (error) {
    await rm(path, { force: true }).catch(() => {});
    const { code } = error as NodeJS.ErrnoException;
    if (!code) throw error;
    throw new Problem('work', `The sheet can't be written to ${path} (${code}). Nothing was kept.`);
  }
}
