import { describe, expect, it } from 'vitest';
import { SHIPPED, SRGB } from '@/core/colour/profiles';
import { usualOutput } from '@/core/output/output';
import sharp from 'sharp';
import { profileSpace } from '../codecs/colour';
import { layOutTiff } from '../output/tiff-layout';
import { carriedProfile, convertedBy, profileBytes } from './profiles';

const SPACES = { rgb: 'RGB ', grey: 'GRAY', cmyk: 'CMYK' } as const;

describe('the profiles that ship', () => {
  it.each(Object.values(SHIPPED))('$name is what its digest says, of its colours', async (one) => {
    expect(profileSpace(await profileBytes(one.digest))).toBe(SPACES[one.space]);
  });

  it('say of sRGB what other programs take for it: none of its colours moves by a level', async () => {
    const size = { width: 256, height: 256 };
    const pixels = Buffer.alloc(256 * 256 * 3).map(
      (_, i) => (Math.imul(i, 2654435761) >>> 13) & 255,
    );
    const profile = await profileBytes(SRGB.digest);
    const about = { size, depth: 8, channels: 3, space: 'rgb' } as const;
    const layout = layOutTiff({ ...about, ppi: 100, profile, rowsPerStrip: 256 });
    const read = await sharp(Buffer.concat([layout.header, pixels]))
      .raw()
      .toBuffer();
    expect(read.equals(pixels)).toBe(true);
  });

  it('are all there is: another one is missing', async () => {
    await expect(profileBytes('0'.repeat(64))).rejects.toThrow(/is not here/);
  });
});

describe('the profile that a result carries', () => {
  const output = usualOutput('tiff', 8);

  it('is the original’s own, else sRGB, unless it is to have none', async () => {
    const own = Uint8Array.of(1, 2, 3);
    expect(await carriedProfile({ output }, own, profileBytes)).toBe(own);
    expect(await carriedProfile({ output }, null, profileBytes)).toEqual(
      await profileBytes(SRGB.digest),
    );
    expect(
      await carriedProfile({ output: { ...output, untagged: 'none' } }, null, profileBytes),
    ).toBeNull();
  });

  it('is the one that it is converted to, from the original’s or sRGB', async () => {
    const { digest, space } = SHIPPED['coated.icc'];
    const how = { intent: 'relative', blackPoint: true } as const;
    const converted = { output: { ...output, colour: { profile: digest, space, ...how } } };
    const own = await profileBytes(SHIPPED['grey.icc'].digest);
    const coated = await profileBytes(digest);
    expect(await carriedProfile(converted, own, profileBytes)).toEqual(coated);
    const pair = await convertedBy(converted, null, profileBytes);
    expect(pair).toEqual({
      from: { digest: SRGB.digest, bytes: await profileBytes(SRGB.digest) },
      to: coated,
    });
    expect((await convertedBy(converted, own, profileBytes))!.from.bytes).toBe(own);
    expect(await convertedBy({ output }, own, profileBytes)).toBeNull();
  });
});
