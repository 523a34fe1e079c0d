import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { isJson, openForm, readForm } from './read-form';
import { RECIPE_VERSION } from './versions';

const Form = z.object({
  form: z.literal('letter'),
  version: z.int(),
  name: z.string().max(5),
  treatment: z.array(z.object({ kind: z.string() })).optional(),
});
const text = (value: unknown) => JSON.stringify(value);
const read = (value: object, forward?: (value: unknown) => unknown) =>
  readForm(openForm(text(value))!, Form, forward);

describe('a file of a form', () => {
  it('says which form and version it has, or is none', () => {
    expect(openForm(text({ form: 'letter', version: 3, more: true }))).toEqual({
      ...{ form: 'letter', version: 3 },
      value: { form: 'letter', version: 3, more: true },
    });
    for (const none of ['', 'no JSON', '7', 'null', '[]', text({ form: 'letter' })])
      expect(openForm(none)).toBeNull();
    expect(openForm(text({ form: 'letter', version: '3' }))).toBeNull();
  });

  it('is told from what is no JSON at all', () => {
    expect(isJson('{"a": [1, null]}')).toBe(true);
    expect(isJson('{a: 1}')).toBe(false);
    expect(isJson('')).toBe(false);
  });

  it('is read as it is', () => {
    const value = { form: 'letter', version: RECIPE_VERSION, name: 'Wing' };
    expect(read(value)).toEqual({ ok: true, value });
  });

  it('of an earlier version is brought forward first', () => {
    const before = { form: 'letter', version: 1, title: 'Wing' };
    const forward = (value: unknown) => {
      const { title, ...rest } = value as typeof before;
      return { ...rest, name: title };
    };
    expect(read(before).ok).toBe(false);
    expect(read(before, forward)).toMatchObject({ ok: true, value: { name: 'Wing' } });
  });

  it.each([
    [
      'of a later version',
      { form: 'letter', version: RECIPE_VERSION + 1, name: 'Wing' },
      /later Lontano .* Update this one\./,
    ],
    [
      'with a step that is not known here',
      {
        form: 'letter',
        version: 1,
        name: 'Wing',
        treatment: [{ kind: 'noise' }, { kind: 'spell' }],
      },
      /a step “spell”, which is not known here/,
    ],
    [
      'whose field does not fit',
      { form: 'letter', version: 1, name: 'Too long' },
      /^name: .*[^.]\.$/,
    ],
    ['without a field', { form: 'letter', version: 1 }, /^name: /],
  ])('%s is refused in a sentence', (_, value, words) => {
    const found = read(value);
    expect(found.ok).toBe(false);
    if (!found.ok) expect(found.reason).toMatch(words);
  });

  it('takes no name of an object for a step', () => {
    const value = { form: 'letter', version: 1, name: 'Wing', treatment: [{ kind: 'toString' }] };
    expect(read(value)).toMatchObject({ ok: false });
  });
});
