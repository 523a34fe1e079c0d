import { describe, expect, it } from 'vitest';
import { ALL_MODELS, NO_MODELS } from '../../learned/models';
import { carryOut, chooseMethod, type Choosing } from './choose';
import { Method, methodNotes } from './methods';

const photograph: Choosing = {
  ...{ kind: 'photograph', factor: 6, harsh: false, noise: 0 },
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
