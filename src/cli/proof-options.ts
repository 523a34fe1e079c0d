import { InvalidArgumentError, Option, type Command } from 'commander';
import { millimetres } from './millimetres';

/** How a proof is laid out, as a command line says it. */
export interface ProofOptions {
  sheet: 'A4' | 'A3';
  /** millimetres that a strip is wide, in place of a sheet */
  strip?: number;
  /** places, as shares of the print; those worth a look where none is named */
  place?: { x: number; y: number }[];
}

/** The options of a proof. */
export const withProof = (command: Command): Command =>
  command
    .addOption(
      new Option('--sheet <paper>', 'that it is printed on').choices(['A4', 'A3']).default('A4'),
    )
    .option(
      '--strip <width>',
      'on a strip of a roll, so wide, in place of a sheet',
      millimetres({ least: 100, most: 6000 }),
    )
    .option(
      '--place <x,y>',
      'a place, in percent of the print from its left and top; several times for several places',
      (text, before: ProofOptions['place'] = []) => {
        const [x, y, ...more] = text.split(',').map((part) => Number(part.trim() || NaN) / 100);
        const fits = (share: number | undefined) => share !== undefined && share >= 0 && share <= 1;
        if (more.length === 0 && fits(x) && fits(y)) return [...before, { x: x!, y: y! }];
        throw new InvalidArgumentError('It should be two numbers from 0 to 100, as 50,30.');
      },
    );
