import type { SaxesTagPlain } from 'saxes';
import sharp from 'sharp';
import { followedBy, inverseOf, partOn, shownIn, type Spot } from '@/core/placed/place';
import type { Affine, PlacedPicture } from '@/core/placed/placed';
import { withoutSlices } from '@/core/placed/slices';
import type { Rect } from '@/core/frame/framing';
import type { Region, Size } from '@/core/raster/region';
import { fitted, lengthOf, PX_PER_POINT, transformOf } from './svg-units';
import type { Treated } from './treated';

/** Elements that are drawn elsewhere than where they stand, or never. */
const ELSEWHERE = new Set(['defs', 'symbol', 'pattern', 'mask', 'clipPath', 'marker', 'filter']);
/** Pictures that are looked at; a drawing can hold any number. */
const PICTURES = 200;

/** A picture in an SVG: where its tag lies in the text, and where it is drawn. */
export interface SvgPicture {
  tag: SaxesTagPlain;
  /** of its start tag in the text */
  start: number;
  end: number;
  data: Buffer;
  /** its rectangle in its own user space */
  rect: Rect;
  /** from its user space to CSS pixels of the page */
  toPage: Affine;
  placed: PlacedPicture;
}

/** An image element as it was met. */
interface Met {
  tag: SaxesTagPlain;
  start: number;
  end: number;
  toPage: Affine | null;
  /** names of itself and of all that it stands in */
  ids: string[];
  elsewhere: boolean;
}

