import { describe, expect, it } from 'vitest';
import { veilFor, VEILS, type Veil } from './veil';

const picture = (...colours: Veil[]) =>
  Uint8ClampedArray.from(
    colours.flatMap((colour) =>
      Array(50)
        .fill([...colour, 255])
        .flat(),
    ),
  );

describe('the colour that a zone is shown by', () => {
  it('is one that the picture does not have', () => {
    for (const own of VEILS) expect(veilFor(picture(own))).not.toBe(own);
    const all = VEILS.slice(0, -1);
    expect(veilFor(picture(...all))).toBe(VEILS.at(-1));
    // The same hue in pale and in dark.
    expect(veilFor(picture([150, 220, 200], [5, 60, 45]))).not.toBe(VEILS[0]);
  });

  it('is the usual one of grey pictures, and of none', () => {
    expect(veilFor(picture([9, 9, 9], [120, 122, 118], [250, 250, 250]))).toBe(VEILS[0]);
    expect(veilFor(new Uint8ClampedArray())).toBe(VEILS[0]);
  });

  it('is the rarest where a picture has all', () => {
    const most = picture(...VEILS, ...VEILS.filter((_, i) => i !== 2));
    expect(veilFor(most)).toBe(VEILS[2]);
  });
});
