import { describe, expect, it } from 'vitest';
import { USUAL_SHEETS } from '../shop/lists';
import { SizeRule } from './size-rule';
import { readRule, type RuleBy } from './typed-rule';

const sizing = { sheets: USUAL_SHEETS, unit: 'cm' } as const;
const read = (by: RuleBy, text: string, unit: 'cm' | 'in' = 'cm') =>
  readRule({ by, text, fit: 'crop' }, { ...sizing, unit });
const cm = (value: number) => ({ value, unit: 'cm' });

describe('a size for many pictures, as it is typed', () => {
  it.each<[RuleBy, string, object]>([
    ['ordered', 'whatever stood there before', {}],
    ['exact', '90x60', { width: cm(90), height: cm(60), fit: 'crop' }],
    ['exact', '3 ft x 2 ft', { width: { value: 3, unit: 'ft' }, height: { value: 2, unit: 'ft' } }],
    ['width', '60', { length: cm(60) }],
    ['height', '600 mm', { length: { value: 600, unit: 'mm' } }],
    ['longest', '1/2 m', { length: { value: 0.5, unit: 'm' } }],
    ['factor', '4', { factor: 4 }],
    ['factor', '0,5', { factor: 0.5 }],
    ['sheet', 'A2', { sheet: { name: 'A2' }, fit: 'crop' }],
    ['sheet', 'Roll 61 cm', { sheet: { height: null } }],
    ['pixels', '150', { ppi: 150 }],
    ['pixels', '150 ppi', { ppi: 150 }],
  ])('%s “%s” is a rule that is kept', (by, text, expected) => {
    const rule = read(by, text);
    expect(rule).toMatchObject({ ok: true, value: { by, ...expected } });
    if (rule.ok) expect(SizeRule.parse(rule.value)).toEqual(rule.value);
  });

  it.each<[RuleBy, string, RegExp]>([
    ['exact', '90', /Both sides/],
    ['exact', '', /./],
    ['exact', '90 px x 60 px', /length on paper/],
    ['width', '100 %', /length on paper/],
    ['longest', '3000 px', /length on paper/],
    ['width', 'wide', /neither a number nor a unit/],
    ['width', '-4', /./],
    ['factor', '0', /./],
    ['factor', '65', /64/],
    ['factor', '2 cm', /./],
    ['sheet', 'A9', /One of the shop’s sheets/],
    ['pixels', '0', /./],
    ['pixels', '99999', /./],
  ])('%s “%s” is refused in words', (by, text, words) => {
    const rule = read(by, text);
    expect(rule.ok).toBe(false);
    if (!rule.ok) expect(rule.why).toMatch(words);
  });

  it('is in the shop’s unit where none is typed', () => {
    expect(read('width', '24', 'in')).toMatchObject({
      value: { length: { value: 24, unit: 'in' } },
    });
    expect(read('width', '24 cm', 'in')).toMatchObject({ value: { length: cm(24) } });
  });

  it('takes none of the shop’s sheets for two sides', () => {
    expect(read('exact', 'A2').ok).toBe(false);
  });
});
