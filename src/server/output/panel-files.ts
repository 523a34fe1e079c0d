import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { formatNumber } from '@/core/measure/format';
import { formatOf } from '@/core/output/formats';
import { ASSEMBLY_SCALE, layOutAssembly } from '@/core/output/panel-page';
import { layOutPanels, type Panel, type Panels } from '@/core/output/panels';
import { slugLine } from '@/core/output/facts';
import type { Recipe } from '@/core/recipe/recipe';
import { digestOfFile } from '../files/digest';
import { readWhole } from '../files/whole-io';
import { Problem } from '../problem';
import type { Described } from './described';
import { writePdf } from './pdf-document';
import { assemblyContent } from './pdf-page';
import { differingRows, tiffRows } from './pixels';
import { beginPlain, looked, rowComplaint } from './plain';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';
import { lineOf, partOf, rowSum, type RowSums, type SampleFile } from './samples';
import { writeAll } from './write-all';

/** The drawing of how panels are joined. */
const ASSEMBLY = 'assembly.pdf';
/** A ZIP's times are those of its files; files of a result have none, so that the same run gives the same bytes. */
const HELD = {
  ...{ compress: false, mode: 0o100644 },
  ...{ mtime: new Date(1980, 0, 1), forceDosTimestamp: true },
};

/**
 * Writes panels as files of their own, each in the result's format and read back, in one ZIP with a drawing of how they are
 * joined.
 * @param writerOf writes one of them
 */
export function panelFilesWriter(
  of: ToWrite,
  panels: Panels,
  writerOf: (of: ToWrite) => ResultWriter,
): ResultWriter {
  const { recipe, part, signal } = of;
  const { target } = recipe;
  const plain = `${part}.tif`;
  const zip = `${part}.zip`;
  const drawing = `${part}.assembly`;
  const laid = layOutPanels(target, panels);
  if (!laid.ok) throw new Problem('usage', laid.reason);
  const each = laid.panels.map((panel, i) => {
    const one = asPanel(of, panel, laid.panels.length, `${part}.panel${i}`);
    return { panel, one, writer: writerOf(one) };
  });
  let samples: SampleFile | undefined;
  /** what was put into the archive: the digest of every file, and what was found wrong with it */
  const inside = new Map<string, string>();
  const wrong: string[] = [];
  let described: Described | undefined;

  async function writePanel({ panel, writer }: (typeof each)[number]): Promise<string> {
    const from = partOf(samples!, panel.region);
    const sums = await copyRows(from, await writer.begin());
    const finished = await writer.end(() => {});
    signal?.throwIfAborted();
    const { found, complaints } = await writer.verify([sums], () => {});
    wrong.push(...complaints.map((words) => `Panel ${panel.name}: ${words}`));
    described ??= found;
    return finished;
  }

  return {
    begin: async (goesOn) => (samples = await beginPlain(of, plain, goesOn)),
    end: async (told) => {
      const archive = new yazl.ZipFile();
      const written = pipeline(archive.outputStream, createWriteStream(zip));
      written.catch(() => {});
      const add = async (path: string, name: string) => {
        inside.set(name, await digestOfFile(path));
        archive.addFile(path, name, HELD);
      };
      for (const [i, one] of each.entries()) {
        await add(await writePanel(one), nameOf(recipe, one.panel, each.length));
        told((i + 1) / (each.length + 1));
      }
      const { media, ...drawn } = layOutAssembly({ target, panels, layout: laid });
      const content = assemblyContent({ media, ...drawn }, assemblyWords(of, each.length));
      await writePdf(of, samples!, drawing, [], () => {}, [{ media, content }]);
      await add(drawing, ASSEMBLY);
      archive.end();
      await written;
      return zip;
    },
    verify: async (computed, told) => {
      const half: ShareDone = (share) => told(share / 2);
      const rows = looked(of, tiffRows(plain, samples!, signal), samples!, half);
      const pixels = rowComplaint(await differingRows(rows, samples!, computed));
      const kept = await archiveComplaints(zip, inside);
      const { size: bytes } = await stat(zip);
      const { width, height } = target;
      const found = { ...described!, width, height, bytes };
      return { found, complaints: [...pixels, ...wrong, ...kept] };
    },
    clear: async () => {
      await Promise.all(each.map(({ writer }) => writer.clear()));
      for (const path of [plain, zip, drawing]) await rm(path, { force: true });
    },
  };
}

/** What is written of one panel. */
function asPanel(of: ToWrite, panel: Panel, count: number, part: string): ToWrite {
  const { recipe, facts } = of;
  const { width, height } = panel.region;
  return {
    ...of,
    part,
    recipe: {
      ...recipe,
      target: { ...recipe.target, width, height, bleed: 0 },
      output: { ...recipe.output, panels: null },
    },
    facts: facts ? { ...facts, trial: `${facts.trial}, panel ${panel.name} of ${count}` } : facts,
  };
}

const nameOf = ({ output }: Recipe, { name }: Panel, count: number): string =>
  `panel-${name}-of-${count}.${formatOf(output.format).endings[0]}`;

function assemblyWords({ facts, recipe: { target } }: ToWrite, count: number): string {
  const cm = (pixels: number) => formatNumber((pixels / target.ppi) * 2.54, 1);
  const size = `${cm(target.width)} × ${cm(target.height)} cm in ${count} panels`;
  return [`1:${ASSEMBLY_SCALE}`, size, facts ? slugLine(facts) : ''].filter(Boolean).join('  ·  ');
}

/** Copies rows of a part of a picture to a file of its own. @returns their sums */
async function copyRows(from: SampleFile, to: SampleFile): Promise<RowSums> {
  const line = lineOf(from);
  const { width, height } = from.size;
  const sums = new Uint32Array(height);
  const row = Buffer.alloc(line);
  const [source, target] = [await open(from.path, 'r'), await open(to.path, 'r+')];
  try {
    for (let y = 0; y < height; y++) {
      readWhole(source.fd, row, from.start + y * (from.within?.stride ?? line));
      sums[y] = rowSum(row);
      await writeAll(target, row, to.start + y * line);
    }
  } finally {
    await Promise.all([source.close(), target.close()]);
  }
  return { part: { x: 0, y: 0, width, height }, sums };
}

/** Reads an archive by another reader: whether it holds just what was put into it, to the byte. */
async function archiveComplaints(
  path: string,
  inside: ReadonlyMap<string, string>,
): Promise<string[]> {
  const zip = await yauzl.openPromise(path, { lazyEntries: true });
  const found = new Map<string, string>();
  try {
    for await (const entry of zip.eachEntry()) {
      const hash = createHash('sha256');
      for await (const bytes of await zip.openReadStreamPromise(entry))
        hash.update(bytes as Buffer);
      found.set(entry.fileName, hash.digest('hex'));
    }
  } finally {
    zip.close();
  }
  const names = [...new Set([...inside.keys(), ...found.keys()])];
  return names
    .filter((name) => inside.get(name) !== found.get(name))
    .map((name) => `${name} in the archive is not what was written.`);
}
