import { describe, expect, it } from 'vitest';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import { UNFRAMED } from '../frame/framing';
import { testFindings, testPaper } from '../testing';
import type { Findings } from './findings';
import { gistOf } from './gist';

const paper = testPaper({ width: { value: 120, unit: 'cm' }, height: { value: 80, unit: 'cm' } });
function gist(change: Partial<Findings>) {
  const found = { ...testFindings({ width: 720, height: 480 }), ...change };
  const planned = planOf(originalOf('a', found), { framing: UNFRAMED, paper }, 160);
  return gistOf(found, planned.ok ? planned.plan : null, 2);
}

describe('a picture in two lines', () => {
  it('says what it is, that nothing is wrong with it, and what that means', () => {
    const { what, means } = gist({ kind: 'photograph' });
    expect(what).toMatch(
      /^A photograph of 0\.35 megapixels, .+\. Nothing is wrong with its pixels\.$/,
    );
    expect(means).toBe(
      'At 120 x 80 cm seen from 2 m: enlarging helps; fine lettering will stay soft.',
    );
  });

  it('names what it suffers from, once, and no more', () => {
    const blocking = { ratio: 2, strength: 60, offsetX: 0, offsetY: 0 };
    const { what } = gist({ blocking, ringing: 6, banding: 0.2, damaged: 0.4, textured: 0.9 });
    expect(what).toContain('It suffers from a missing part, blocking, ringing and banding.');
  });

  it('asks for another file where that is the answer', () => {
    expect(gist({ damaged: 0.4 }).means).toMatch(/a part of the file is missing\. Ask for/);
  });
});
