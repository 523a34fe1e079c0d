import sharp, { type Sharp } from 'sharp';
import { expect, it } from 'vitest';
import { fromSamples } from '../raster/samples';
import { memorySource, random } from '../testing';
import { inspectPixels } from './inspect';
import type { Kind } from './kind';

const drawing = (inside: string, background: string) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="320"><rect width="480" height="320" fill="${background}"/>${inside}</svg>`,
    ),
  ).removeAlpha();

const posters = () =>
  drawing(
    '<circle cx="150" cy="120" r="90" fill="#d43"/><rect x="220" y="60" width="200" height="180" fill="#264"/><path d="M60 300l160-90 90 90z" fill="#eb3"/>',
    '#235',
  );

const strokes = () =>
  drawing(
    Array.from(
      { length: 26 },
      (_, i) =>
        `<path d="M${20 + i * 17} 20q${30 - i * 3} 140 10 280" fill="none" stroke="#211" stroke-width="1.5"/>`,
    ).join(''),
    '#fdfbf4',
  );

function photograph(): Sharp {
  const next = random(4);
  const pixels = Buffer.alloc(480 * 320 * 3);
  for (let i = 0; i < 480 * 320; i++) {
    const [x, y] = [i % 480, Math.floor(i / 480)];
    const light = 120 + 70 * Math.sin(x / 61 + y / 90) + 25 * Math.sin(x / 7) * Math.cos(y / 9);
    for (let c = 0; c < 3; c++) pixels[3 * i + c] = light + 9 * c + 6 * next();
  }
  return sharp(pixels, { raw: { width: 480, height: 320, channels: 3 } });
}

const squares = () =>
  posters()
    .resize(48, 32, { kernel: 'nearest' })
    .png()
    .toBuffer()
    .then((small) => sharp(small).resize(480, 320, { kernel: 'nearest' }));

async function both(): Promise<Sharp> {
  const left = await photograph().resize(480, 320).png().toBuffer();
  const right = await strokes().png().toBuffer();
  return sharp({ create: { width: 960, height: 320, channels: 3, background: '#fff' } }).composite([
    { input: left, left: 0, top: 0 },
    { input: right, left: 480, top: 0 },
  ]);
}

it.each<[Kind, () => Sharp | Promise<Sharp>]>([
  ['photograph', photograph],
  ['flat artwork', posters],
  ['line art', strokes],
  ['pixel squares', squares],
  ['mixed', both],
])('%s is taken for what it is, also after compression, with a reason', async (kind, make) => {
  const plain = await (await make()).png().toBuffer();
  const files =
    kind === 'pixel squares'
      ? [plain]
      : [plain, await sharp(plain).jpeg({ quality: 60 }).toBuffer()];
  for (const file of files) {
    const { data, info } = await sharp(file)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const source = memorySource(fromSamples(data, info.width, info.height, 3, 8));
    const { findings } = await inspectPixels(source);
    expect(findings.kind).toBe(kind);
    expect(findings.kindReason).toMatch(/\.$/);
  }
});
