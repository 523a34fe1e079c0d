import { describe, expect, it } from 'vitest';
import {
  FIRST_DRAFT,
  LEAVE,
  readChange,
  readPlan,
  stepsName,
  stepsNamed,
  type Draft,
} from './draft';

const sheets = [{ name: 'A4', width: 210, height: 297 }];
const draft = (more: Partial<Draft>): Draft => ({
  ...FIRST_DRAFT,
  rule: { by: 'longest', text: '60', fit: 'crop' },
  ...more,
});
const rule = (by: Draft['rule']['by'], text: string, fit: Draft['rule']['fit'] = 'crop') =>
  draft({ rule: { by, text, fit } });

describe('what is typed for many pictures', () => {
  it.each<[Draft, object]>([
    [rule('longest', '60'), { by: 'longest', length: { value: 60, unit: 'cm' } }],
    [rule('height', '12 1/2 in'), { by: 'height', length: { value: 12.5, unit: 'in' } }],
    [rule('exact', '90x60', 'margin'), { by: 'exact', width: { value: 90 }, fit: 'margin' }],
    [rule('sheet', 'A4'), { by: 'sheet', sheet: sheets[0], fit: 'crop' }],
    [rule('factor', '2,5'), { by: 'factor', factor: 2.5 }],
    [rule('pixels', '150 ppi'), { by: 'pixels', ppi: 150 }],
    [rule('ordered', ''), { by: 'ordered' }],
  ])('is read as a rule: %j', (typed, size) => {
    const read = readPlan(typed, { sheets, unit: 'cm' });
    expect(read).toMatchObject({
      ok: true,
      value: { size, steps: { by: 'suiting' }, folder: null },
    });
  });

  it.each<[Draft, keyof Draft, RegExp]>([
    [rule('longest', ''), 'rule', /A length/],
    [rule('longest', '300 px'), 'rule', /length on paper/],
    [rule('exact', '90'), 'rule', /Both sides/],
    [rule('exact', '90x'), 'rule', /Both sides/],
    [rule('exact', '50 % x 50 %'), 'rule', /length on paper/],
    [rule('sheet', 'B9'), 'rule', /shop’s sheets/],
    [rule('factor', '900'), 'rule', /From 0\.01 to 64/],
    [rule('pixels', 'many'), 'rule', /neither a number/],
    [draft({ ppi: '0' }), 'ppi', /From 1 to 4800/],
    [draft({ format: 'jpeg', quality: '101' }), 'quality', /From 1 to 100/],
    [draft({ format: 'jpeg', quality: '9.5' }), 'quality', /whole number/],
    [draft({ names: '{frame}' }), 'names', /no part \{frame\}/],
  ])('is answered at its field where it can’t be: %j', (typed, field, why) => {
    const read = readPlan(typed, { sheets, unit: 'cm' });
    expect(read.ok).toBe(false);
    expect(!read.ok && read.troubles[field]).toMatch(why);
  });

  it('changes nothing where all is left as it is', () => {
    const left = draft({ rule: { by: LEAVE, text: '', fit: 'crop' }, steps: LEAVE });
    expect(readChange(left, { sheets, unit: 'cm' })).toEqual({ ok: true, value: {} });
  });

  it('names ways to treat in a list, and finds them again', () => {
    for (const steps of [{ by: 'kept' }, { by: 'suiting' }, { by: 'house', id: 12 }] as const) {
      expect(stepsNamed(stepsName(steps))).toEqual(steps);
    }
    expect(stepsNamed('house twelve')).toBeNull();
  });
});
