import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runInNewContext } from 'node:vm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { readWords, WORDS_FILE, wordsScript } from './words';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lontano-words-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const keep = (text: string) => writeFileSync(join(folder, WORDS_FILE), text);

describe('a shop’s own words', () => {
  it('are read from its data folder; without any English is spoken', () => {
    expect(readWords(folder)).toEqual({});
    keep('{"Undo":"Zurück"}');
    expect(readWords(folder)).toEqual({ Undo: 'Zurück' });
  });

  it.each(['{', '[]', '{"Undo":3}', `{"a":"${'x'.repeat(6000)}"}`])(
    'that can’t be read are said on the console, and English is spoken: %.20s',
    (text) => {
      const said = vi.spyOn(console, 'error').mockImplementation(() => {});
      keep(text);
      expect(readWords(folder)).toEqual({});
      expect(said.mock.calls.join()).toContain(WORDS_FILE);
      said.mockRestore();
    },
  );

  it('reach a page whole, whatever they hold', () => {
    const words = { Undo: '</script><script>alert(1)</script>', Redo: '"\u2028' };
    const script = wordsScript(words);
    expect(script).not.toContain('<');
    const page: { lontanoWords?: unknown } = {};
    runInNewContext(script, page);
    expect(page.lontanoWords).toEqual(words);
  });
});
