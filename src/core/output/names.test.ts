import { describe, expect, it } from 'vitest';
import { BATCH_PATTERN, freeName, nameBy, nameByHand, NamePattern, USUAL_PATTERN } from './names';

const parts = {
  ...{ job: '2026-014', customer: 'Colle Vespra Observatory', title: 'Dome at dusk, für die Wand' },
  file: 'IMG_0042',
  ...{ size: '120x80cm', ppi: '160', trial: 'Trial A', date: '2026-11-29' },
};

describe('the name of a result', () => {
  it('is made of its parts, in letters that every file system takes', () => {
    expect(nameBy(USUAL_PATTERN, parts, 'tif')).toBe(
      '2026-014-dome-at-dusk-fuer-die-wand-120x80cm-160ppi.tif',
    );
    expect(nameBy('{date} {customer}_{trial}', parts, 'pdf')).toBe(
      '2026-11-29 colle-vespra-observatory_trial-a.pdf',
    );
    expect(nameBy(BATCH_PATTERN, parts, 'png')).toBe('IMG_0042-120x80cm.png');
  });

  it('has no gap where a part is empty, and something where all are', () => {
    expect(nameBy('{job}-{size}-{ppi}', { ...parts, size: '' }, 'png')).toBe('2026-014-160.png');
    expect(nameBy('{customer}', { ...parts, customer: '' }, 'png')).toBe('result.png');
  });

  it('never leaves its folder', () => {
    const hostile = { ...parts, title: '../../etc/passwd' };
    expect(nameBy('../{title}/x', hostile, 'tif')).not.toMatch(/[/\\]|^\.|\.\./);
    expect(nameByHand('../../x:y\u0000.TIF', ['tif', 'tiff'])).toBe('x-y.tif');
    expect(nameByHand('...', ['tif', 'tiff'])).toBe('result.tif');
    expect(nameByHand('wall.v2.tiff', ['tif', 'tiff'])).toBe('wall.v2.tiff');
    expect(nameBy('{title}', { ...parts, title: 'x'.repeat(500) }, 'tif').length).toBeLessThan(130);
  });

  it('gets a number where it is taken', () => {
    const taken = new Set(['a.tif', 'a-2.tif']);
    expect(freeName('a.tif', taken)).toBe('a-3.tif');
    expect(freeName('a.png', taken)).toBe('a.png');
  });
});

describe('a pattern', () => {
  const trouble = (pattern: string) => NamePattern.safeParse(pattern).error?.issues[0]?.message;

  it('has known parts alone, and closed braces', () => {
    expect(trouble(USUAL_PATTERN)).toBeUndefined();
    expect(trouble('{job}{number}')).toMatch(/no part \{number\}\. There are \{job\}/);
    expect(trouble('{job')).toMatch(/brace is open/);
    expect(trouble('  ')).toMatch(/needs something/);
  });
});
