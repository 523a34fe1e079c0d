import { SaxesParser, type SaxesTagPlain } from 'saxes';
import sharp from 'sharp';
import type { PlacedPicture } from '@/core/inspect/findings';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { Problem } from '../../problem';

/** CSS pixels an inch, and a point. */
const PX_PER_INCH = 96;
const PX_PER_POINT = 96 / 72;
/** Longest SVG that is read, in bytes; pictures inside count too. */
const SVG_BYTES = 60e6;
/** Deepest nesting of elements. */
const DEPTH_LIMIT = 400;
/** Largest side in points, 200 m: beyond it a size is a slip or an attack. */
export const SIDE_POINTS = 570_000;

/** An SVG that was checked and can be drawn. */
export interface Svg {
  /** the root element alone, to be put into another one */
  inner: string;
  /** in CSS pixels */
  size: Size;
  pictures: PlacedPicture[];
  /** whether it holds text that needs fonts */
  text: boolean;
}

/** The outermost element, and where its start tag ends in the text. */
interface Root {
  tag: SaxesTagPlain;
  end: number;
}

const perUnit: Record<string, number> = {
  '': 1,
  px: 1,
  pt: PX_PER_POINT,
  pc: 16,
  mm: PX_PER_INCH / 25.4,
  cm: PX_PER_INCH / 2.54,
  in: PX_PER_INCH,
};

/** A CSS length in pixels, or null for percentages and what isn't one. */
function lengthOf(text: string | undefined): number | null {
  const match = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(px|pt|pc|mm|cm|in)?\s*$/i.exec(
    text ?? '',
  );
  return match ? Number(match[1]) * perUnit[(match[2] ?? '').toLowerCase()]! : null;
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
  const embedded: { href: string; width: number | null; height: number | null }[] = [];
  let root: Root | null = null;
  let depth = 0;
  let hasText = false;
  parser.on('opentag', (tag) => {
    depth++;
    if (depth > DEPTH_LIMIT) throw new Error('nested too deeply');
    const kind = tag.name.replace(/^.*:/, '');
    if (!root) {
      if (kind !== 'svg') throw new Error('no svg element');
      root = { tag, end: parser.position };
    }
    if (kind === 'text') hasText = true;
    if (kind === 'image') {
      const { attributes } = tag;
      embedded.push({
        href: attributes.href ?? attributes['xlink:href'] ?? '',
        width: lengthOf(attributes.width),
        height: lengthOf(attributes.height),
      });
    }
  });
  parser.on('closetag', () => depth--);
  try {
    parser.write(text).close();
  } catch {
    throw new Problem(
      'input',
      `${name} is a damaged SVG and can't be read. Ask for it saved again, or as PDF.`,
    );
  }
  const found = root as Root | null;
  if (!found) throw new Problem('input', `${name} holds no drawing. Ask for the file again.`);
  const { size, box } = sizeOf(found.tag, name);
  // Points of the page to one unit that pictures are measured in.
  const unit = size.width / box.width / PX_PER_POINT;
  return {
    inner: withSize(text, found, size),
    size,
    pictures: await picturesOf(embedded, unit),
    text: hasText,
  };
}

function sizeOf({ attributes }: SaxesTagPlain, name: string): { size: Size; box: Size } {
  const numbers = (attributes.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const viewBox =
    numbers.length === 4 && numbers.every(Number.isFinite)
      ? { width: numbers[2]!, height: numbers[3]! }
      : null;
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
  return { size: { width, height }, box: viewBox ?? { width, height } };
}

/** The root element with its size in numbers, so that it can stand inside another drawing. */
function withSize(text: string, { tag, end }: Root, size: Size): string {
  const quoted = (value: string) =>
    value.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;');
  const attributes = Object.entries({
    viewBox: `0 0 ${size.width} ${size.height}`,
    ...tag.attributes,
    x: '0',
    y: '0',
    width: String(size.width),
    height: String(size.height),
  });
  const words = attributes.map(([key, value]) => `${key}="${quoted(value)}"`).join(' ');
  return `<${tag.name} ${words}${tag.isSelfClosing ? '/' : ''}>${text.slice(end)}`;
}

async function picturesOf(
  embedded: { href: string; width: number | null; height: number | null }[],
  unit: number,
): Promise<PlacedPicture[]> {
  const pictures: PlacedPicture[] = [];
  for (const { href, width, height } of embedded.slice(0, 200)) {
    const data = /^data:image\/[\w+.-]+;base64,(.*)$/s.exec(href)?.[1];
    if (!data || !width || !height) continue;
    try {
      const found = await sharp(Buffer.from(data, 'base64')).metadata();
      pictures.push({
        width: found.width,
        height: found.height,
        widthPt: width * unit,
        heightPt: height * unit,
      });
    } catch {
      // a picture that can't be read isn't drawn either
    }
  }
  return pictures;
}

/** Draws a part of the drawing, in CSS pixels, to RGBA samples. */
export async function drawSvg(svg: Svg, part: Rect, size: Size): Promise<Buffer> {
  const { x, y, width, height } = part;
  const wrapped = `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="${x} ${y} ${width} ${height}" preserveAspectRatio="none">${svg.inner}</svg>`;
  return sharp(Buffer.from(wrapped), { unlimited: true, limitInputPixels: 1 << 26 })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
}
