import { SaxesParser, type SaxesTagPlain } from 'saxes';
import sharp from 'sharp';
import { followedBy, onDrawing, spotOn } from '@/core/placed/place';
import type { Affine, PlacedPicture } from '@/core/placed/placed';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { Problem } from '../../problem';
import { toNominal } from './nominal';
import { PicturesMet, replacedTag, shownPixels, startTag, type SvgPicture } from './svg-pictures';
import { movesByStyle, viewBoxOf } from './svg-places';
import { fitted, lengthOf, PX_PER_POINT } from './svg-units';
import type { InPlace } from './treated';

/** Longest SVG that is read, in bytes; pictures inside count too. */
const SVG_BYTES = 60e6;
/** Deepest nesting of elements. */
const DEPTH_LIMIT = 400;
/** Largest side in points, 200 m: beyond it a size is a slip or an attack. */
export const SIDE_POINTS = 570_000;

/** An SVG that was checked and can be drawn. */
export interface Svg {
  /** the root element alone, to be put into another one, with treated pictures in their places */
  inner(treated?: InPlace): Promise<string>;
  /** in CSS pixels */
  size: Size;
  pictures: PlacedPicture[];
  /** One of its pictures, by its number from 1: what it shows of it, and its file as it is stored. */
  picture(number: number): Promise<Awaited<ReturnType<typeof shownPixels>> & { file: Buffer }>;
  /** whether it holds text that needs fonts */
  text: boolean;
}

/** The outermost element, and where its start tag ends in the text. */
interface Root {
  tag: SaxesTagPlain;
  end: number;
}

/**
 * Reads an SVG and refuses what would reach outside it or never end. Nothing in it is fetched or
 * run: scripts are not known to the renderer, and only pictures that lie inside are drawn.
 * @throws Problem with what is wrong
 */
export async function readSvg(bytes: Uint8Array, name: string): Promise<Svg> {
  if (bytes.length > SVG_BYTES) {
    throw new Problem('input', `${name} is larger than an SVG that is read. Ask for a PDF of it.`);
  }
  const text = new TextDecoder().decode(bytes);
  if (/<!ENTITY/i.test(text)) {
    throw new Problem(
      'input',
      `${name} defines entities of its own, which can hide anything and are not read. Ask for it saved again without them, or as PDF.`,
    );
  }
  const parser = new SaxesParser();
  const met = new PicturesMet(movesByStyle(text));
  let root: (Root & { size: Size; box: Rect; map: Affine | null }) | null = null;
  let depth = 0;
  let hasText = false;
  let refused: unknown;
  parser.on('opentag', (tag) => {
    depth++;
    if (depth > DEPTH_LIMIT) throw new Error('nested too deeply');
    const kind = tag.name.replace(/^.*:/, '');
    if (!root) {
      if (kind !== 'svg') throw new Error('no svg element');
      try {
        root = { tag, end: parser.position, ...sizeOf(tag, name) };
      } catch (problem) {
        refused = problem;
        throw problem;
      }
    }
    if (kind === 'text') hasText = true;
    // No attribute holds this character unquoted.
    const start = text.lastIndexOf('<', parser.position - 1);
    met.open(tag, start, parser.position, root);
  });
  parser.on('closetag', () => {
    depth--;
    met.close();
  });
  try {
    parser.write(text).close();
  } catch {
    if (refused) throw refused;
    throw new Problem(
      'input',
      `${name} is a damaged SVG and can't be read. Ask for it saved again, or as PDF.`,
    );
  }
  const found = root as (Root & { size: Size; box: Rect }) | null;
  if (!found) throw new Problem('input', `${name} holds no drawing. Ask for the file again.`);
  const { size, box } = found;
  const nominal = toNominal({
    width: size.width / PX_PER_POINT,
    height: size.height / PX_PER_POINT,
  });
  const toGrid: Affine = [nominal.width / size.width, 0, 0, nominal.height / size.height, 0, 0];
  const pictures = await met.pictures(size.width / box.width / PX_PER_POINT, toGrid);
  const head = withSize(found, size);
  return {
    inner: async (treated) => {
      const tags = treated ? await replacedTags(pictures, nominal, toGrid, treated) : [];
      let from = found.end;
      const parts = tags.map(({ picture: { start, end }, tag }) => {
        const before = text.slice(from, start);
        from = end;
        return before + tag;
      });
      return head + parts.join('') + text.slice(from);
    },
    size,
    pictures: pictures.map(({ placed }) => placed),
    picture: async (number) => {
      const picture = pictures[number - 1];
      if (!picture) throw new Problem('missing', `${name} has no picture ${number}.`);
      return { ...(await shownPixels(picture)), file: picture.data };
    },
    text: hasText,
  };
}

