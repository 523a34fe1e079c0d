/**
 * The description that an ICC profile carries ('desc' tag, ICC.1 in its versions 2 and 4), or a
 * plain word where it can't be read.
 */
export function profileName(icc: Buffer): string {
  try {
    const tags = icc.readUInt32BE(128);
    for (let i = 0; i < Math.min(tags, 100); i++) {
      const entry = 132 + 12 * i;
      if (icc.toString('latin1', entry, entry + 4) !== 'desc') continue;
      const at = icc.readUInt32BE(entry + 4);
      const text = describe(icc, at)
        .replace(/[^\x20-\x7e\xa0-\u024f]/g, '')
        .trim();
      if (text) return text.slice(0, 80);
    }
  } catch {
    // a profile cut short has no name to show
  }
  return 'unnamed profile';
}

function describe(icc: Buffer, at: number): string {
  const type = icc.toString('latin1', at, at + 4);
  if (type === 'desc') {
    const length = icc.readUInt32BE(at + 8);
    return icc.toString('latin1', at + 12, at + 12 + Math.min(length, 200));
  }
  if (type !== 'mluc') return '';
  const length = icc.readUInt32BE(at + 20);
  const start = at + icc.readUInt32BE(at + 24);
  const utf16 = Buffer.from(icc.subarray(start, (start + Math.min(length, 400)) & ~1));
  return utf16.length % 2 ? '' : utf16.swap16().toString('utf16le');
}
