import { z } from 'zod';
import { NO_MARKS } from '../../output/marks';

// Until version 5 each format was packed in one way, a JPEG's colours followed from its quality, a file whose original
// had no profile had none either, and nothing of its EXIF was kept.

const Output = z.looseObject({ format: z.enum(['tiff', 'jpeg', 'png']), quality: z.number() });

const COMPRESSION = { tiff: 'none', jpeg: 'lossy', png: 'deflate' } as const;
/** From this quality on colours were sampled as finely as light. */
const FULL_COLOUR = 90;

function output(value: unknown, more: object): unknown {
  const old = Output.safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    compression: COMPRESSION[old.data.format],
    sampling: old.data.quality >= FULL_COLOUR ? '4:4:4' : '4:2:0',
    ...{ progressive: false, dither: 'never', marks: NO_MARKS, panels: null },
    ...more,
  };
}

const Work = z.looseObject({ version: z.literal(5), trials: z.array(z.looseObject({})) });

export function work(value: unknown): unknown {
  const old = Work.safeParse(value);
  if (!old.success) return value;
  const trials = old.data.trials.map((trial) => ({
    ...trial,
    output: output(trial['output'], { untagged: 'srgb' }),
  }));
  return { ...old.data, version: 6, trials };
}

const Recipe = z.looseObject({ version: z.literal(5), original: z.looseObject({}) });

export function recipe(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  return old.success
    ? {
        ...old.data,
        version: 6,
        output: output(old.data['output'], { untagged: 'none', exif: 'drop' }),
      }
    : value;
}

const TreatmentFile = z.looseObject({ version: z.literal(5) });

export function treatmentFile(value: unknown): unknown {
  const old = TreatmentFile.safeParse(value);
  return old.success ? { ...old.data, version: 6 } : value;
}
