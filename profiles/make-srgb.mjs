// Writes srgb.icc: sRGB (IEC 61966-2-1) as a small profile of ICC's version 2, which every program reads; its primaries are
// adapted to D50 by Bradford's matrix. Other programs turn its colours into their own sRGB without moving any by a level.
import { writeFileSync } from 'node:fs';

const NAME = 'sRGB';
const COPYRIGHT = 'Of no one: free for any use.';
/** D50-adapted primaries and white, as ICC's numbers of 16 bits before and behind the point. */
const XYZ = {
  wtpt: [0xf6d6, 0x10000, 0xd32d],
  rXYZ: [0x6fa2, 0x38f5, 0x0390],
  gXYZ: [0x6299, 0xb785, 0x18da],
  bXYZ: [0x24a0, 0x0f84, 0xb6cf],
};
const LEVELS = 1024;

const text = (type, words) =>
  Buffer.concat([Buffer.from(`${type}\0\0\0\0`), Buffer.from(`${words}\0`)]);

function description(words) {
  const body = Buffer.alloc(12 + words.length + 1 + 4 + 4 + 2 + 1 + 67);
  body.write('desc', 0);
  body.writeUInt32BE(words.length + 1, 8);
  body.write(words, 12);
  return body;
}

function xyz(values) {
  const body = Buffer.alloc(20);
  body.write('XYZ ', 0);
  values.forEach((value, i) => body.writeInt32BE(value, 8 + 4 * i));
  return body;
}

function curve() {
  const body = Buffer.alloc(12 + 2 * LEVELS);
  body.write('curv', 0);
  body.writeUInt32BE(LEVELS, 8);
  for (let i = 0; i < LEVELS; i++) {
    const v = i / (LEVELS - 1);
    const light = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    body.writeUInt16BE(Math.round(light * 65_535), 12 + 2 * i);
  }
  return body;
}

const shared = curve();
const tags = [
  ['desc', description(NAME)],
  ['cprt', text('text', COPYRIGHT)],
  ...Object.entries(XYZ).map(([name, values]) => [name, xyz(values)]),
  ['rTRC', shared],
  ['gTRC', shared],
  ['bTRC', shared],
];
const places = new Map();
const bodies = [];
let at = 128 + 4 + 12 * tags.length;
for (const [, body] of tags) {
  if (places.has(body)) continue;
  places.set(body, at);
  const padded = Buffer.concat([body, Buffer.alloc(-body.length & 3)]);
  bodies.push(padded);
  at += padded.length;
}
const head = Buffer.alloc(128 + 4 + 12 * tags.length);
head.writeUInt32BE(at, 0);
head.writeUInt32BE(0x02100000, 8);
head.write('mntrRGB XYZ ', 12);
[2026, 1, 1, 0, 0, 0].forEach((part, i) => head.writeUInt16BE(part, 24 + 2 * i));
head.write('acsp', 36);
XYZ.wtpt.forEach((value, i) => head.writeInt32BE(value, 68 + 4 * i));
head.writeUInt32BE(tags.length, 128);
tags.forEach(([name, body], i) => {
  head.write(name, 132 + 12 * i);
  head.writeUInt32BE(places.get(body), 136 + 12 * i);
  head.writeUInt32BE(body.length, 140 + 12 * i);
});
writeFileSync(new URL('srgb.icc', import.meta.url), Buffer.concat([head, ...bodies]));
