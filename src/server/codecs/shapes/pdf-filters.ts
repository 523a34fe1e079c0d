import { inflateSync } from 'node:zlib';

/** The most bytes that a wrapped stream may become. */
const MOST = 256e6;

/** A stream without filters that only wrap it (ISO 32000-1, 7.4), in their order; null where one is of another kind, or damaged. */
export function unwrapped(bytes: Uint8Array, filters: readonly string[]): Uint8Array | null {
  let inner: Uint8Array | null = bytes;
  for (const filter of filters) inner = inner && without(filter, inner);
  return inner;
}

function without(filter: string, bytes: Uint8Array): Uint8Array | null {
  switch (filter) {
    case 'FlateDecode':
    case 'Fl':
      return inflated(bytes);
    case 'ASCII85Decode':
    case 'A85':
      return fromBase85(bytes);
    default:
      return null;
  }
}

function inflated(bytes: Uint8Array): Uint8Array | null {
  try {
    return inflateSync(bytes, { maxOutputLength: MOST });
  } catch {
    return null;
  }
}

/** First and last digit, what stands for four zeros, and what ends it. */
const [FIRST, LAST, ZEROS, END] = [33, 117, 122, 126];

/** Five digits to the base of 85 for four bytes; blanks count for nothing. */
function fromBase85(bytes: Uint8Array): Uint8Array | null {
  const zeros = bytes.reduce((count, byte) => count + (byte === ZEROS ? 1 : 0), 0);
  const out = new Uint8Array(bytes.length + 4 * zeros);
  let [length, digits, value] = [0, 0, 0];
  const put = (count: number) => {
    for (let i = 0; i < count; i++) out[length++] = Math.floor(value / 256 ** (3 - i)) % 256;
    [digits, value] = [0, 0];
  };
  for (const byte of bytes) {
    if (byte === END) break;
    if (byte <= 32) continue;
    if (byte === ZEROS && digits === 0) put(4);
    else if (byte < FIRST || byte > LAST) return null;
    else {
      value = value * 85 + byte - FIRST;
      if (++digits === 5) put(4);
    }
  }
  if (digits > 1) {
    const count = digits - 1;
    // What is missing counts as the highest digit.
    for (; digits < 5; digits++) value = value * 85 + 84;
    put(count);
  }
  return out.subarray(0, length);
}
