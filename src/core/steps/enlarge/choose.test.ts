import { describe, expect, it } from 'vitest';
import { ALL_MODELS, NO_MODELS } from '../../learned/models';
import { carryOut, chooseMethod, type Choosing } from './choose';
import { Method, methodNotes } from './methods';

const photograph: Choosing = {
  ...{ kind: 'photograph', factor: 6, harsh: false, noise: 0, pixels: 1e6, tracedBack: null },
  models: ALL_MODELS,
};
const chosen = (by: Partial<Choosing>) => chooseMethod({ ...photograph, ...by }).method;

describe('the automatic choice', () => {
  it('goes by the kind of the picture', () => {
    expect(chosen({})).toBe('learned-photo');
    expect(chosen({ kind: 'mixed' })).toBe('learned-photo');
    expect(chosen({ kind: 'line art' })).toBe('learned-art');
    expect(chosen({ kind: 'flat artwork' })).toBe('learned-art');
    expect(chosen({ kind: 'pixel squares' })).toBe('nearest');
  });

  it('draws artwork fresh where it is enlarged far and stays true', () => {
    const traced = { off: 0.8, worst: 12 };
    const art = (by: Partial<Choosing>) =>
      chosen({ kind: 'flat artwork', factor: 12, tracedBack: traced, ...by });
    expect(art({})).toBe('traced');
    expect(art({ kind: 'line art' })).toBe('traced');
    expect(art({ factor: 7 })).toBe('learned-art');
    expect(art({ tracedBack: { off: 2.1, worst: 12 } })).toBe('learned-art');
    expect(art({ tracedBack: { off: 0.8, worst: 40 } })).toBe('learned-art');
    expect(art({ pixels: 4e6 })).toBe('learned-art');
    expect(art({ kind: 'photograph' })).toBe('learned-photo');
    expect(art({ kind: 'mixed' })).toBe('learned-photo');
  });

  it('goes by the factor: nothing is invented where next to nothing is made anew', () => {
    expect(chosen({ factor: 1.1 })).toBe('lanczos3');
    expect(chosen({ factor: 0.4, kind: 'line art' })).toBe('lanczos3');
    expect(chosen({ factor: 0.4, harsh: true })).toBe('lanczos3');
  });

  it('goes without networks by what was found', () => {
    const models = NO_MODELS;
    expect(chosen({ models })).toBe('lanczos3');
    expect(chosen({ models, harsh: true })).toBe('bicubic');
    expect(chosen({ models, noise: 7 })).toBe('bicubic');
    expect(chosen({ models: { ...ALL_MODELS, art: null }, kind: 'line art' })).toBe(
      'learned-photo',
    );
  });

  it('says why, in a sentence that names the method', () => {
    for (const kind of [
      'photograph',
      'line art',
      'flat artwork',
      'mixed',
      'pixel squares',
    ] as const)
      for (const factor of [0.5, 1.1, 8]) {
        const { method, sentence } = chooseMethod({ ...photograph, kind, factor });
        expect(sentence.startsWith(methodNotes[method].title)).toBe(true);
      }
  });
});

describe('carrying out', () => {
  it('asks the network of a learned method, and carries its result on plainly', () => {
    const { model, plain } = carryOut('learned-art', photograph);
    expect(model).toBe(ALL_MODELS.art);
    expect(plain).toBe('mitchell');
    expect(carryOut('learned-art', { ...photograph, factor: 3 }).plain).toBe('lanczos3');
  });

  it('is plain where the network is missing or has nothing to do', () => {
    const without = carryOut('learned-photo', { ...photograph, models: NO_MODELS, harsh: true });
    expect(without).toMatchObject({ model: null, plain: 'bicubic' });
    const reduced = carryOut('learned-photo', { ...photograph, factor: 0.7 });
    expect(reduced.model).toBeNull();
  });

  it('traces what a network made of a small picture, a large one itself, and none that is too large', () => {
    const art: Choosing = { ...photograph, kind: 'flat artwork', factor: 10, pixels: 1.5e5 };
    expect(carryOut('traced', art)).toMatchObject({ model: ALL_MODELS.art, plain: 'traced' });
    expect(carryOut('traced', { ...art, pixels: 1e6 })).toMatchObject({
      model: null,
      plain: 'traced',
    });
    expect(carryOut('traced', { ...art, pixels: 4e6 })).toMatchObject({
      model: ALL_MODELS.art,
      plain: 'mitchell',
    });
  });

  it('takes any other method as it is', () => {
    expect(carryOut('stepped', photograph)).toMatchObject({ model: null, plain: 'stepped' });
  });

  it('has a line on what each method is good and bad at', () => {
    for (const method of Method.options) {
      expect(methodNotes[method].note.length).toBeGreaterThan(30);
      expect(methodNotes[method].note).toMatch(/\.$/);
    }
  });
});
