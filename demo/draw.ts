// Draws the demo shop's files anew: tsx demo/draw.ts [FILE …]. The results are committed.
import { writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { degradedPath, drawings, pictures, truthPath } from './pictures';

const wanted = process.argv.slice(2);
const asked = (file: string) => wanted.length === 0 || wanted.includes(file);
for (const picture of pictures) {
  if (!asked(picture.file)) continue;
  const path = degradedPath(picture);
  await picture.degrade(sharp(await truthPath(picture))).toFile(path);
  console.log(path);
}
for (const drawing of drawings) {
  if (!asked(drawing.file)) continue;
  const path = degradedPath(drawing);
  await writeFile(path, await drawing.write());
  console.log(path);
}
