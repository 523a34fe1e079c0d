import { existsSync } from 'node:fs';
import { mkdir, readFile, rename } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import Piscina from 'piscina';
import sharp, { type Sharp } from 'sharp';
import type { JobState } from '../src/core/shop/job';
import { OPEN_PAPER, type Paper } from '../src/core/measure/paper';
import { bannerPdf, bannerSvg } from './scene/banner';
import { renderBrass } from './scene/brass';
import { badge, PIXEL_COLOURS, PIXEL_SYMBOL, starChart } from './scene/drawings';
import { leaf } from './scene/leaf';
import { portrait } from './scene/portrait';
import { dust, grain, speckled, telescope } from './scene/telescope';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** A job of the demo shop: a file, and what was ordered. */
export interface DemoJob {
  file: string;
  title: string;
  paper: Paper;
  /** metres */
  distance: number;
  /** days from today until it is due */
  dueIn: number;
  state: JobState;
}

/** One with a picture: its truth, and what the customer made of it. */
export interface DemoPicture extends DemoJob {
  /** size of the undegraded picture, in pixels */
  truthSize: { width: number; height: number };
  drawTruth(): Promise<Sharp>;
  /** What the customer did to it. */
  degrade(truth: Sharp): Sharp;
}

const cm = (width: number, height: number): Paper => ({
  ...OPEN_PAPER,
  width: { value: width, unit: 'cm' },
  height: { value: height, unit: 'cm' },
});

const svg = (text: string, width: number, height = width): Promise<Sharp> =>
  Promise.resolve(sharp(Buffer.from(text), { density: 72 }).resize(width, height).flatten());

/** The dome three times as large as the customer's file. */
const DOME = { width: 2160, height: 1440 };

async function drawDome(): Promise<Sharp> {
  const pool = new Piscina({
    filename: here('./scene/dome-worker.ts'),
    execArgv: ['--import', 'tsx'],
    maxThreads: availableParallelism(),
  });
  const rows = 16;
  const bands = Array.from({ length: DOME.height / rows }, (_, i) =>
    pool.run({ ...DOME, from: i * rows, to: (i + 1) * rows, samples: 1 }),
  );
  const pixels = Buffer.concat((await Promise.all(bands)) as Uint8Array[]);
  await pool.destroy();
  return sharp(pixels, { raw: { ...DOME, channels: 3 } });
}

function drawSymbol(repeat: number): Sharp {
  const size = PIXEL_SYMBOL.length;
  const side = size * repeat;
  const pixels = Buffer.alloc(side * side * 3);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const letter = PIXEL_SYMBOL[Math.floor(y / repeat)]![Math.floor(x / repeat)]!;
      pixels.set(PIXEL_COLOURS[letter]!, (y * side + x) * 3);
    }
  return sharp(pixels, { raw: { width: side, height: side, channels: 3 } });
}

