import { describe, expect, it } from 'vitest';
import { testFindings, testHistory } from '../testing';
import type { Findings } from './findings';
import { STANDARD_LUMA, tableAtQuality } from './jpeg-quality';
import { findingsInWords } from './words';

const size = { width: 800, height: 600 };
const jpeg = {
  ...{ luma: tableAtQuality(STANDARD_LUMA, 90), chroma: null, quality: 90, progressive: false },
  ...{ samplingX: 1, samplingY: 1, gridX: 0, gridY: 0 },
};
const of = (found: Partial<Findings>, name: string) =>
  findingsInWords(testFindings(size, found)).find((finding) => finding.name === name);

describe('what is found, in words', () => {
  it('tells a lens out of focus from an even blur, whatever the network says', () => {
    const blur = { width: 5, sigma: 1.4, motion: null, disc: { radius: 3.2 } };
    const history = testHistory({ blur: [1.4, 0.1] });
    expect(of({ blur, history }, 'Blur')).toMatchObject({ figure: '3.2 px', matters: true });
    expect(of({ blur, history }, 'Blur')!.sentence).toMatch(/^Out of focus/);
    expect(of({ blur: { ...blur, disc: null }, history }, 'Blur')!.figure).toMatch(/1.4 ± 0.1 px/);
  });

  it('tells where it is sharp and where soft', () => {
    const localBlur = {
      sharpest: { part: 'left', width: 1.2 },
      softest: { part: 'upper right', width: 4.6 },
    } as const;
    expect(of({ localBlur }, 'Focus')).toMatchObject({ figure: '1.2 – 4.6 px', map: 'sharpness' });
    expect(of({ localBlur }, 'Focus')!.sentence).toMatch(/at the left, .* at the upper right/);
    expect(of({}, 'Focus')).toBeUndefined();
  });

  it('tells of compression before, and of a crop since', () => {
    const name = 'Re-saved';
    const same = { jpeg, compressedBefore: { quality: 50, x: 0, y: 0 } };
    expect(of(same, name)).toMatchObject({ figure: 'quality 50', matters: true });
    expect(of(same, name)!.sentence).not.toMatch(/cropped/);
    const cropped = { jpeg, compressedBefore: { quality: 50, x: 5, y: 2 } };
    expect(of(cropped, name)!.sentence).toMatch(/then cropped, and saved again/);
    expect(of({ jpeg }, name)).toBeUndefined();
  });

  it('takes no fault in a faint grid of its own, but tells of an earlier one', () => {
    const faint = { ratio: 1.12, strength: 3, offsetX: 0, offsetY: 0 };
    expect(of({ jpeg, blocking: faint }, 'Blocking')).toMatchObject({
      ...{ figure: '3 %', matters: false },
      sentence: expect.stringMatching(/too faint to be seen/) as string,
    });
    const plain = { ...faint, ratio: 1.6, strength: 34 };
    expect(of({ jpeg, blocking: plain }, 'Blocking')!.matters).toBe(true);
    const shifted = of({ jpeg, blocking: { ...faint, offsetX: 3 } }, 'Blocking')!;
    expect(shifted.matters).toBe(true);
    expect(shifted.sentence).toMatch(/compressed before and cropped/);
    expect(of({ blocking: faint, formerQuality: 60 }, 'Blocking')).toMatchObject({
      matters: true,
      sentence: expect.stringMatching(/a JPEG before, of about quality 60/) as string,
    });
  });

  it('tells where halos lie, where there are any', () => {
    const rims = { rims: 0.2, rimReach: 1.6 };
    expect(of(rims, 'Halos')!.sentence).toMatch(/its halos lie about 1.6 px off hard edges\.$/);
    const history = testHistory({ sharpening: [120, 20] });
    expect(of({ ...rims, history }, 'Sharpened')!.sentence).toMatch(/halos lie about 1.6 px/);
    expect(of({ rims: 0.05, rimReach: 1.6 }, 'Halos')!.sentence).not.toMatch(/px/);
  });

  it('tells of what kind noise is, and by what radius it was sharpened', () => {
    const history = testHistory({
      ...{ noise: [6, 1], coloured: [0.9, 0.1], darks: [1, 0.5] },
      ...{ sharpening: [120, 20], radius: [1.4, 0.5] },
    });
    expect(of({ history }, 'Noise')!.sentence).toMatch(
      /compressed, in colour, stronger in the darks;/,
    );
    expect(of({ history }, 'Sharpened')!.sentence).toMatch(/by a radius of 1.4 ± 0.5 px\./);
  });

  it('tells by how much it was enlarged: as pixels tell, or about', () => {
    const history = testHistory({ enlarged: [1, 0.2] });
    expect(of({ history, enlarged: 1.5 }, 'Enlarged')!.figure).toBe('× 1.5');
    expect(of({ history }, 'Enlarged')!.figure).toBe('about × 2');
    expect(of({ history: testHistory({ enlarged: [1, 0.9] }) }, 'Enlarged')).toBeUndefined();
  });
});
