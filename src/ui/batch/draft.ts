import type { BatchPlan, ItemChange, StepsChoice } from '@/core/batch/batch';
import { readRule, type RuleBy, type TypedRule } from '@/core/batch/typed-rule';
import { typedNumber } from '@/core/measure/typed';
import { BATCH_PATTERN, NamePattern } from '@/core/output/names';
import { formatOf, type Format } from '@/core/output/formats';
import type { Sizing } from '@/core/shop/lists';
import { say } from '@/core/words/say';

/** What a field holds where it leaves things as they are. */
export const LEAVE = 'leave';

/** What is decided for many pictures, as it stands in the fields of a form. */
export interface Draft {
  rule: Omit<TypedRule, 'by'> & { by: RuleBy | typeof LEAVE };
  /** how a choice of steps is called in a list */
  steps: string;
  ppi: string;
  format: Format | typeof LEAVE;
  quality: string;
  names: string;
  /** empty where results are fetched */
  folder: string;
}

export const FIRST_DRAFT: Draft = {
  rule: { by: 'longest', text: '', fit: 'crop' },
  ...{ steps: 'suiting', ppi: '', format: LEAVE, quality: '92', names: BATCH_PATTERN, folder: '' },
};

/** How a choice of steps is called in a list, and back. */
export const stepsName = (steps: StepsChoice): string =>
  steps.by === 'house' ? `house ${steps.id}` : steps.by;
export function stepsNamed(name: string): StepsChoice | null {
  if (name === 'kept' || name === 'proposed' || name === 'suiting') return { by: name };
  const id = /^house (\d+)$/.exec(name)?.[1];
  return id ? { by: 'house', id: Number(id) } : null;
}

/** Where something is wrong, and what. */
export type Troubles = Partial<Record<keyof Draft, string>>;

export type ReadDraft<T> = { ok: true; value: T } | { ok: false; troubles: Troubles };

const QUALITY = { least: 1, most: 100, whole: true };
const PPI = { least: 1, most: 4800, unit: 'ppi' };

/** What a draft changes of pictures; what it leaves is not in it. */
export function readChange(draft: Draft, sizing: Sizing): ReadDraft<ItemChange> {
  const troubles: Troubles = {};
  const value: ItemChange = {};
  const { by } = draft.rule;
  if (by !== LEAVE) {
    const rule = readRule({ ...draft.rule, by }, sizing);
    if (rule.ok) value.size = rule.value;
    else troubles.rule = rule.why;
  }
  const steps = stepsNamed(draft.steps);
  if (steps) value.steps = steps;
  if (draft.ppi.trim()) {
    const ppi = typedNumber(draft.ppi, PPI);
    if (ppi.ok) value.ppi = ppi.value;
    else troubles.ppi = ppi.why;
  }
  if (draft.format !== LEAVE) {
    const quality = typedNumber(draft.quality, QUALITY);
    if (quality.ok) value.file = { format: draft.format, quality: quality.value };
    else troubles.quality = quality.why;
  }
  return Object.keys(troubles).length > 0 ? { ok: false, troubles } : { ok: true, value };
}

/** What a draft decides for a batch. */
export function readPlan(draft: Draft, sizing: Sizing): ReadDraft<BatchPlan> {
  const change = readChange(draft, sizing);
  const names = NamePattern.safeParse(draft.names);
  const troubles = change.ok ? {} : change.troubles;
  if (!names.success) troubles.names = names.error.issues[0]!.message;
  if (!change.ok || !names.success) return { ok: false, troubles };
  const {
    size = { by: 'ordered' },
    steps = { by: 'kept' },
    ppi = null,
    file = null,
  } = change.value;
  return {
    ok: true,
    value: { size, steps, ppi, file, names: names.data, folder: draft.folder || null },
  };
}

/** Whether a format's way of packing has a quality. */
export const hasQuality = (format: Format): boolean =>
  formatOf(format).packings.lossy !== undefined;

/** What rules are called in a list. */
export const RULES: Record<RuleBy, { label: string; example: string }> = {
  ordered: { label: say`As each is ordered`, example: '' },
  longest: { label: say`Longest side`, example: '60 cm' },
  exact: { label: say`Two sides`, example: '90 x 60 cm' },
  width: { label: say`Width`, example: '60 cm' },
  height: { label: say`Height`, example: '40 cm' },
  sheet: { label: say`Sheet`, example: '' },
  factor: { label: say`Times as many pixels`, example: '4' },
  pixels: { label: say`Own pixels at`, example: '150 ppi' },
};
