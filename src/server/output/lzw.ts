/** The code that empties the table, the one that ends, and the first one of a sequence (TIFF 6.0, section 13). */
const CLEAR = 256;
const END = 257;
const FIRST = 258;
/** The table is emptied before its last code of 12 bits is given. */
const LAST = 4094;
const SHORTEST = 9;

/** Slots of the table of sequences: a power of two, few of them taken. */
const SLOTS = 1 << 14;

/**
 * Compresses bytes as TIFF's LZW does (Welch, 1984; TIFF 6.0, section 13): codes of 9 to 12 bits, most significant
 * bit first, each width left one code early.
 */
export function lzwEncode(bytes: Uint8Array): Uint8Array {
  // Every byte a code of its own and of 12 bits, and now and then an emptied table, is the worst that can be.
  const out = new Uint8Array(Math.ceil(bytes.length * 1.5) + Math.ceil(bytes.length / 2000) + 16);
  const keys = new Int32Array(SLOTS);
  const codes = new Uint16Array(SLOTS);
  let [at, bits, held] = [0, 0, 0];
  let width = SHORTEST;
  let next = FIRST;
  const put = (code: number) => {
    held = (held << width) | code;
    bits += width;
    while (bits >= 8) {
      bits -= 8;
      out[at++] = (held >>> bits) & 255;
    }
    held &= (1 << bits) - 1;
  };
  const empty = () => {
    put(CLEAR);
    keys.fill(0);
    next = FIRST;
    width = SHORTEST;
  };
  put(CLEAR);
  let prefix = -1;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (prefix < 0) {
      prefix = byte;
      continue;
    }
    // One more than the pair, so that none is 0.
    const key = ((prefix << 8) | byte) + 1;
    let slot = (Math.imul(key, 0x9e3779b1) >>> 18) & (SLOTS - 1);
    while (keys[slot] !== 0 && keys[slot] !== key) slot = (slot + 1) & (SLOTS - 1);
    if (keys[slot] === key) {
      prefix = codes[slot]!;
      continue;
    }
    put(prefix);
    keys[slot] = key;
    codes[slot] = next++;
    if (next === LAST) empty();
    else if (next === 1 << width) width++;
    prefix = byte;
  }
  if (prefix >= 0) {
    put(prefix);
    // A reader has one more sequence by now, and goes by it.
    if (++next === LAST) empty();
    else if (next === 1 << width) width++;
  }
  put(END);
  if (bits > 0) out[at++] = (held << (8 - bits)) & 255;
  return out.subarray(0, at);
}