export const pictures: DemoPicture[] = [
  {
    file: 'dome-at-dusk.jpg',
    title: 'Dome at dusk, east wall',
    paper: cm(120, 80),
    distance: 2,
    dueIn: 9,
    state: 'on the bench',
    truthSize: DOME,
    drawTruth: drawDome,
    degrade: (truth) =>
      truth
        .resize(720, 480, { kernel: 'lanczos3' })
        .jpeg({ quality: 25, chromaSubsampling: '4:2:0' }),
  },
  {
    file: 'enamel-badge.png',
    title: 'Enamel badge, entrance window',
    paper: cm(60, 60),
    distance: 3,
    dueIn: 9,
    state: 'received',
    truthSize: { width: 1024, height: 1024 },
    drawTruth: () => svg(badge(), 1024),
    degrade: (truth) => truth.resize(128, 128).png(),
  },
  {
    file: 'star-chart.jpg',
    title: 'Star chart, reading room',
    paper: cm(70, 70),
    distance: 5,
    dueIn: 12,
    state: 'received',
    truthSize: { width: 2560, height: 2560 },
    drawTruth: () => svg(starChart(), 2560),
    degrade: (truth) => truth.resize(640, 640).jpeg({ quality: 62, chromaSubsampling: '4:2:0' }),
  },
  {
    file: 'control-symbol.png',
    title: 'Symbol from the control screen',
    paper: cm(40, 40),
    distance: 3,
    dueIn: 15,
    state: 'received',
    truthSize: { width: 24, height: 24 },
    drawTruth: () => Promise.resolve(drawSymbol(1)),
    degrade: () => drawSymbol(4).png({ palette: true }),
  },
  {
    file: 'long-telescope-scan.jpg',
    title: 'The long telescope, stairwell',
    paper: cm(100, 75),
    distance: 3,
    dueIn: 18,
    state: 'received',
    truthSize: { width: 2400, height: 1800 },
    drawTruth: () => svg(telescope(), 2400, 1800),
    // Faded, brown, grained and scratched; scanned from a small print.
    degrade: (truth) =>
      truth
        .resize(900, 675)
        .blur(0.7)
        .linear([0.56, 0.5, 0.42], [82, 74, 58])
        .composite([
          {
            input: Buffer.from(grain(900, 675)),
            raw: { width: 900, height: 675, channels: 3 },
            blend: 'soft-light',
          },
          { input: Buffer.from(dust()) },
        ])
        .withDensity(200)
        .jpeg({ quality: 72, chromaSubsampling: '4:2:0' }),
  },
  {
    file: 'brass-circle.jpg',
    title: 'Brass instruments, case 4',
    paper: cm(90, 60),
    distance: 1.5,
    dueIn: 11,
    state: 'printed',
    truthSize: { width: 2400, height: 1600 },
    drawTruth: () =>
      Promise.resolve(
        sharp(renderBrass(2400, 1600), { raw: { width: 2400, height: 1600, channels: 3 } }),
      ),
    degrade: (truth) =>
      truth.resize(800, 533).jpeg({ quality: 48, chromaSubsampling: '4:2:0' }).withDensity(72),
  },
  {
    file: 'founder-portrait.jpg',
    title: 'The founder, reading room',
    paper: cm(50, 62.5),
    distance: 1.5,
    dueIn: 13,
    state: 'received',
    truthSize: { width: 1440, height: 1800 },
    drawTruth: () => svg(portrait(), 1440, 1800),
    // Photographed from the wall by a telephone.
    degrade: (truth) =>
      truth
        .resize(360, 450)
        .blur(0.6)
        .composite([
          {
            input: Buffer.from(speckled(360, 450)),
            raw: { width: 360, height: 450, channels: 3 },
            blend: 'soft-light',
          },
        ])
        .jpeg({ quality: 74, chromaSubsampling: '4:2:0' }),
  },
  {
    file: 'programme-leaf.jpg',
    title: 'Programme leaf, enlarged for the door',
    paper: cm(42, 59.4),
    distance: 1,
    dueIn: 4,
    state: 'on the bench',
    truthSize: { width: 2480, height: 3508 },
    drawTruth: () => svg(leaf(), 2480, 3508),
    degrade: (truth) =>
      truth.resize(620, 877).jpeg({ quality: 68, chromaSubsampling: '4:2:0' }).withDensity(96),
  },
];

/** One that is drawn from shapes; its file is written as it is. */
export interface DemoDrawing extends DemoJob {
  write(): Promise<Buffer>;
}

const banner = {
  title: 'Banner over the gate',
  paper: cm(300, 100),
  distance: 5,
  dueIn: 5,
} as const;

export const drawings: DemoDrawing[] = [
  {
    ...banner,
    file: 'gate-banner.svg',
    state: 'approved',
    write: () => Promise.resolve(Buffer.from(bannerSvg())),
  },
  {
    ...banner,
    file: 'gate-banner.pdf',
    title: 'Banner over the gate, with photograph',
    state: 'proofed',
    write: async () => {
      const dome = await readFile(here('./originals/dome-at-dusk.jpg'));
      return bannerPdf(dome, { width: 720, height: 480 });
    },
  },
];

/** All jobs of the demo shop. */
export const demoJobs: DemoJob[] = [...pictures, ...drawings];

export const degradedPath = (picture: DemoJob): string => here(`./originals/${picture.file}`);

/**
 * The undegraded picture as a PNG, drawn when it is first asked for (the dome takes about a minute)
 * and kept in a folder that git ignores.
 */
export async function truthPath(picture: DemoPicture): Promise<string> {
  const path = here(`./.truth/${picture.file.replace(/\.\w+$/, '')}.png`);
  if (!existsSync(path)) {
    await mkdir(here('./.truth'), { recursive: true });
    const part = `${path}.part`;
    await (await picture.drawTruth()).png().toFile(part);
    await rename(part, path);
  }
  return path;
}
