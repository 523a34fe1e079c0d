import type { GlyphRun } from 'fontkit';
import type { Rect } from '@/core/frame/framing';
import type { PageLayout } from '@/core/output/page';
import type { Assembly } from '@/core/output/panel-page';
import { lettersIn } from './letters';
import { pdfNumber as n } from './pdf-file';

/** Lines of marks are a quarter of a point wide. */
const HAIRLINE = 0.25;
const DASH = 2;
/** How far from its end a quarter circle's control points lie, for a radius of 1. */
const ROUND = 0.5523;

/** What a page shows, in the words of its content (ISO 32000-1, 8): the picture, then its marks. */
export function pageContent(layout: PageLayout, slug: string): string {
  const { picture, strokes, targets } = layout;
  const all = [
    'q',
    scaled(layout),
    `q ${n(picture.width)} 0 0 ${n(picture.height)} ${n(picture.x)} ${n(picture.y)} cm /Picture Do Q`,
  ];
  if (strokes.length + targets.length > 0) {
    // In all inks, whichever they are: marks have to be on every plate.
    all.push('/All CS 1 SCN', `${HAIRLINE} w`);
    for (const { from, to, dashed } of strokes) {
      all.push(`[${dashed ? DASH : ''}] 0 d ${n(from.x)} ${n(from.y)} m ${n(to.x)} ${n(to.y)} l S`);
    }
    all.push('[] 0 d', ...targets.map(target));
  }
  if (layout.slug) all.push('/All cs 1 scn', ...lettering(slug, layout.slug));
  return [...all, 'Q'].join('\n');
}

/** A drawing of how panels lie: their outlines and names, what is folded back about them, and a line of words. */
export function assemblyContent({ media, face, outlines }: Assembly, words: string): string {
  const boxed = ({ x, y, width, height }: Rect) => `${[x, y, width, height].map(n).join(' ')} re S`;
  const rim = face.x / 3;
  return [
    `q /All CS 1 SCN /All cs 1 scn ${HAIRLINE} w`,
    `[${DASH}] 0 d`,
    ...outlines.map(({ rect }) => boxed(rect)),
    '[] 0 d',
    boxed(face),
    ...outlines.flatMap(({ rect, name }) => {
      const size = Math.max(4, Math.min(14, rect.height / 3, rect.width / 3));
      const middle = {
        x: rect.x + rect.width / 2 - size / 3,
        y: rect.y + rect.height / 2 - size / 3,
      };
      return lettering(name, { ...middle, size, length: rect.width });
    }),
    ...lettering(words, { x: rim, y: rim, size: 8, length: media.width - 2 * rim }),
    'Q',
  ].join('\n');
}

/** On a page in larger units everything is drawn smaller. */
const scaled = ({ unit }: PageLayout): string =>
  unit === 1 ? '' : `${1 / unit} 0 0 ${1 / unit} 0 0 cm`;

function target({ x, y, radius: r }: PageLayout['targets'][number]): string {
  const to = (...values: number[]) => values.map(n).join(' ');
  const half = r * 0.6;
  const kh = half * ROUND;
  return [
    `${to(x - r, y)} m ${to(x + r, y)} l S ${to(x, y - r)} m ${to(x, y + r)} l S`,
    `${to(x + half, y)} m`,
    `${to(x + half, y + kh, x + kh, y + half, x, y + half)} c`,
    `${to(x - kh, y + half, x - half, y + kh, x - half, y)} c`,
    `${to(x - half, y - kh, x - kh, y - half, x, y - half)} c`,
    `${to(x + kh, y - half, x + half, y - kh, x + half, y)} c S`,
  ].join('\n');
}

/** A line as outlines, so that no font is missing wherever it is opened; cut off where its place ends. */
function lettering(
  text: string,
  { x, y, size, length }: NonNullable<PageLayout['slug']>,
): string[] {
  const drawn = lettersIn(text, size, length).flatMap((letter) =>
    outlines(letter.run, { x: x + letter.x, y, scale: letter.scale }),
  );
  return drawn.length > 0 ? [...drawn, 'f'] : [];
}

function outlines(
  run: GlyphRun,
  { x, y, scale }: { x: number; y: number; scale: number },
): string[] {
  const point = (px: number, py: number) => `${n(x + px * scale)} ${n(y + py * scale)}`;
  return run.glyphs.flatMap((glyph) => {
    let last = { x: 0, y: 0 };
    return glyph.path.commands.map(({ command, args }) => {
      const a = args as [number, number, number, number, number, number];
      const end = { x: args.at(-2) ?? 0, y: args.at(-1) ?? 0 };
      const from = last;
      if (command !== 'closePath') last = end;
      switch (command) {
        case 'moveTo':
          return `${point(end.x, end.y)} m`;
        case 'lineTo':
          return `${point(end.x, end.y)} l`;
        case 'quadraticCurveTo': {
          // A PDF's curves are cubic.
          const toward = (p: { x: number; y: number }) =>
            point(p.x + (2 / 3) * (a[0] - p.x), p.y + (2 / 3) * (a[1] - p.y));
          return `${toward(from)} ${toward(end)} ${point(end.x, end.y)} c`;
        }
        case 'bezierCurveTo':
          return `${point(a[0], a[1])} ${point(a[2], a[3])} ${point(end.x, end.y)} c`;
        default:
          return 'h';
      }
    });
  });
}

/** A box of a page, in its units. */
export const boxOf = ({ x, y, width, height }: Rect, { unit }: Pick<PageLayout, 'unit'>): string =>
  `[${[x, y, x + width, y + height].map((at) => n(at / unit)).join(' ')}]`;
