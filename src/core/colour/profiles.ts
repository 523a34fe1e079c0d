import type { DeviceSpace } from '../output/colour';

/** A colour profile that colours can be converted to. */
export interface KnownProfile {
  /** SHA-256 of its bytes, in hexadecimal digits */
  digest: string;
  name: string;
  space: DeviceSpace;
}

/** The profiles that ship, by their files in profiles/. */
export const SHIPPED = {
  'srgb.icc': {
    digest: '2a92d4bae450b76d8b0aa42193df974d75f62738ecebf74f01c5e75b12a95796',
    name: 'sRGB',
    space: 'rgb',
  },
  'grey.icc': {
    digest: '67fa3514e48720273ee47f2ff6ae1b7950826bc1bc83c32230e62b2c5bd75804',
    name: 'Grey, even steps of lightness',
    space: 'grey',
  },
} as const satisfies Record<string, KnownProfile>;

/** The profile that a file is tagged with whose original has none. */
export const SRGB = SHIPPED['srgb.icc'];
