import type { Kind } from '../inspect/kind';
import { methodNotes, type Method } from '../steps/enlarge/methods';
import { stepOf, type Trial } from './work';
import { say } from '../words/say';

/** In what trials that are tried beside each other differ. */
export const VARIED = ['method', 'cleaning', 'sharpening', 'ringing'] as const;
export type Varied = (typeof VARIED)[number];

/** One of several ways, as it is tried on a spot. */
export interface Variant {
  label: string;
  trial: Trial;
}

/** How many are tried beside each other and the original at most. */
export const MOST_VARIANTS = 3;

/** Methods that are tried first of a kind of picture: what is likely to be right, and what it is measured by. */
export const usualMethods = (kind: Kind): readonly Method[] =>
  kind === 'flat artwork' || kind === 'line art'
    ? ['traced', 'learned-art', 'lanczos3']
    : ['learned-photo', 'lanczos3', 'bicubic'];

const PERCENT = [0, 50, 100] as const;

/** A trial in several variants; none where it has no step to vary. */
export function variantsOf(trial: Trial, varied: Varied, methods: readonly Method[]): Variant[] {
  const changed = (label: string, change: (copy: Trial) => void): Variant => {
    const copy = structuredClone(trial);
    change(copy);
    return { label, trial: copy };
  };
  switch (varied) {
    case 'method':
      return methods.slice(0, MOST_VARIANTS).map((method) =>
        changed(methodNotes[method].title, (copy) => {
          stepOf(copy.treatment, 'enlarge')!.settings.method = method;
        }),
      );
    case 'ringing':
      return PERCENT.map((limit) =>
        changed(say`Ringing limited by ${limit} %`, (copy) => {
          stepOf(copy.treatment, 'enlarge')!.settings.limit = limit;
        }),
      );
    case 'cleaning': {
      const kind = (['restore', 'compression'] as const).find((one) =>
        stepOf(trial.treatment, one),
      );
      if (!kind) return [];
      const done = kind === 'restore' ? 'Restored' : say`Compression cleaned`;
      return PERCENT.map((strength) =>
        changed(say`${done} by ${strength} %`, (copy) => {
          Object.assign(stepOf(copy.treatment, kind)!, { on: strength > 0, strength });
        }),
      );
    }
    case 'sharpening': {
      const step = stepOf(trial.treatment, 'unsharp');
      if (!step) return [];
      return [0, 1, 2].map((times) => {
        const amount = Math.min(300, Math.round((step.settings.amount || 50) * times));
        return changed(say`Sharpened by ${amount} %`, (copy) => {
          const own = stepOf(copy.treatment, 'unsharp')!;
          own.on = amount > 0;
          own.settings.amount = amount;
        });
      });
    }
  }
}
