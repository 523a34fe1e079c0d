import { InvalidArgumentError, type Command } from 'commander';
import type { ReadHouse } from '@/core/house/recipe-file';
import { BLEED_LIMIT, BleedFill, Fit } from '@/core/measure/paper';
import { Ppi } from '@/core/measure/plan';
import { typedLength } from '@/core/measure/typed';
import type { Length } from '@/core/measure/units';
import { StepPercent } from '@/core/steps/resample/resample';
import { Method } from '@/core/steps/enlarge/methods';
import { Engine } from '@/core/steps/automatic';
import { SIGMA_LIMIT } from '@/core/steps/noise/noise';
import { UnsharpSettings } from '@/core/steps/unsharp/unsharp';
import { millimetres } from './millimetres';

/** What is ordered, as a command line says it. */
export interface OrderOptions {
  width?: Length;
  height?: Length;
  ppi?: number;
  scale?: number;
  fit: Fit;
  bleed: number;
  bleedFill: BleedFill;
  crop?: { x: number; y: number; width: number; height: number };
  page: number;
  distance?: number;
  json?: boolean;
}

/** What is done about it. */
export interface TreatmentOptions {
  method: Method;
  /** pixels are mixed as light adds up */
  linear?: boolean;
  /** percent that the stepped method grows by at a time */
  step: number;
  /** percent of ringing that is taken back */
  limit: number;
  clean: number | 'auto';
  cleanEngine: Engine;
  noise: number | 'auto';
  /** what happened to a photograph is taken back at once */
  restore?: boolean;
  texture: number;
  tones: number;
  heal: 'auto' | 'off';
  sharpen?: UnsharpSettings;
  /** a treatment file, in place of all the others */
  treatment?: string;
  /** a house recipe by its name or file, in place of all the others; as it was read, where that was done before */
  recipe?: string | ReadHouse;
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

const inRange = (value: number | null, least: number, most: number): number | null =>
  value !== null && value >= least && value <= most ? value : null;

const orAuto = (text: string, most: number): number | 'auto' | null =>
  text === 'auto' ? 'auto' : inRange(number(text), 0, most);

const whole = (text: string): number | null => (/^\d{1,7}$/.test(text) ? Number(text) : null);

function readCrop(text: string) {
  const numbers = text.split(',').map((part) => whole(part.trim()));
  const [x, y, width, height] = numbers;
  if (numbers.length !== 4 || numbers.includes(null) || !width || !height) return null;
  return { x: x!, y: y!, width, height };
}

const lengthIn = (text: string): Length | null => {
  const typed = typedLength(text, 'mm');
  return typed.ok ? typed.value : null;
};

function readSharpen(text: string): UnsharpSettings | null {
  const [radius = '', amount, threshold, ...more] = text.split(',');
  const paper = /^(.*)mm$/.exec(radius.trim());
  const parsed = UnsharpSettings.safeParse({
    radius: number((paper?.[1] ?? radius).replace(/px$/, '')),
    unit: paper ? 'mm' : 'px',
    amount: number(amount ?? ''),
    threshold: number(threshold ?? ''),
  });
  return parsed.success && more.length === 0 ? parsed.data : null;
}

export const withPage = (command: Command): Command =>
  command.option(
    '--page <number>',
    'page of a PDF or TIFF',
    option((t) => whole(t) || null, 'a page number from 1'),
    1,
  );

/** The options of what is ordered of one picture. */
export const withOrder = (command: Command): Command =>
  withPaper(command).option(
    '--crop <X,Y,W,H>',
    'part of the picture, in its pixels',
    option(readCrop, 'X,Y,W,H in whole pixels, e.g. 10,20,640,480'),
  );

/** … and of many, whose longest side may be given. */
export const withPapers = (command: Command): Command =>
  withPaper(command).option(
    '--longest <length>',
    'the longest side of each print, e.g. 60cm',
    option(lengthIn, 'a length such as 60cm'),
  );

const withPaper = (command: Command): Command =>
  withPage(command)
    .option(
      '--width <length>',
      'width of the print, e.g. 120cm',
      option(lengthIn, 'a length such as 120cm'),
    )
    .option('--height <length>', 'height of the print', option(lengthIn, 'a length such as 80cm'))
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
      'crop, margin or stretch, where shapes differ',
      option((t) => Fit.safeParse(t).data, Fit.options.join(' or ')),
      'crop',
    )
    .option(
      '--bleed <length>',
      'more on every side, e.g. 3mm',
      millimetres({ most: BLEED_LIMIT }),
      0,
    )
    .option(
      '--bleed-fill <how>',
      'picture, mirror, rim or colour',
      option((t) => BleedFill.safeParse(t).data, BleedFill.options.join(' or ')),
      'picture',
    )
    .option(
      '--distance <metres>',
      'how far the viewer stands',
      option((t) => inRange(number(t), 0.1, 200), 'metres from 0.1 to 200'),
    )
    .option('--json', 'one object on stdout');

/** The options of what is done about it. */
export const withTreatment = (command: Command): Command =>
  command
    .option(
      '--method <name>',
      Method.options.join(', '),
      option((t) => Method.safeParse(t).data, Method.options.join(', ')),
      'auto',
    )
    .option('--linear', 'mixes pixels as light adds up')
    .option(
      '--step <percent>',
      'how much the stepped method grows at a time',
      option((t) => StepPercent.safeParse(number(t)).data, 'a number from 1 to 100'),
      10,
    )
    .option(
      '--limit <percent>',
      'takes ringing back, 0-100',
      option((t) => inRange(number(t), 0, 100), 'a number from 0 to 100'),
      0,
    )
    .option(
      '--clean <strength>',
      'removes what compression did, 0-100, or auto: cleans as the application proposes it',
      option((t) => orAuto(t, 100), 'a number from 0 to 100, or auto'),
      0,
    )
    .option(
      '--clean-engine <engine>',
      Engine.options.join(' or '),
      option((t) => Engine.safeParse(t).data, Engine.options.join(' or ')),
      'learned',
    )
    .option(
      '--noise <levels>',
      'removes grain of that standard deviation, 0-50 or auto',
      option((t) => orAuto(t, SIGMA_LIMIT), `levels from 0 to ${SIGMA_LIMIT}, or auto`),
      0,
    )
    .option(
      '--restore',
      'takes blur, noise, sharpening and compression back at once, by what is measured of a photograph',
    )
    .option(
      '--texture <percent>',
      'gives finest detail back that cleaning took, 0-100',
      option((t) => inRange(number(t), 0, 100), 'a number from 0 to 100'),
      0,
    )
    .option(
      '--heal <how>',
      'auto heals dust and scratches that are found, off leaves them',
      option((t) => (t === 'auto' || t === 'off' ? t : null), 'auto or off'),
      'off',
    )
    .option(
      '--tones <strength>',
      'brings faded black, white and cast back, 0-100',
      option((t) => inRange(number(t), 0, 100), 'a number from 0 to 100'),
      0,
    )
    .option('--treatment <file>', 'takes all steps from a treatment file')
    .option('--recipe <file|name>', 'takes all steps from a house recipe')
    .option(
      '--sharpen <radius,amount,threshold>',
      'unsharp mask: px (or e.g. 0.3mm), %, levels',
      option(readSharpen, 'RADIUS,AMOUNT,THRESHOLD, e.g. 1.2,80,2'),
    );
