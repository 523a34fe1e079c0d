import type { SaxesTagPlain } from 'saxes';
import sharp from 'sharp';
import { followedBy, inverseOf, partOn, shownIn, type Spot } from '@/core/placed/place';
import type { Affine, PlacedPicture } from '@/core/placed/placed';
import { withoutSlices } from '@/core/placed/slices';
import type { Rect } from '@/core/frame/framing';
import type { Region, Size } from '@/core/raster/region';
import { hrefOf, SvgElements, type Element, type Root } from './svg-places';
import { fitted, lengthIn, PX_PER_POINT } from './svg-units';
import type { Treated } from './treated';

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
  /** whether its box cuts that */
  cut: boolean;
  /** whether all of it is put in its place: it is cut there, or shown in several places */
  whole: boolean;
  /** from its user space to CSS pixels of the page, where it is largest */
  toPage: Affine;
  placed: PlacedPicture;
}

/** An image element as it was met. */
interface Met {
  tag: SaxesTagPlain;
  start: number;
  end: number;
  element: Element;
}

/** Gathers the pictures of an SVG while it is parsed. */
export class PicturesMet {
  private readonly elements = new SvgElements();
  private readonly met: Met[] = [];

  /** @param styled whether a style of the drawing may move or size what it names */
  constructor(private readonly styled: boolean) {}

  /** @param root how the outermost element is laid on its page */
  open(tag: SaxesTagPlain, start: number, end: number, root: Root): void {
    const element = this.elements.begin(tag, root);
    if (element.kind === 'image' && this.met.length < PICTURES) {
      this.met.push({ tag, start, end, element });
    }
  }

  close(): void {
    this.elements.end();
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
    const { tag, start, end, element } = met;
    const { attributes } = tag;
    const data = dataOf(hrefOf(attributes));
    if (!data) return null;
    const size = await sharp(data)
      .metadata()
      // One that can't be read isn't drawn either.
      .catch(() => null);
    if (!size) return null;
    const own = { width: size.width, height: size.height };
    const laid = laidIn(attributes, own, element.parent?.viewport ?? null);
    const { known, unknown } = this.elements.placesOf(element);
    // What is only defined, or covers something else, is no picture of the drawing.
    if (known.length === 0 && !unknown) return null;
    const rect = laid ?? { x: 0, y: 0, ...own, cut: false };
    if (!(rect.width > 0 && rect.height > 0)) return null;
    const kept =
      !laid || this.styled || unknown
        ? 'The drawing places it in a way that is not followed: by a style, as a pattern, or by a reference to it.'
        : null;
    const [largest] = known
      .map((map) => followedBy(squareOf(rect), map))
      .map((onPage, i) => ({ onPage, toPage: known[i]!, area: areaOf(onPage) }))
      .sort((a, b) => b.area - a.area);
    const { onPage, toPage } = largest ?? { onPage: null, toPage: squareOf(rect) };
    const placed: PlacedPicture = {
      ...own,
      widthPt: onPage ? Math.hypot(onPage[0], onPage[1]) / PX_PER_POINT : rect.width * perUnit,
      heightPt: onPage ? Math.hypot(onPage[2], onPage[3]) / PX_PER_POINT : rect.height * perUnit,
      place: kept === null && onPage ? followedBy(onPage, toGrid) : null,
      ...{ times: Math.max(1, known.length), kept },
    };
    if (!(placed.widthPt > 0 && placed.heightPt > 0)) return null;
    const whole = known.length > 1 || rect.cut;
    return { tag, start, end, data, rect, cut: rect.cut, whole, toPage, placed };
  }
}

const areaOf = ([a, b, c, d]: Affine): number => Math.abs(a * d - b * c);

/** Where a picture of a size lies in its own user space; null where that is not understood. */
function laidIn(attributes: Record<string, string>, own: Size, viewport: Size | null) {
  const x = lengthIn(attributes.x ?? '0', viewport?.width ?? null);
  const y = lengthIn(attributes.y ?? '0', viewport?.height ?? null);
  // Without a size, or with one side alone, it is as large as it is, or in proportion.
  const given = {
    width: sideOf(attributes.width, viewport?.width),
    height: sideOf(attributes.height, viewport?.height),
  };
  const { width = auto('width', 'height'), height = auto('height', 'width') } = given;
  if (x === null || y === null || width === null || height === null) return null;
  return fitted(own, { x, y, width, height }, attributes.preserveAspectRatio);

  function auto(side: 'width' | 'height', other: 'width' | 'height'): number | null {
    const along = given[other];
    return along === undefined ? own[side] : along && (own[side] / own[other]) * along;
  }
}

/** A side as it is given; undefined where it isn't, null where it is not understood. */
const sideOf = (text: string | undefined, of: number | undefined): number | null | undefined =>
  text === undefined || text.trim() === 'auto' ? undefined : lengthIn(text, of ?? null);

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
  const shown = picture.whole ? { x: 0, y: 0, ...size } : shownIn(spot, part, size);
  // What shows nothing is kept from being drawn at all.
  if (!shown) return tagWith(picture, asWords({ x: 0, y: 0, width: 0, height: 0 }), null);
  const { pixels } = spot;
  const exact = pixels.width === size.width && pixels.height === size.height;
  const crop = exact ? shown : { x: 0, y: 0, ...size };
  const samples = await treated.read(crop);
  const png = await sharp(samples.samples, {
    raw: { ...samples.size, channels: samples.channels },
  })
    .png({ compressionLevel: 0 })
    .toBuffer();
  const href = `data:image/png;base64,${png.toString('base64')}`;
  if (picture.cut) return tagWith(picture, {}, href);
  const back = !picture.whole && spot.at && inverseOf(followedBy(picture.toPage, toDrawing));
  const rect = back
    ? boundsOf(followedBy(partOn(spot.map, crop, size), back))
    : boundsOf(partOn(squareOf(picture.rect), crop, size));
  return tagWith(picture, { ...asWords(rect), preserveAspectRatio: 'none' }, href);
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

const asWords = (rect: Rect): Record<string, string> =>
  Object.fromEntries(Object.entries(rect).map(([key, value]) => [key, String(value)]));

function tagWith({ tag }: SvgPicture, more: Record<string, string>, href: string | null): string {
  const { href: _, 'xlink:href': __, ...others } = tag.attributes;
  return startTag(tag, { ...others, ...more, ...(href !== null && { href }) });
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
