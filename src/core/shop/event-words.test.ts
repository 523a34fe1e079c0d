import { describe, expect, it } from 'vitest';
import type { Happened, ShopEvent } from './event';
import { eventWords } from './event-words';

const words = (happened: Happened): string =>
  eventWords({ id: 1, at: 0, pieceId: 2, ...happened } as ShopEvent);
const file = { key: 'k', fileName: 'dome.tif', device: 'Wide one' };
const sent = {
  ...file,
  ...({ kind: 'sent', material: 'Canvas', copies: 1, digest: 'd', initials: 'AB' } as const),
  ...{ why: null, cautions: [] },
};

describe('what happened to a job, in a sentence', () => {
  it('names where it stands, from and to', () => {
    expect(words({ kind: 'state', from: 'received', to: 'on the bench' })).toBe(
      'From received to on the bench',
    );
  });

  it('says who signed for what, and what they noted', () => {
    const approved = {
      ...({ kind: 'approved', trialId: 'a', trialName: 'Trial A', recipe: 'r', run: 'u' } as const),
      ...{ fileName: 'dome.tif', digest: 'd', initials: 'AB', unseen: 0, evidence: null },
    };
    expect(words({ ...approved, note: '' })).toBe('Trial A approved by AB: dome.tif');
    expect(words({ ...approved, note: 'as the proof' })).toBe(
      'Trial A approved by AB: dome.tif: “as the proof”',
    );
    expect(words({ kind: 'approval withdrawn', initials: 'CD', note: 'too dark' })).toBe(
      'Approval taken back by CD: “too dark”',
    );
  });

  it('says what was sent where by whom; copies, cautions, and that nobody had signed where it is so', () => {
    expect(words(sent)).toBe('dome.tif sent to Wide one on Canvas by AB');
    expect(
      words({ ...sent, copies: 3, why: 'the customer waits', cautions: ['No ink.', 'Too wide.'] }),
    ).toBe(
      'dome.tif sent to Wide one on Canvas, 3 times by AB without approval: “the customer waits” (No ink.; Too wide.)',
    );
  });

  it('says how it went at the device, with what was spoilt in centimetres', () => {
    expect(words({ ...file, kind: 'printed', spoilt: 0 })).toBe('dome.tif printed by Wide one');
    expect(words({ ...file, kind: 'printed', spoilt: 123 })).toBe(
      'dome.tif printed by Wide one; 12.3 cm were spoilt',
    );
    expect(words({ ...file, kind: 'device stopped', words: 'The paper is jammed.' })).toBe(
      'Wide one, dome.tif: The paper is jammed.',
    );
    expect(words({ ...file, kind: 'not printed', words: 'cancelled' })).toBe(
      'dome.tif not printed by Wide one: cancelled',
    );
  });
});
