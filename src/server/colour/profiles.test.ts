import { describe, expect, it } from 'vitest';
import { SHIPPED, SRGB } from '@/core/colour/profiles';
import { usualOutput } from '@/core/output/output';
import { profileSpace } from '../codecs/colour';
import { carriedProfile, profileBytes } from './profiles';

const SPACES = { rgb: 'RGB ', grey: 'GRAY', cmyk: 'CMYK' } as const;

describe('the profiles that ship', () => {
  it.each(Object.values(SHIPPED))('$name is what its digest says, of its colours', async (one) => {
    expect(profileSpace(await profileBytes(one.digest))).toBe(SPACES[one.space]);
  });

  it('are all there is: another one is missing', async () => {
    await expect(profileBytes('0'.repeat(64))).rejects.toThrow(/is not here/);
  });
});

describe('the profile that a result carries', () => {
  const output = usualOutput('tiff', 8);

  it('is the original’s own, else sRGB, unless it is to have none', async () => {
    const own = Uint8Array.of(1, 2, 3);
    expect(await carriedProfile({ output }, own)).toBe(own);
    expect(await carriedProfile({ output }, null)).toEqual(await profileBytes(SRGB.digest));
    expect(await carriedProfile({ output: { ...output, untagged: 'none' } }, null)).toBeNull();
  });
});
