// How many faces are found on photographs that are never committed (training/faces/pictures.py fetches them), at their own
// size and reduced, and how often one is found where there is none.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { faceDetector } from '../src/core/faces/detector';
import { findFaces } from '../src/core/faces/find';
import type { Face } from '../src/core/faces/face';
import { MODELS } from '../src/core/learned/models';
import { readAnyConvolutions } from '../src/core/learned/onnx';
import { fromSamples } from '../src/core/raster/samples';
import { memorySource } from '../src/core/testing';
import { DATA } from '../training/degrade';
import { figure, finished, missing } from './report';

const folder = join(DATA, 'faces');

/** Faces of which both eyes are to be seen, upright or nearly: their middles and widths, looked at by us. */
const TRUE: Record<string, [x: number, y: number, width: number][]> = {
  '0-00': [[184, 199, 103]],
  '0-01': [
    [406, 244, 168],
    [314, 308, 139],
    [139, 282, 66],
  ],
  '0-02': [
    [317, 223, 154],
    [439, 186, 171],
  ],
  '0-04': [[462, 218, 68]],
  '0-08': [[380, 292, 79]],
  '0-10': [[437, 266, 672]],
  '0-11': [[393, 292, 364]],
  '0-13': [[394, 330, 297]],
  '0-14': [[569, 132, 43]],
  '0-16': [
    [628, 136, 172],
    [212, 168, 174],
    [417, 175, 163],
  ],
  '1-01': [
    [470, 326, 57],
    [357, 262, 51],
    [606, 265, 42],
  ],
  '1-04': [
    [929, 328, 110],
    [403, 176, 55],
  ],
  '1-05': [[347, 162, 100]],
  '1-08': [
    [682, 156, 53],
    [109, 152, 35],
    [425, 149, 36],
    [935, 136, 36],
  ],
};
/** Where it can't be told whether a face counts: turned aside, masked, or far off. */
const EITHER = ['0-01', '0-04', '1-00', '1-01', '1-04', '0-14'];
const SCALES = [1, 0.6, 0.36];

const detector = faceDetector(readAnyConvolutions(readFileSync(`models/${MODELS.faces.file}`)));

async function facesOf(name: string, scale: number): Promise<Face[]> {
  const image = sharp(join(folder, `${name}.png`));
  const { width, height } = await image.metadata();
  const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
  // As a customer's file is: reduced, and compressed again.
  const small = await image.resize(size).jpeg({ quality: 75 }).toBuffer();
  const samples = await sharp(small).removeAlpha().toColourspace('srgb').raw().toBuffer();
  const raster = fromSamples(samples, size.width, size.height, 3, 8);
  return findFaces(memorySource(raster), detector);
}

if (!existsSync(folder)) {
  missing('no photographs are here: python3 training/faces/pictures.py fetches them');
} else {
  const names = readdirSync(folder).map((name) => name.slice(0, -4));
  const classes = { large: { all: 0, found: 0 }, small: { all: 0, found: 0 } };
  let [wrong, looked] = [0, 0];
  for (const scale of SCALES) {
    for (const name of names) {
      const faces = await facesOf(name, scale);
      looked++;
      const truths = (TRUE[name] ?? []).map(([x, y, width]) => ({
        ...{ x: x * scale, y: y * scale, width: width * scale },
      }));
      const hits = (truth: { x: number; y: number; width: number }, face: Face) =>
        Math.hypot(face.x + face.width / 2 - truth.x, face.y + face.height / 2 - truth.y) <
          0.4 * truth.width && Math.abs(Math.log2(face.width / truth.width)) < 1;
      for (const truth of truths) {
        const of = truth.width >= 48 ? classes.large : truth.width >= 24 ? classes.small : null;
        if (!of) continue;
        of.all++;
        if (faces.some((face) => hits(truth, face))) of.found++;
      }
      const others = faces.filter((face) => !truths.some((truth) => hits(truth, face)));
      if (others.length > 0 && !EITHER.includes(name)) wrong++;
    }
  }
  const { large, small } = classes;
  console.log(
    `        ${large.found} of ${large.all}, ${small.found} of ${small.all}; false on ${wrong} of ${looked}`,
  );
  figure(
    'faces of 48 px and more that are found, as a share',
    large.found / large.all,
    '',
    0.9,
    'least',
  );
  figure('… of 24 to 48 px', small.found / small.all, '', 0.6, 'least');
  figure('pictures with a face where there is none, as a share', wrong / looked, '', 0.1);
}
finished();
