import { Ppi } from '../measure/plan';
import type { Fit } from '../measure/paper';
import { typedLength, typedNumber, typedPaper, type Typed } from '../measure/typed';
import type { Sizing } from '../shop/lists';
import { say } from '../words/say';
import type { SizeRule } from './size-rule';

/** What a rule is chosen by, and what is typed for it. */
export type RuleBy = SizeRule['by'];

/** A rule as it is typed: what it goes by, a text for it, and what becomes of other shapes. */
export interface TypedRule {
  by: RuleBy;
  text: string;
  fit: Fit;
}

/** A rule that was typed, read; or what is wrong with it, in words. A number alone is in the unit that is given. */
export function readRule({ by, text, fit }: TypedRule, { sheets, unit }: Sizing): Typed<SizeRule> {
  switch (by) {
    case 'ordered':
      return { ok: true, value: { by } };
    case 'exact': {
      const paper = typedPaper(text, unit, []);
      if (!paper.ok) return paper;
      const { value } = paper;
      return value.of === 'sides' && value.width && value.height
        ? onPaper({ by, width: value.width, height: value.height, fit }, value.width, value.height)
        : { ok: false, why: say`Both sides, as 90 x 60 cm.` };
    }
    case 'width':
    case 'height':
    case 'longest': {
      const length = typedLength(text, unit);
      return length.ok ? onPaper({ by, length: length.value }, length.value) : length;
    }
    case 'factor': {
      const factor = typedNumber(text, { least: 0.01, most: 64 });
      return factor.ok ? { ok: true, value: { by, factor: factor.value } } : factor;
    }
    case 'sheet': {
      const sheet = sheets.find(({ name }) => name === text);
      return sheet
        ? { ok: true, value: { by, sheet, fit } }
        : { ok: false, why: say`One of the shop’s sheets.` };
    }
    case 'pixels': {
      const ppi = typedNumber(text, {
        least: Ppi.minValue ?? 1,
        most: Ppi.maxValue ?? 4800,
        unit: 'ppi',
      });
      return ppi.ok ? { ok: true, value: { by, ppi: ppi.value } } : ppi;
    }
  }
}

/** Pixels and shares of a picture are no lengths on paper. */
const onPaper = (rule: SizeRule, ...lengths: { unit: string }[]): Typed<SizeRule> =>
  lengths.some(({ unit }) => unit === 'px' || unit === '%')
    ? { ok: false, why: say`A length on paper, as 60 cm.` }
    : { ok: true, value: rule };
