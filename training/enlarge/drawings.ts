import sharp from 'sharp';

/**
 * Drawings at random, by the renderer of the application: lettering, badges, line work, hatchings,
 * flat illustration. Free and endless, and their truth is known at any size.
 */

/** Free font families of Debian packages; training/README.md names those. */
export const FAMILIES = {
  train: [
    ...['DejaVu Sans', 'DejaVu Serif', 'Liberation Sans', 'Liberation Mono', 'Lato', 'Cantarell'],
    ...['Linux Libertine O', 'Open Sans', 'Roboto', 'EB Garamond', 'Comfortaa', 'FreeSerif'],
    ...['Carlito', 'Dosis', 'Hack', 'Junicode Two Beta'],
  ],
  /** never learnt from */
  'held-out': ['Inter', 'Caladea', 'Lobster Two', 'Quicksand', 'FreeMono'],
};

type Next = () => number;
type Families = readonly string[];

const letters = 'aabcddeeefghiijklmnnooprrssttuuvwxyz';
const capitals = 'ABCDEFGHIJKLMNOPRSTUVWXYZ';
const figures = '0123456789';

const pick = <T>(next: Next, list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
const between = (next: Next, low: number, high: number) => low + (high - low) * next();
const whole = (next: Next, low: number, high: number) => Math.floor(between(next, low, high + 1));
/** More often small than large, as sizes of things are. */
const sized = (next: Next, low: number, high: number) => low * (high / low) ** next();
const round = (value: number) => value.toFixed(1);

function colour(next: Next): string {
  const kind = next();
  if (kind < 0.22) return pick(next, ['#000', '#111', '#fff', '#f7f5ef', '#222831']);
  if (kind < 0.35) {
    const grey = whole(next, 0, 255);
    return `rgb(${grey},${grey},${grey})`;
  }
  return `hsl(${whole(next, 0, 359)},${whole(next, 15, 100)}%,${whole(next, 8, 92)}%)`;
}

function word(next: Next): string {
  const kind = next();
  const from = kind < 0.15 ? figures : kind < 0.35 ? capitals : letters;
  const text = Array.from({ length: whole(next, 1, 9) }, () => pick(next, [...from])).join('');
  return kind > 0.8 ? text[0]!.toUpperCase() + text.slice(1) : text;
}

const words = (next: Next, count: number) =>
  Array.from({ length: count }, () => word(next)).join(' ');

/** A definition and the paint that uses it. */
function paint(next: Next, side: number, id: string): { defs: string; fill: string } {
  if (next() < 0.75) return { defs: '', fill: colour(next) };
  const stops = Array.from(
    { length: whole(next, 2, 3) },
    (_, i) => `<stop offset="${i / 2}" stop-color="${colour(next)}"/>`,
  ).join('');
  const at = () => round(between(next, 0, side));
  return {
    defs:
      next() < 0.6
        ? `<linearGradient id="${id}" gradientUnits="userSpaceOnUse" x1="${at()}" y1="${at()}" x2="${at()}" y2="${at()}">${stops}</linearGradient>`
        : `<radialGradient id="${id}" gradientUnits="userSpaceOnUse" cx="${at()}" cy="${at()}" r="${round(side * between(next, 0.2, 0.8))}">${stops}</radialGradient>`,
    fill: `url(#${id})`,
  };
}

function path(next: Next, side: number, count: number, closed: boolean): string {
  const at = () =>
    `${round(between(next, -0.1, 1.1) * side)} ${round(between(next, -0.1, 1.1) * side)}`;
  const curved = next() < 0.6;
  let d = `M${at()}`;
  for (let i = 0; i < count; i++) d += curved ? `C${at()} ${at()} ${at()}` : `L${at()}`;
  return closed ? `${d}Z` : d;
}

const shapes: Record<string, (next: Next, side: number, families: Families) => string> = {
  lettering(next, side, families) {
    const size = sized(next, 22, 150);
    const family = pick(next, families);
    const weight = next() < 0.3 ? 'bold' : 'normal';
    const style = next() < 0.2 ? 'italic' : 'normal';
    const lines = Math.min(12, Math.ceil(side / (size * 1.2)));
    const fill = colour(next);
    const turn = next() < 0.3 ? between(next, -40, 40) : 0;
    const outline =
      next() < 0.15
        ? ` stroke="${colour(next)}" stroke-width="${round(between(next, 1, size / 12))}"`
        : '';
    const rows = Array.from(
      { length: lines },
      (_, i) =>
        `<text x="${round(between(next, -30, 20))}" y="${round((i + 0.9) * size * 1.2)}">${words(next, 6)}</text>`,
    ).join('');
    return `<g font-family="${family}" font-size="${round(size)}" font-weight="${weight}" font-style="${style}" fill="${fill}"${outline} transform="rotate(${round(turn)} ${side / 2} ${side / 2})">${rows}</g>`;
  },

  badge(next, side, families) {
    const x = between(next, 0.2, 0.8) * side;
    const y = between(next, 0.2, 0.8) * side;
    let radius = between(next, 0.25, 0.6) * side;
    let out = '';
    for (let ring = 0; ring < whole(next, 2, 6) && radius > 6; ring++) {
      const stroke =
        next() < 0.5
          ? ` stroke="${colour(next)}" stroke-width="${round(sized(next, 1.5, 16))}"`
          : '';
      out += `<circle cx="${round(x)}" cy="${round(y)}" r="${round(radius)}" fill="${colour(next)}"${stroke}/>`;
      radius *= between(next, 0.6, 0.92);
    }
    const points = whole(next, 3, 16);
    const inner = between(next, 0.3, 0.9);
    const star = Array.from({ length: points * 2 }, (_, i) => {
      const angle = (Math.PI * i) / points;
      const reach = radius * (i % 2 ? inner : 1);
      return `${round(x + reach * Math.sin(angle))},${round(y - reach * Math.cos(angle))}`;
    }).join(' ');
    out += `<polygon points="${star}" fill="${colour(next)}"/>`;
    if (next() < 0.5)
      out += `<text x="${round(x)}" y="${round(y + radius / 3)}" text-anchor="middle" font-family="${pick(next, families)}" font-weight="bold" font-size="${round(radius)}" fill="${colour(next)}">${word(next).slice(0, 4)}</text>`;
    return out;
  },

  lines(next, side) {
    const stroke = colour(next);
    return Array.from({ length: whole(next, 2, 14) }, () => {
      const dashes =
        next() < 0.15 ? ` stroke-dasharray="${whole(next, 4, 30)} ${whole(next, 4, 20)}"` : '';
      return `<path d="${path(next, side, whole(next, 1, 4), false)}" fill="none" stroke="${next() < 0.7 ? stroke : colour(next)}" stroke-width="${round(sized(next, 1.2, 14))}" stroke-linecap="${pick(next, ['butt', 'round'])}"${dashes}/>`;
    }).join('');
  },

  hatching(next, side) {
    const gap = sized(next, 6, 40);
    const width = gap * between(next, 0.15, 0.6);
    const turn = between(next, 0, 180);
    const bars = Array.from(
      { length: Math.ceil((2 * side) / gap) },
      (_, i) =>
        `<rect x="${-side}" y="${round(i * gap - side / 2)}" width="${3 * side}" height="${round(width)}"/>`,
    ).join('');
    const turned = (angle: number) =>
      `<g fill="${colour(next)}" transform="rotate(${round(angle)} ${side / 2} ${side / 2})">${bars}</g>`;
    return turned(turn) + (next() < 0.3 ? turned(turn + between(next, 30, 90)) : '');
  },

  rosette(next, side) {
    const x = side * between(next, 0.2, 0.8);
    const y = side * between(next, 0.2, 0.8);
    const stroke = colour(next);
    const width = round(sized(next, 1.2, 6));
    const count = whole(next, 12, 72);
    const reach = side * between(next, 0.3, 0.7);
    const rays = Array.from({ length: count }, (_, i) => {
      const angle = (2 * Math.PI * i) / count;
      const inner = reach * (i % 2 ? 0.3 : 0.15);
      return `<line x1="${round(x + inner * Math.cos(angle))}" y1="${round(y + inner * Math.sin(angle))}" x2="${round(x + reach * Math.cos(angle))}" y2="${round(y + reach * Math.sin(angle))}"/>`;
    }).join('');
    const rings = Array.from(
      { length: whole(next, 1, 8) },
      (_, i) => `<circle cx="${round(x)}" cy="${round(y)}" r="${round((reach * (i + 1)) / 8)}"/>`,
    ).join('');
    return `<g fill="none" stroke="${stroke}" stroke-width="${width}">${rays}${rings}</g>`;
  },

  blobs(next, side) {
    return Array.from({ length: whole(next, 2, 8) }, (_, i) => {
      const { defs, fill } = paint(next, side, `p${i}${Math.floor(next() * 1e6)}`);
      const stroke =
        next() < 0.35
          ? ` stroke="${colour(next)}" stroke-width="${round(sized(next, 1.5, 14))}" stroke-linejoin="round"`
          : '';
      return `${defs}<path d="${path(next, side, whole(next, 2, 5), true)}" fill="${fill}"${stroke}/>`;
    }).join('');
  },

  boxes(next, side) {
    return Array.from({ length: whole(next, 2, 12) }, () => {
      const width = sized(next, 8, side);
      const height = sized(next, 8, side);
      const rounding = next() < 0.4 ? ` rx="${round(between(next, 2, 30))}"` : '';
      const paintOf =
        next() < 0.6
          ? `fill="${colour(next)}"`
          : `fill="none" stroke="${colour(next)}" stroke-width="${round(sized(next, 1.2, 12))}"`;
      return `<rect x="${round(between(next, -0.2, 1) * side)}" y="${round(between(next, -0.2, 1) * side)}" width="${round(width)}" height="${round(height)}"${rounding} ${paintOf}/>`;
    }).join('');
  },

  dots(next, side) {
    const fill = colour(next);
    return Array.from(
      { length: whole(next, 10, 90) },
      () =>
        `<circle cx="${round(next() * side)}" cy="${round(next() * side)}" r="${round(sized(next, 1.5, 12))}" fill="${fill}"/>`,
    ).join('');
  },
};

/** R, G, B bytes of a square drawing. @param larger so many times as many pixels along each side */
export async function drawing(
  next: Next,
  side: number,
  families: Families = FAMILIES.train,
  larger = 1,
): Promise<Buffer> {
  const ground = paint(next, side, 'ground');
  const kinds = Object.keys(shapes);
  // Lettering is what people look at: every other drawing has some.
  const layers = Array.from({ length: whole(next, 1, 3) }, () =>
    next() < 0.35 ? 'lettering' : pick(next, kinds),
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}">${ground.defs}<rect width="${side}" height="${side}" fill="${ground.fill}"/>${layers.map((kind) => shapes[kind]!(next, side, families)).join('')}</svg>`;
  return sharp(Buffer.from(svg), { density: 72 * larger })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
}
