import { basename } from 'node:path';
import {
  EvidenceTable,
  sameShape,
  type Evidence,
  type SeenFigures,
} from '@/core/evidence/evidence';
import { EVIDENCE_ROWS, figureWords, type EvidenceRow } from '@/core/evidence/rows';
import type { Size } from '@/core/raster/region';
import { ownGrid } from '@/core/inspect/jpeg';
import type { SheetPaper } from '@/core/shop/sheet';
import { openRaw, type RawFile } from '@/server/codecs/raw';
import { Problem } from '@/server/problem';
import { withDecoded, type Input } from './input';
import { sheet } from './sheet';

/** What was compared, with flat, stable keys for scripts. */
export interface Report {
  original: { file: string } & Omit<SeenFigures, 'edgeRisePx'>;
  trials: ({ file: string; width: number; height: number } & Evidence)[];
}

interface Options {
  json?: boolean;
  page: number;
  sheet?: string;
  paper: SheetPaper;
}

/** Says how pictures of the same paper hold up beside the original that they were made from. */
export const compare = (
  file: string,
  results: readonly string[],
  options: Options,
): Promise<void> =>
  withDecoded(file, options.page, async (input) => {
    const original = await pixelsOf(input);
    const own = ownGrid(input.findings.jpeg);
    const table = await EvidenceTable.begin({ original, own });
    const { edgeRisePx: _, ...seen } = await table.ofOriginal(1);
    const report: Report = { original: { file: input.name, ...seen }, trials: [] };
    const others: { other: Input; picture: RawFile }[] = [];
    /** Decodes one after another, each kept until the sheet is written. */
    const next = async (rest: readonly string[]): Promise<void> => {
      const [result, ...more] = rest;
      if (result === undefined) {
        if (options.sheet) await sheet(options, { input, original, others, report });
        return;
      }
      await withDecoded(result, 1, async (other) => {
        const picture = await pixelsOf(other);
        refuseOther(input, other);
        report.trials.push({
          ...{ file: other.name, ...picture.size },
          ...(await table.ofResult(picture)),
        });
        others.push({ other, picture });
        await next(more);
        await picture.close();
      });
    };
    await next(results);
    await original.close();
    console.log(options.json ? JSON.stringify(report) : words(report));
  });

async function pixelsOf({ findings, raw, name }: Input) {
  if (findings.vector) {
    throw new Problem(
      'input',
      `${name} holds shapes: it has no pixels to be compared. Nothing was written.`,
    );
  }
  return openRaw(raw);
}

const sizeWords = ({ width, height }: Size): string => `${width} x ${height}`;

function refuseOther(original: Input, other: Input): void {
  const [a, b] = [original.findings, other.findings];
  const both = `${basename(other.file)} is ${sizeWords(b)}, ${original.name} ${sizeWords(a)}`;
  if (!sameShape(a, b)) {
    throw new Problem(
      'input',
      `${both}: pictures of different shapes can't lie on the same paper. Crop one of them as the other was; nothing was compared.`,
    );
  }
  if (b.width < a.width || b.height < a.height) {
    throw new Problem('input', `${both}: name the larger one after the original.`);
  }
}

/** A figure with its unit, as one line of text has room for it. */
const figure = (row: EvidenceRow, value: number | null): string =>
  value === null ? '-' : `${figureWords(row, value)} ${row.unit}`;

function words({ original, trials }: Report): string {
  const line = (cells: readonly string[]) =>
    cells
      .map((cell, i) => cell.padEnd(i === 0 ? 15 : 20))
      .join('')
      .trimEnd();
  return [
    `${original.file}: blocks ${original.blocking.toFixed(0)}, noise ${original.noise.toFixed(2)} levels`,
    line(['', ...trials.map(({ file }) => file), 'better']),
    ...EVIDENCE_ROWS.map((row) =>
      line([
        row.title.toLowerCase(),
        ...trials.map((trial) => figure(row, row.of(trial))),
        `${row.good} is ${row.means}`,
      ]),
    ),
  ].join('\n');
}
