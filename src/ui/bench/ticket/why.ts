import { findingsInWords } from '@/core/inspect/words';
import { formatBytes, formatFactor, formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { MM_PER_INCH } from '@/core/measure/units';
import { eyeNeed } from '@/core/measure/verdict';
import type { Size } from '@/core/raster/region';
import type { WorkBench } from '../use-work';
import type { SectionName } from './open';
import { say } from '@/core/words/say';

/** Why there is a section: what it is for, when it is left alone, and the figure that says so of this picture. */
export interface Why {
  purpose: string;
  leave: string;
  /** null where there is none */
  here: string | null;
}

const WORDS: Record<SectionName, Omit<Why, 'here'>> = {
  original: {
    purpose: say`What the file really holds, before anything is decided.`,
    leave: say`Nothing is to be done here, unless the kind of picture is wrong or a part is to be cropped.`,
  },
  size: {
    purpose: say`How large it prints, from how far it is seen, and how many pixels that takes.`,
    leave: say`Leave the resolution at the printer’s own: what is above it is thrown away.`,
  },
  clean: {
    purpose: say`Takes out what compression, noise and age did, before the enlargement makes it larger.`,
    leave: say`Leave it alone where the file is clean: every step costs a little detail.`,
  },
  enlarge: {
    purpose: say`Makes the new pixels.`,
    leave: say`Leave it automatic, unless Try or Test shows that another method is truer on this picture.`,
  },
  finish: {
    purpose: say`Sharpens for this paper and distance, and gives back texture that enlarging smoothed.`,
    leave: say`Leave alone what is soft on purpose: skin, sky, a background out of focus.`,
  },
  compare: {
    purpose: say`Shows whether the result is truer than the original, and where it is not.`,
    leave: say`Don’t judge by the whole picture alone: look at 1:1, and at its true size.`,
  },
  output: {
    purpose: say`Writes the file that prints at exactly the ordered size, and reads it back.`,
    leave: say`Leave the format at TIFF where the printer takes it: nothing is lost.`,
  },
};

/** A screen as many have one. */
const SCREEN: Size = { width: 1280, height: 800 };

/** The share of a result that such a screen shows of it at 1:1, 0–1. */
const inView = ({ width, height }: Size): number =>
  Math.min(1, SCREEN.width / width) * Math.min(1, SCREEN.height / height);

export const whyOf = (section: SectionName, bench: WorkBench): Why => ({
  ...WORDS[section],
  here: hereOf(section, bench),
});

function hereOf(section: SectionName, { found, resolved, work, trial }: WorkBench): string | null {
  if (!resolved.ok) return null;
  const { plan, recipe } = resolved;
  const { width, height } = recipe.target;
  switch (section) {
    case 'original':
      return found.detail === null
        ? null
        : say`${formatNumber(found.detail * 100, 0)} % of its pixels hold detail.`;
    case 'size':
      return plan.vector
        ? null
        : say`${formatPpi(leastPpi(plan))} ppi before enlarging; ${formatPpi(eyeNeed(work.distance, found.kind))} are needed at ${formatNumber(work.distance)} m.`;
    case 'clean': {
      if (plan.vector) return null;
      const harms = findingsInWords(found).filter(({ matters, harm }) => matters && harm);
      return harms.length > 0
        ? `${harms.map(({ name, figure }) => `${name} ${figure}`).join(', ')}.`
        : say`Nothing that is worth a step was found.`;
    }
    case 'enlarge':
      return plan.vector
        ? null
        : say`Of 100 pixels of the print, ${formatNumber(100 * (1 - 1 / (plan.factor.x * plan.factor.y)), 0)} are new (×${formatFactor(factorOf(plan))}).`;
    case 'finish':
      return plan.vector
        ? null
        : say`One original pixel is ${formatNumber(MM_PER_INCH / leastPpi(plan), 1)} mm wide on this print: edges can’t be sharper than the enlargement made them.`;
    case 'compare':
      return say`At 1:1 ${formatNumber(100 * inView({ width, height }), 1)} % of the result is in view on a screen of ${SCREEN.width} × ${SCREEN.height}.`;
    case 'output':
      return say`${width} × ${height} pixels, ${formatBytes((plan.bytes * trial.output.depth) / 8)} before packing.`;
  }
}
