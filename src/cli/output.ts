import { InvalidArgumentError, type Command } from 'commander';
import { formatISO } from 'date-fns';
import { readFile } from 'node:fs/promises';
import { basename, parse } from 'node:path';
import { Intent } from '@/core/colour/conversion';
import { SHIPPED } from '@/core/colour/profiles';
import type { Findings } from '@/core/inspect/findings';
import type { Facts } from '@/core/output/facts';
import {
  Compression,
  formatOf,
  formatOfName,
  packingsOf,
  type Format,
} from '@/core/output/formats';
import { typedMm } from '@/core/measure/typed';
import { USUAL_PANELS, type Panels } from '@/core/output/panels';
import { packedBy, usualOutput, type Output } from '@/core/output/output';
import type { Work } from '@/core/recipe/work';
import { factsOf } from '@/core/shop/result-name';
import { profileBytes, readProfile, type ReadProfile } from '@/server/colour/profiles';
import { Problem } from '@/server/problem';
import { ENDINGS } from './endings';
import { millimetres } from './millimetres';

/** How the result is written, as a command line says it. */
export interface OutputOptions {
  /** how a file packs its samples; the usual way of its format where it isn't said */
  compression?: Compression;
  quality?: number;
  /** colours of a JPEG half as fine as its light */
  coarseColours?: boolean;
  progressive?: boolean;
  /** no profile where the input has none */
  untagged?: boolean;
  /** the name of a profile that ships, or a file, that colours are converted to */
  profile?: string;
  intent: Intent;
  /** black stays as it is, however dark the other one's is */
  plainBlack?: boolean;
  /** a PDF's panels: at most so wide, or so wide and so high */
  panels?: Pick<Panels, 'way' | 'widest' | 'tallest'>;
  /** what they share, in millimetres */
  overlap: number;
  /** panels as files of this format, in a ZIP */
  panelFiles?: Format;
}

/** The options of how it is written. */
export const withOutput = (command: Command): Command =>
  command
    .option('--compression <how>', Compression.options.join(', '), (text) => {
      const read = Compression.safeParse(text);
      if (read.success) return read.data;
      throw new InvalidArgumentError(`It should be ${Compression.options.join(' or ')}.`);
    })
    .option('--quality <number>', 'quality of a lossy file, 1-100', (text) => {
      const quality = /^\d{1,3}$/.test(text) ? Number(text) : 0;
      if (quality >= 1 && quality <= 100) return quality;
      throw new InvalidArgumentError('It should be a whole number from 1 to 100.');
    })
    .option('--coarse-colours', 'colours of a JPEG half as fine as its light (4:2:0)')
    .option('--progressive', 'a JPEG in passes, from coarse to fine')
    .option('--untagged', 'no profile where the input has none; sRGB otherwise')
    .option('--profile <file>', `converts to a profile: a file, or ${NAMES.join(', ')}`)
    .option(
      '--intent <how>',
      Intent.options.join(', '),
      (text) => {
        const read = Intent.safeParse(text);
        if (read.success) return read.data;
        throw new InvalidArgumentError(`It should be ${Intent.options.join(' or ')}.`);
      },
      'relative' as Intent,
    )
    .option('--plain-black', 'no black point compensation')
    .option(
      '--panels <width[xheight]>',
      'cuts a PDF into pages at most so large, e.g. 100cm',
      (text) => {
        const read = readPanels(text);
        if (read) return read;
        throw new InvalidArgumentError(
          'It should be a length such as 100cm, or two such as 100cmx150cm.',
        );
      },
    )
    .option(
      '--panel-files <ending>',
      'panels as files in a .zip: tif, png, jpg, webp, pdf',
      (text) => {
        const format = formatOfName(`panel.${text}`);
        if (format) return format;
        throw new InvalidArgumentError(`It should be one of ${ENDINGS.replaceAll('.', '')}.`);
      },
    )
    .option(
      '--overlap <length>',
      'what panels share',
      millimetres({ most: 1000 }),
      USUAL_PANELS.overlap,
    );

/** The largest a panel may be: so wide, or so wide and so high. */
function readPanels(text: string): OutputOptions['panels'] | null {
  const [width, height, ...more] = text.split('x').map((side) => {
    const mm = typedMm(side);
    return mm.ok ? mm.value : null;
  });
  if (!width || height === null || more.length > 0) return null;
  const { tallest } = USUAL_PANELS;
  return height === undefined
    ? { way: 'columns', widest: width, tallest }
    : { way: 'grid', widest: width, tallest: height };
}

/** The names of the profiles that ship, as they are given on a command line. */
const NAMES = Object.keys(SHIPPED).map((file) => parse(file).name);

/** @throws Problem where there is no such file, or it is no profile that can be worked with */
export async function profileOf({ profile }: OutputOptions): Promise<ReadProfile | null> {
  if (profile === undefined) return null;
  const shipped = Object.entries(SHIPPED).find(([file]) => parse(file).name === profile)?.[1];
  if (shipped) return { ...shipped, bytes: await profileBytes(shipped.digest) };
  return readProfile(await readInput(profile), basename(profile));
}

/** @throws Problem where the file isn't there */
async function readInput(path: string): Promise<Uint8Array> {
  try {
    return await readFile(path);
  } catch {
    throw new Problem(
      'input',
      `${path} can't be read. Give the file of a profile, or ${NAMES.join(', ')}.`,
    );
  }
}

/** The output that a command line asks for. @throws Problem where the format isn't packed in that way */
export function outputOf(
  options: OutputOptions,
  format: Format,
  findings: Findings,
  profile: ReadProfile | null,
): Output {
  const usual = usualOutput(format, findings.bitDepth);
  if (options.panels && format !== 'pdf' && !options.panelFiles) {
    throw new Problem(
      'usage',
      'Panels are pages of a PDF, or files in a ZIP: let the result end in .pdf, or in .zip with --panel-files.',
    );
  }
  if (options.panelFiles && !options.panels) {
    throw new Problem('usage', 'How large is a panel? Say it by --panels.');
  }
  const { compression = usual.compression, quality = usual.quality } = options;
  if (!packingsOf(format).includes(compression)) {
    const ways = packingsOf(format).join(' or ');
    throw new Problem('usage', `A ${formatOf(format).name} is packed by ${ways}.`);
  }
  return {
    ...packedBy(usual, compression),
    quality,
    sampling: options.coarseColours ? '4:2:0' : '4:4:4',
    progressive: options.progressive ?? false,
    untagged: options.untagged ? 'none' : 'srgb',
    colour: profile && {
      ...{ profile: profile.digest, space: profile.space },
      ...{ intent: options.intent, blackPoint: !options.plainBlack },
    },
    alpha: findings.vector ? 'paper' : 'keep',
    panels: options.panels
      ? {
          ...{ ...USUAL_PANELS, ...options.panels, overlap: options.overlap },
          as: options.panelFiles ? 'files' : 'pages',
        }
      : null,
  };
}

/** What a file says of itself where there is no order: the name of what it was made from. */
export function factsOfInput(input: string, work: Work): Facts {
  const job = { number: '', title: parse(input).name, customer: '' };
  const date = formatISO(new Date(), { representation: 'date' });
  return { ...factsOf({ job, work, trial: work.trials[0]!, date }), trial: '' };
}