/** A style that moves or sizes something. */
const MOVES = /(?:^|[;{\s])(?:transform|x|y|width|height)\s*:/i;

/** Whether a drawing's own style sheets may move or size what they name. */
export const movesByStyle = (text: string): boolean =>
  [...text.matchAll(/<(?:\w+:)?style\b[^>]*>([\s\S]*?)<\/(?:\w+:)?style/gi)].some(([, sheet]) =>
    MOVES.test(sheet!),
  );

/** Gathers the pictures of an SVG while it is parsed. */
export class PicturesMet {
  private readonly within: { ids: string[]; toPage: Affine | null; elsewhere: boolean }[] = [];
  private readonly met: Met[] = [];
  private readonly used = new Set<string>();

  /** @param styled whether a style of the drawing may move or size what it names */
  constructor(private readonly styled: boolean) {}

  /** @param root from the outermost user space to CSS pixels of the page */
  open(tag: SaxesTagPlain, start: number, end: number, root: Affine | null): void {
    const kind = tag.name.replace(/^.*:/, '');
    const { attributes } = tag;
    const outer = this.within.at(-1);
    const own = outer
      ? (transformOf(attributes.transform) ?? null)
      : ([1, 0, 0, 1, 0, 0] as Affine);
    const above = outer ? outer.toPage : root;
    // A drawing in the drawing has a scale of its own, and a style may move what it names.
    const plain = (!outer || kind !== 'svg') && !MOVES.test(attributes.style ?? '');
    const toPage = own && above && plain ? followedBy(own, above) : null;
    const ids = [...(outer?.ids ?? []), ...(attributes.id ? [attributes.id] : [])];
    const elsewhere = outer?.elsewhere === true || ELSEWHERE.has(kind);
    this.within.push({ ids, toPage, elsewhere });
    if (kind === 'use') this.used.add(hrefOf(tag).replace(/^#/, ''));
    if (kind === 'image' && this.met.length < PICTURES) {
      this.met.push({ tag, start, end, toPage, ids, elsewhere });
    }
  }

  close(): void {
    this.within.pop();
  }

  /**
   * The pictures that lie inside, with where each is drawn.
   * @param perUnit points to a unit of the outermost user space, for those whose place is not known
   * @param toGrid from CSS pixels of the page to its nominal grid
   */
  async pictures(perUnit: number, toGrid: Affine): Promise<SvgPicture[]> {
    const found: SvgPicture[] = [];
    for (const one of this.met) {
      const picture = await this.picture(one, perUnit, toGrid);
      if (picture) found.push(picture);
    }
    const kept = withoutSlices(found.map(({ placed }) => placed));
    return found.map((one, i) => ({ ...one, placed: kept[i]! }));
  }

  private async picture(met: Met, perUnit: number, toGrid: Affine): Promise<SvgPicture | null> {
    const { tag, start, end, toPage, ids, elsewhere } = met;
    const { attributes } = tag;
    const data = dataOf(hrefOf(tag));
    const box = {
      x: lengthOf(attributes.x ?? '0'),
      y: lengthOf(attributes.y ?? '0'),
      width: lengthOf(attributes.width),
      height: lengthOf(attributes.height),
    };
    const { width, height } = box;
    if (!data || !width || !height || !(width > 0 && height > 0)) return null;
    const size = await sharp(data)
      .metadata()
      // One that can't be read isn't drawn either.
      .catch(() => null);
    if (!size) return null;
    const own = { width: size.width, height: size.height };
    const fits =
      box.x !== null &&
      box.y !== null &&
      fitted(own, { ...box, x: box.x, y: box.y, width, height }, attributes.preserveAspectRatio);
    const rect = fits || { x: 0, y: 0, width, height };
    const kept =
      !fits || !toPage || this.styled
        ? 'The drawing places it in a way that is not followed: by percentages, cut, or by a style.'
        : elsewhere || ids.some((id) => this.used.has(id))
          ? 'The drawing shows it by reference, perhaps several times.'
          : null;
    const onPage = kept === null && toPage ? followedBy(squareOf(rect), toPage) : null;
    const placed: PlacedPicture = {
      ...own,
      widthPt: onPage ? Math.hypot(onPage[0], onPage[1]) / PX_PER_POINT : rect.width * perUnit,
      heightPt: onPage ? Math.hypot(onPage[2], onPage[3]) / PX_PER_POINT : rect.height * perUnit,
      ...{ place: onPage && followedBy(onPage, toGrid), times: 1, kept },
    };
    if (!(placed.widthPt > 0 && placed.heightPt > 0)) return null;
    return { tag, start, end, data, rect, toPage: toPage ?? squareOf(rect), placed };
  }
}

const hrefOf = ({ attributes }: SaxesTagPlain): string =>
  attributes.href ?? attributes['xlink:href'] ?? '';

function dataOf(href: string): Buffer | null {
  const data = /^data:image\/[\w+.-]+;base64,(.*)$/s.exec(href)?.[1];
  return data === undefined ? null : Buffer.from(data, 'base64');
}

/** From the unit square to a rectangle. */
const squareOf = ({ x, y, width, height }: Rect): Affine => [width, 0, 0, height, x, y];

/**
 * The start tag of a treated picture in its place, for a part of a drawing.
 * @param toDrawing from CSS pixels of the page to the drawing's pixels
 */
export async function replacedTag(
  picture: SvgPicture,
  treated: Treated,
  spot: Spot,
  part: Region,
  toDrawing: Affine,
): Promise<string> {
  const { size } = treated;
  const shown = shownIn(spot, part, size);
  // What shows nothing is kept from being drawn at all.
  if (!shown) return tagWith(picture, { x: 0, y: 0, width: 0, height: 0 }, null);
  const { pixels } = spot;
  const exact = pixels.width === size.width && pixels.height === size.height;
  const crop = exact ? shown : { x: 0, y: 0, ...size };
  const samples = await treated.read(crop);
  const png = await sharp(samples.samples, {
    raw: { ...samples.size, channels: samples.channels },
  })
    .png({ compressionLevel: 0 })
    .toBuffer();
  const back = spot.at && inverseOf(followedBy(picture.toPage, toDrawing));
  const rect = back
    ? boundsOf(followedBy(partOn(spot.map, crop, size), back))
    : boundsOf(partOn(squareOf(picture.rect), crop, size));
  return tagWith(picture, rect, `data:image/png;base64,${png.toString('base64')}`);
}

/** The rectangle that a map without slant makes of the unit square. */
function boundsOf([a, b, c, d, e, f]: Affine): Rect {
  const [width, height] = [a + c, b + d];
  return {
    x: Math.min(e, e + width),
    y: Math.min(f, f + height),
    width: Math.abs(width),
    height: Math.abs(height),
  };
}

function tagWith({ tag }: SvgPicture, rect: Rect, href: string | null): string {
  const { href: _, 'xlink:href': __, ...others } = tag.attributes;
  return startTag(tag, {
    ...others,
    ...Object.fromEntries(Object.entries(rect).map(([key, value]) => [key, String(value)])),
    preserveAspectRatio: 'none',
    ...(href !== null && { href }),
  });
}

/** A start tag with other attributes. */
export function startTag(tag: SaxesTagPlain, attributes: Record<string, string>): string {
  const quoted = (value: string) =>
    value.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;');
  const words = Object.entries(attributes).map(([key, value]) => `${key}="${quoted(value)}"`);
  return `<${tag.name} ${words.join(' ')}${tag.isSelfClosing ? '/' : ''}>`;
}

/** What a drawing shows of a picture in it, pixel by pixel. */
export async function shownPixels({ data, placed }: SvgPicture) {
  const { width, height } = placed;
  const href = `data:image/*;base64,${data.toString('base64')}`;
  const alone = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><image width="${width}" height="${height}" preserveAspectRatio="none" href="${href}"/></svg>`;
  const samples = await sharp(Buffer.from(alone), { unlimited: true, limitInputPixels: 1 << 28 })
    .ensureAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  const size: Size = { width, height };
  return { size, channels: 4 as const, samples };
}
