import { z } from 'zod';

/** A colour profile that colours can be converted to. */
export const KnownProfile = z.object({
  /** SHA-256 of its bytes, in hexadecimal digits */
  digest: z.string(),
  name: z.string(),
  space: z.enum(['rgb', 'grey', 'cmyk']),
  /** whether the shop added it */
  added: z.boolean(),
});
export type KnownProfile = z.infer<typeof KnownProfile>;

/** The profiles that ship, by their files in profiles/. */
export const SHIPPED = {
  'srgb.icc': {
    digest: '63d593904ee0b62cd89c1cfd7b3071ab8c6fd2256134a1f3f498eb7315ddefd5',
    name: 'sRGB',
    space: 'rgb',
  },
  'grey.icc': {
    digest: '67fa3514e48720273ee47f2ff6ae1b7950826bc1bc83c32230e62b2c5bd75804',
    name: 'Grey, even steps of lightness',
    space: 'grey',
  },
  'coated.icc': {
    digest: '0ed2092cdf9bfc2a4cf5c1bfe060df4d33ebc076e6276c0012ce82d6c092364b',
    name: 'Coated paper, offset',
    space: 'cmyk',
  },
  'uncoated.icc': {
    digest: '006dc068f1fc4473c603dd76bc63be4c854a21032df3e8a536414a618fb2e4f2',
    name: 'Uncoated paper, offset',
    space: 'cmyk',
  },
} as const satisfies Record<string, Omit<KnownProfile, 'added'>>;

/** The profile that a file is tagged with whose original has none. */
export const SRGB = SHIPPED['srgb.icc'];
