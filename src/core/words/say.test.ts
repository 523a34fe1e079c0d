import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { wordsIn } from '../../../scripts/words-in.mjs';

/** What is said once a shop has words of its own. */
async function sayWith(words?: Record<string, string>) {
  vi.resetModules();
  (globalThis as { lontanoWords?: unknown }).lontanoWords = words;
  return import('./say');
}
afterEach(() => void delete (globalThis as { lontanoWords?: unknown }).lontanoWords);

describe('what is said', () => {
  it('is English as it stands, with its values', async () => {
    const { say } = await sayWith();
    expect(say`Undo`).toBe('Undo');
    expect(say`${3} of ${'it'} seen\n`).toBe('3 of it seen\n');
  });

  it('is in the shop’s words where it has them, in their own order', async () => {
    const { say } = await sayWith({
      Undo: 'Zurück',
      '{0} of {1} seen': '{1}: {0} gesehen, {1}, {7}',
    });
    expect(say`Undo`).toBe('Zurück');
    expect(say`Redo`).toBe('Redo');
    expect(say`${3} of ${'{0}'} seen`).toBe('{0}: 3 gesehen, {0}, {7}');
  });

  it('is all in the list that a shop translates (npm run words)', () => {
    const listed = JSON.parse(readFileSync('words/en.json', 'utf8')) as Record<string, string>;
    expect(listed).toEqual(wordsIn('.'));
    expect(Object.keys(listed).length).toBeGreaterThan(1000);
  });
});
