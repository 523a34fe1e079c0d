// How many of 100 generated and degraded pictures are taken for what they are.
import sharp, { type Sharp } from 'sharp';
import { inspectPixels } from '../src/core/inspect/inspect';
import type { Kind } from '../src/core/inspect/kind';
import { fromSamples } from '../src/core/raster/samples';
import { memorySource, random } from '../src/core/testing';
import { pictures, truthPath } from '../demo/pictures';
import { figure, finished } from './report';

const EACH = 20;
const next = random(2026);
const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
const between = (least: number, most: number) => Math.round(least + next() * (most - least));

const truths = new Map<string, Buffer>();
async function truth(file: string): Promise<Buffer> {
  let bytes = truths.get(file);
  if (!bytes) {
    bytes = await sharp(await truthPath(pictures.find((one) => one.file === file)!))
      .removeAlpha()
      .png()
      .toBuffer();
    truths.set(file, bytes);
  }
  return bytes;
}

/** A part of a picture, at the size that a customer sends. */
async function part(file: string, least: number): Promise<Sharp> {
  const bytes = await truth(file);
  const { width, height } = await sharp(bytes).metadata();
  const share = least + next() * (1 - least);
  const size = { width: Math.round(width * share), height: Math.round(height * share) };
  const cut = await sharp(bytes)
    .extract({
      left: between(0, width - size.width),
      top: between(0, height - size.height),
      ...size,
    })
    .png()
    .toBuffer();
  return sharp(cut).resize(between(500, 1400));
}

/** What customers do to a file on its way. */
async function degraded(image: Sharp): Promise<Buffer> {
  const way = next();
  const plain = await image.png().toBuffer();
  if (way < 0.2) return plain;
  const quality = between(38, 92);
  return sharp(plain)
    .jpeg({ quality, chromaSubsampling: pick(['4:2:0', '4:4:4']) })
    .toBuffer();
}

const colour = () => `rgb(${between(0, 255)},${between(0, 255)},${between(0, 255)})`;

function poster(): Sharp {
  const shapes = Array.from({ length: between(6, 24) }, () => {
    const [x, y, s] = [between(0, 600), between(0, 400), between(30, 190)];
    return pick([
      `<circle cx="${x}" cy="${y}" r="${s}" fill="${colour()}"/>`,
      `<rect x="${x}" y="${y}" width="${s * 1.6}" height="${s}" fill="${colour()}"/>`,
      `<path d="M${x} ${y}l${s} ${s / 2}l-${s / 2} ${s}z" fill="${colour()}"/>`,
    ]);
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 400" width="600" height="400"><rect width="600" height="400" fill="${colour()}"/>${shapes.join('')}</svg>`;
  return sharp(Buffer.from(svg)).resize(between(400, 1200)).removeAlpha();
}

function lineDrawing(): Sharp {
  const lines = Array.from({ length: between(40, 130) }, () => {
    const [x, y] = [between(20, 580), between(20, 380)];
    return pick([
      `<path d="M${x} ${y}l${between(-90, 90)} ${between(-90, 90)}"/>`,
      `<circle cx="${x}" cy="${y}" r="${between(5, 70)}"/>`,
      `<path d="M${x} ${y}q${between(-60, 60)} ${between(-60, 60)} ${between(-90, 90)} ${between(-20, 20)}"/>`,
    ]);
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 400" width="600" height="400"><rect width="600" height="400" fill="#fdfcf6"/><g fill="none" stroke="#${pick(['111', '223', '402010'])}" stroke-width="${(0.6 + 2 * next()).toFixed(2)}">${lines.join('')}</g></svg>`;
  return sharp(Buffer.from(svg)).resize(between(500, 1400)).removeAlpha();
}

async function sprite(): Promise<Buffer> {
  const side = between(16, 56);
  const palette = Array.from({ length: between(3, 14) }, () => [
    between(0, 255),
    between(0, 255),
    between(0, 255),
  ]);
  const pixels = Buffer.alloc(side * side * 3);
  for (let i = 0; i < side * side; i++) {
    // Runs of a colour, as drawn squares have them.
    const before = i % side ? [...pixels.subarray(3 * i - 3, 3 * i)] : null;
    pixels.set(before && next() < 0.45 ? before : pick(palette), 3 * i);
  }
  const factor = pick([1, 2, 3, 4, 5, 8, 2.5, 3.3, 6.7]);
  const blown = sharp(pixels, { raw: { width: side, height: side, channels: 3 } }).resize(
    Math.round(side * factor),
    Math.round(side * factor),
    { kernel: 'nearest' },
  );
  return next() < 0.25 && factor >= 3
    ? blown.jpeg({ quality: between(85, 97), chromaSubsampling: '4:4:4' }).toBuffer()
    : blown.png().toBuffer();
}

const PHOTOGRAPHS = ['dome-at-dusk.jpg', 'brass-circle.jpg', 'long-telescope-scan.jpg'] as const;
const photograph = () => part(pick(PHOTOGRAPHS), 0.45);
const lettering = () => part('programme-leaf.jpg', 0.6);

/** A photograph and a drawing on one page. */
async function mixed(): Promise<Sharp> {
  const size = { width: between(350, 600), height: between(420, 700) };
  const photo = await (await photograph()).resize(size.width, size.height).png().toBuffer();
  const drawn = await (next() < 0.5 ? await lettering() : poster())
    .resize(size.width, size.height)
    .png()
    .toBuffer();
  return sharp({
    create: { width: 2 * size.width, height: size.height, channels: 3, background: '#fff' },
  }).composite([
    { input: photo, left: 0, top: 0 },
    { input: drawn, left: size.width, top: 0 },
  ]);
}

const makers: Record<Kind, () => Promise<Buffer>> = {
  photograph: async () => degraded(await photograph()),
  'flat artwork': async () =>
    degraded(next() < 0.3 ? await part('enamel-badge.png', 0.7) : poster()),
  'line art': async () =>
    degraded(
      await pick([
        () => part('star-chart.jpg', 0.4),
        lettering,
        () => Promise.resolve(lineDrawing()),
      ])(),
    ),
  'pixel squares': sprite,
  mixed: async () => degraded(await mixed()),
};

let right = 0;
let all = 0;
for (const [kind, make] of Object.entries(makers)) {
  const taken = new Map<string, number>();
  for (let i = 0; i < EACH; i++) {
    const { data, info } = await sharp(await make())
      .toColourspace('srgb')
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const raster = fromSamples(data, info.width, info.height, 3, 8);
    const { findings } = await inspectPixels(memorySource(raster));
    taken.set(findings.kind, (taken.get(findings.kind) ?? 0) + 1);
    all++;
    if (findings.kind === kind) right++;
  }
  const words = [...taken].map(([found, count]) => `${count} ${found}`).join(', ');
  console.log(`${EACH} of ${kind}: taken for ${words}`);
}
figure('kinds that are right, in 100', (100 * right) / all, '%', 90, 'least');
finished();
