import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, extname, join, resolve } from 'node:path';
import { Command, CommanderError, InvalidArgumentError } from 'commander';
import {
  compressionWords,
  subsampling,
  blockingWord,
  type Findings,
} from '@/core/inspect/findings';
import { formatBytes, formatMegapixels, formatPpi, formatSeconds } from '@/core/measure/format';
import { Fit, Ppi, type Paper } from '@/core/measure/plan';
import { parseLength, type Length } from '@/core/measure/units';
import { Method } from '@/core/steps/enlarge/kernels';
import { SharpenSettings } from '@/core/steps/sharpen/sharpen';
import { PROPOSED_PPI } from '@/core/treatment/propose';
import { RECIPE_VERSION, Work, type Format, type Treatment } from '@/core/treatment/recipe';
import { settle } from '@/core/treatment/settle';
import { decode } from '@/server/codecs/decode';
import { inWords, Problem } from '@/server/problem';
import { endThreads, renderFile } from '@/server/runs/render-file';
import { digestOfFile } from '@/server/files/digest';

const EXIT = { usage: 2, input: 3, missing: 3, conflict: 4, work: 4 } as const;

const FORMATS: Record<string, Format> = {
  '.tif': 'tiff',
  '.tiff': 'tiff',
  '.jpg': 'jpeg',
  '.jpeg': 'jpeg',
  '.png': 'png',
};

interface EnlargeOptions {
  width?: Length;
  height?: Length;
  ppi?: number;
  scale?: number;
  fit: Fit;
  method: Method;
  clean: number;
  sharpen?: SharpenSettings;
  json?: boolean;
}

/** An option's value by a parser, or the usage error that says what it should be. */
const option =
  <T>(read: (text: string) => T | null | undefined, wanted: string) =>
  (text: string): T => {
    const value = read(text);
    if (value === null || value === undefined)
      throw new InvalidArgumentError(`It should be ${wanted}.`);
    return value;
  };

const number = (text: string): number | null =>
  /^\d+(\.\d+)?$/.test(text.trim()) ? Number(text) : null;

const program = new Command('lontano')
  .description(
    'From a picture that is too small to a file that prints at exactly the ordered size.',
  )
  .exitOverride()
  .configureOutput({ writeErr: () => {} });

program
  .command('inspect')
  .description('says what a picture is and what it suffers from')
  .argument('<file>', 'a JPEG or PNG')
  .option('--json', 'one object on stdout')
  .action(inspect);

program
  .command('enlarge')
  .description('writes a print-ready file')
  .argument('<in>', 'a JPEG or PNG')
  .argument('<out>', 'its ending picks the format: .tif, .jpg or .png')
  .option(
    '--width <length>',
    'width of the print, e.g. 120cm',
    option((t) => parseLength(t, 'mm'), 'a length such as 120cm'),
  )
  .option(
    '--height <length>',
    'height of the print',
    option((t) => parseLength(t, 'mm'), 'a length such as 80cm'),
  )
  .option(
    '--ppi <number>',
    'resolution of the result',
    option((t) => Ppi.safeParse(number(t)).data, 'a number from 1 to 4800'),
  )
  .option(
    '--scale <factor>',
    'factor instead of a paper size',
    option((t) => number(t) || null, 'a number above 0'),
  )
  .option(
    '--fit <how>',
    'crop or stretch, where shapes differ',
    option((t) => Fit.safeParse(t).data, Fit.options.join(' or ')),
    'crop',
  )
  .option(
    '--method <name>',
    Method.options.join(', '),
    option((t) => Method.safeParse(t).data, Method.options.join(', ')),
    'lanczos3',
  )
  .option(
    '--clean <strength>',
    'removes blocks, 0-100',
    option((t) => inRange(number(t), 0, 100), 'a number from 0 to 100'),
    0,
  )
  .option(
    '--sharpen <radius,amount,threshold>',
    'unsharp mask: px (or e.g. 0.3mm), %, levels',
    option(readSharpen, 'RADIUS,AMOUNT,THRESHOLD, e.g. 1.2,80,2'),
  )
  .option('--json', 'one object on stdout')
  .action(enlarge);

const inRange = (value: number | null, least: number, most: number): number | null =>
  value !== null && value >= least && value <= most ? value : null;

function readSharpen(text: string): SharpenSettings | null {
  const [radius = '', amount, threshold, ...more] = text.split(',');
  const paper = /^(.*)mm$/.exec(radius.trim());
  const parsed = SharpenSettings.safeParse({
    radius: number((paper?.[1] ?? radius).replace(/px$/, '')),
    unit: paper ? 'mm' : 'px',
    amount: number(amount ?? ''),
    threshold: number(threshold ?? ''),
  });
  return parsed.success && more.length === 0 ? parsed.data : null;
}

async function inspect(file: string, options: { json?: boolean }): Promise<void> {
  await withDecoded(file, ({ findings }) => {
    if (options.json) console.log(JSON.stringify(report(findings)));
    else console.log(inspectText(basename(file), findings));
    return Promise.resolve();
  });
}

/** Findings with flat, stable keys for scripts; a missing ppi tag is null. */
function report(findings: Findings) {
  const { jpeg, ppi, blocking, ...rest } = findings;
  return {
    ...rest,
    ppi: ppi && ppi.x,
    jpeg: jpeg && {
      quality: jpeg.quality,
      subsampling: subsampling(jpeg),
      progressive: jpeg.progressive,
    },
    blocking: { ratio: blocking.ratio },
  };
}

