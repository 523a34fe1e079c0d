// Draws the demo shop's pictures anew: tsx demo/draw.ts [FILE …]. The results are committed.
import sharp from 'sharp';
import { degradedPath, pictures, truthPath } from './pictures';

const wanted = process.argv.slice(2);
for (const picture of pictures) {
  if (wanted.length > 0 && !wanted.includes(picture.file)) continue;
  const path = degradedPath(picture);
  await picture.degrade(sharp(await truthPath(picture))).toFile(path);
  console.log(path);
}
