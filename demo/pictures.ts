import { existsSync } from 'node:fs';
import { mkdir, rename } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import Piscina from 'piscina';
import sharp, { type Sharp } from 'sharp';
import type { JobState } from '../src/core/shop/job';
import { OPEN_PAPER, type Paper } from '../src/core/measure/paper';
import { badge, PIXEL_COLOURS, PIXEL_SYMBOL, starChart } from './scene/drawings';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** A picture of the demo shop: its truth, what the customer made of it, and what was ordered. */
export interface DemoPicture {
  file: string;
  title: string;
  paper: Paper;
  /** metres */
  distance: number;
  /** days from today until it is due */
  dueIn: number;
  state: JobState;
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

const svg = (text: string, size: number): Promise<Sharp> =>
  Promise.resolve(sharp(Buffer.from(text), { density: 72 }).resize(size, size).flatten());

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
];

export const degradedPath = (picture: DemoPicture): string => here(`./originals/${picture.file}`);

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