function inspectText(name: string, findings: Findings): string {
  const { width, height, jpeg, ppi } = findings;
  const lines: [string, string][] = [
    [
      'file',
      `${name}, ${formatBytes(findings.bytes)}, ${findings.format.toUpperCase()}, ${findings.bitDepth} bit`,
    ],
    ['pixels', `${width} x ${height}, ${formatMegapixels(findings.megapixels)} megapixels`],
    ['ppi tag', ppi ? formatPpi(ppi.x) : 'missing'],
    ['profile', findings.profile ?? 'none'],
    [
      'compression',
      `${compressionWords(findings)}${jpeg ? `, ${subsampling(jpeg)}${jpeg.progressive ? ', progressive' : ''}` : ''}`,
    ],
    [
      'blocking',
      `${blockingWord(findings)} (borders differ ${findings.blocking.ratio.toFixed(2)} times as much as insides)`,
    ],
    ...findings.notes.map((note): [string, string] => ['note', note]),
  ];
  return lines.map(([label, text]) => `${label.padEnd(12)} ${text}`).join('\n');
}

async function enlarge(input: string, out: string, options: EnlargeOptions): Promise<void> {
  const format = FORMATS[extname(out).toLowerCase()];
  if (!format) throw new Problem('usage', `${basename(out)} should end in .tif, .jpg or .png.`);
  if (options.scale && (options.width || options.height)) {
    throw new Problem('usage', 'Give a paper size or --scale, not both.');
  }
  if (resolve(input) === resolve(out)) {
    throw new Problem(
      'usage',
      'The original is never overwritten: name another file for the result.',
    );
  }
  await withDecoded(input, async ({ findings, profile, raw }) => {
    const work = workOf(options, findings, format);
    const size = { width: findings.width, height: findings.height };
    const original = { digest: await digestOfFile(input), size, jpeg: findings.jpeg };
    const settled = settle(original, work, work.trials[0]!);
    if (!settled.ok) throw new Problem('usage', settled.reason);
    const show = process.stderr.isTTY;
    const started = performance.now();
    let last = 0;
    const { seconds, readBack } = await renderFile({
      raw,
      recipe: settled.recipe,
      profile,
      out: resolve(out),
      onProgress(share) {
        if (share < 1 && performance.now() - last < 500) return;
        last = performance.now();
        const left = ((last - started) / 1000 / share) * (1 - share);
        process.stderr.write(
          `${show ? '\r' : ''}${Math.round(share * 100)} %, ${formatSeconds(left)} left ${show ? '' : '\n'}`,
        );
      },
    });
    if (show) process.stderr.write('\n');
    const { width, height, ppi, bytes } = readBack;
    const facts = {
      input: {
        width: findings.width,
        height: findings.height,
        ppi: findings.ppi?.x ?? null,
        bytes: findings.bytes,
      },
      output: { width, height, ppi: ppi?.x ?? null, bytes, format },
      seconds,
    };
    if (options.json) console.log(JSON.stringify(facts));
    else
      console.log(
        `${basename(out)}: ${width} x ${height} pixels, ${formatPpi(settled.recipe.target.ppi)} ppi, ${formatBytes(bytes)}, ${formatSeconds(seconds)}`,
      );
  });
}

/** The work that a command line describes; what it doesn't name stays undone. */
function workOf(options: EnlargeOptions, findings: Findings, format: Format): Work {
  const paper: Paper = {
    width: options.scale ? { value: options.scale * 100, unit: '%' } : (options.width ?? null),
    height: options.height ?? null,
    fit: options.fit,
  };
  // Without a paper size the file's own tag says how large its pixels are meant.
  const tagged = options.width || options.height ? PROPOSED_PPI : (findings.ppi?.x ?? PROPOSED_PPI);
  const treatment: Treatment = [
    { kind: 'clean', on: options.clean > 0, strength: options.clean, settings: {} },
    { kind: 'enlarge', on: true, strength: 100, settings: { method: options.method } },
    ...(options.sharpen
      ? [{ kind: 'sharpen' as const, on: true, strength: 100, settings: options.sharpen }]
      : []),
  ];
  const output = {
    format,
    quality: 95,
    depth: format === 'jpeg' ? (8 as const) : findings.bitDepth,
  };
  return Work.parse({
    version: RECIPE_VERSION,
    paper,
    distance: 1,
    trials: [{ id: 'a', name: 'Command line', ppi: options.ppi ?? tagged, treatment, output }],
  });
}

interface Input {
  findings: Findings;
  profile: Buffer | null;
  raw: string;
}

/** Decodes a file into a folder of its own that is gone afterwards. */
async function withDecoded(file: string, work: (input: Input) => Promise<void>): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'lontano-'));
  try {
    await stat(file).catch(() => {
      throw new Problem('input', `There is no file ${file}.`);
    });
    const raw = join(folder, 'original.raw');
    await work({ ...(await decode(resolve(file), basename(file), raw)), raw });
  } finally {
    await endThreads();
    await rm(folder, { recursive: true, force: true });
  }
}

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) {
    // Help and version are no errors.
    if (error.exitCode !== 0)
      console.error(`lontano: ${error.message.replace(/^error: /, '').replace(/\s*\n\s*/g, ' ')}`);
    process.exitCode = error.exitCode === 0 ? 0 : EXIT.usage;
  } else {
    console.error(`lontano: ${error instanceof Problem ? error.message : inWords(error)}`);
    if (process.env.LONTANO_DEBUG) console.error(error);
    process.exitCode = error instanceof Problem ? EXIT[error.kind] : EXIT.work;
  }
}
