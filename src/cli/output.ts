import { InvalidArgumentError, type Command } from 'commander';
import { formatISO } from 'date-fns';
import { parse } from 'node:path';
import type { Findings } from '@/core/inspect/findings';
import type { Facts } from '@/core/output/facts';
import { Compression, formatOf, packingsOf, type Format } from '@/core/output/formats';
import { packedBy, usualOutput, type Output } from '@/core/output/output';
import type { Work } from '@/core/recipe/work';
import { factsOf } from '@/core/shop/result-name';
import { Problem } from '@/server/problem';

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
    .option('--untagged', 'no profile where the input has none; sRGB otherwise');

/** The output that a command line asks for. @throws Problem where the format isn't packed in that way */
export function outputOf(options: OutputOptions, format: Format, findings: Findings): Output {
  const usual = usualOutput(format, findings.bitDepth);
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
    alpha: findings.vector ? 'paper' : 'keep',
  };
}

/** What a file says of itself where there is no order: the name of what it was made from. */
export function factsOfInput(input: string, work: Work): Facts {
  const job = { number: '', title: parse(input).name, customer: '' };
  const date = formatISO(new Date(), { representation: 'date' });
  return { ...factsOf({ job, work, trial: work.trials[0]!, date }), trial: '' };
}
