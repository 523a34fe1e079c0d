import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** JSON with keys in a fixed order, so that equal recipes are equal texts. */
export function canonicalJson(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}

/** SHA-256 of a value's canonical JSON, in hexadecimal digits: what equal values are called by. */
export const digestOfValue = (value: unknown): string =>
  bytesToHex(sha256(utf8ToBytes(canonicalJson(value))));