/** The start tags of treated pictures, in the order in which they stand. */
function replacedTags(
  pictures: readonly SvgPicture[],
  nominal: Size,
  toGrid: Affine,
  { pictures: treated, drawn, size, cell }: InPlace,
): Promise<{ picture: SvgPicture; tag: string }[]> {
  const toDrawing = followedBy(toGrid, onDrawing(nominal, drawn, size));
  return Promise.all(
    pictures.flatMap((picture, i) => {
      const one = treated.get(i + 1);
      const { place } = picture.placed;
      if (!one || !place) return [];
      const spot = spotOn(place, nominal, drawn, size);
      return [replacedTag(picture, one, spot, cell, toDrawing).then((tag) => ({ picture, tag }))];
    }),
  );
}

/** The drawing's size in CSS pixels, what of it shows there, and how that is laid on it; null where it is cut. */
function sizeOf(
  { attributes }: SaxesTagPlain,
  name: string,
): { size: Size; box: Rect; map: Affine | null } {
  const viewBox = viewBoxOf(attributes.viewBox);
  if (viewBox && !(viewBox.width > 0 && viewBox.height > 0)) {
    throw new Problem(
      'input',
      `${name} shows a part of ${viewBox.width} x ${viewBox.height}, in which there is nothing. Ask for it saved again, or as PDF.`,
    );
  }
  const shape = viewBox ? viewBox.width / viewBox.height : 1;
  const given = { width: lengthOf(attributes.width), height: lengthOf(attributes.height) };
  const width = given.width ?? (given.height ? given.height * shape : (viewBox?.width ?? 300));
  const height = given.height ?? (given.width ? given.width / shape : (viewBox?.height ?? 150));
  const most = SIDE_POINTS * PX_PER_POINT;
  if (!(width > 0 && height > 0 && width <= most && height <= most)) {
    throw new Problem(
      'input',
      `${name} says it is ${width} x ${height} pixels, which can't be drawn. Ask for it with its real size.`,
    );
  }
  const page = { x: 0, y: 0, width, height };
  const box = viewBox ?? page;
  const laid = fitted(box, page, attributes.preserveAspectRatio);
  const [x, y] = laid ? [laid.width / box.width, laid.height / box.height] : [0, 0];
  const map: Affine | null =
    laid && !laid.cut ? [x, 0, 0, y, laid.x - box.x * x, laid.y - box.y * y] : null;
  return { size: { width, height }, box, map };
}

/** The root's start tag with its size in numbers, so that it can stand inside another drawing. */
const withSize = ({ tag }: Root, size: Size): string =>
  startTag(tag, {
    viewBox: `0 0 ${size.width} ${size.height}`,
    ...tag.attributes,
    x: '0',
    y: '0',
    width: String(size.width),
    height: String(size.height),
  });

/** Draws a part of the drawing, in CSS pixels, to RGBA samples. */
export async function drawSvg(
  svg: Svg,
  part: Rect,
  size: Size,
  treated?: InPlace,
): Promise<Buffer> {
  const { x, y, width, height } = part;
  const wrapped = `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="${x} ${y} ${width} ${height}" preserveAspectRatio="none">${await svg.inner(treated)}</svg>`;
  return sharp(Buffer.from(wrapped), { unlimited: true, limitInputPixels: 1 << 26 })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
}
