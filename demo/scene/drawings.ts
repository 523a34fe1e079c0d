/**
 * Drawn pictures of the demo shop, as SVG without lettering (fonts differ between machines). Each
 * is drawn in units of its degraded pixels, so that it can be rendered at any size.
 */

const TURN = Math.PI * 2;
const point = (x: number, y: number, r: number, turns: number): string =>
  `${(x + r * Math.sin(turns * TURN)).toFixed(2)},${(y - r * Math.cos(turns * TURN)).toFixed(2)}`;

const range = (count: number): number[] => Array.from({ length: count }, (_, i) => i);

/** The enamel badge: a star over a dome inside rings, on white. 128 x 128. */
export function badge(): string {
  const star = range(10)
    .map((i) => point(64, 52, i % 2 ? 9.5 : 25, i / 10))
    .join(' ');
  const beads = range(40)
    .map(
      (i) =>
        `<circle cx="${point(64, 64, 52.5, i / 40).replace(',', '" cy="')}" r="1.5" fill="#e8c14e"/>`,
    )
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 128 128">
    <rect width="128" height="128" fill="#fff"/>
    <circle cx="64" cy="64" r="60" fill="#c9993a"/><circle cx="64" cy="64" r="57.5" fill="#20376b"/>
    ${beads}
    <circle cx="64" cy="64" r="47.5" fill="none" stroke="#e8c14e" stroke-width="2"/>
    <path d="M34 92a30 26 0 0 1 60 0z" fill="#f3efe2"/><path d="M60 66.300h8V92h-8z" fill="#20376b"/>
    <path d="M30 92h68v5H30z" fill="#c9993a"/>
    <polygon points="${star}" fill="#e8c14e"/><polygon points="${star}" fill="none" stroke="#8d2a23" stroke-width="1.2"/>
  </svg>`;
}

/** The engraved star chart: hour circles, declination rings, tick marks, constellations. 640 x 640. */
export function starChart(): string {
  const c = 320;
  const rings = [90, 160, 230, 290].map((r) => `<circle cx="${c}" cy="${c}" r="${r}"/>`).join('');
  const hours = range(24)
    .map((i) => `<path d="M${point(c, c, i % 6 ? 90 : 12, i / 24)}L${point(c, c, 290, i / 24)}"/>`)
    .join('');
  const ticks = range(360)
    .map(
      (i) => `<path d="M${point(c, c, 290, i / 360)}L${point(c, c, i % 5 ? 296 : 302, i / 360)}"/>`,
    )
    .join('');
  const stars = range(170).map((i) => {
    const seed = Math.abs(Math.sin(i * 12.9898) * 43758.5453) % 1;
    const turn = Math.abs(Math.sin(i * 78.233) * 12543.123) % 1;
    const [x, y] = point(c, c, 20 + 265 * Math.sqrt(seed), turn)
      .split(',')
      .map(Number) as [number, number];
    return { x, y, size: 0.9 + 3.2 * ((seed * 7.3) % 1) ** 3 };
  });
  const dots = stars
    .map(({ x, y, size }) => `<circle cx="${x}" cy="${y}" r="${size.toFixed(2)}"/>`)
    .join('');
  // A figure joins a bright star with its neighbours, one after the other.
  const free = new Set(stars.keys());
  const figures = range(14)
    .map(() => {
      let at = [...free].reduce((a, b) => (stars[b]!.size > stars[a]!.size ? b : a));
      const way = [at];
      free.delete(at);
      for (let k = 0; k < 4; k++) {
        const from = stars[at]!;
        const far = (i: number) => Math.hypot(stars[i]!.x - from.x, stars[i]!.y - from.y);
        at = [...free].reduce((a, b) => (far(b) < far(a) ? b : a));
        way.push(at);
        free.delete(at);
      }
      const points = way.map((i) => `${stars[i]!.x},${stars[i]!.y}`).join(' ');
      return `<polyline points="${points}" stroke-dasharray="5 3"/>`;
    })
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 640">
    <rect width="640" height="640" fill="#fbf9f1"/>
    <g fill="none" stroke="#26221d" stroke-width=".8">${rings}${hours}${ticks}
      <circle cx="${c}" cy="${c}" r="303" stroke-width="2.200"/><circle cx="${c}" cy="${c}" r="309" stroke-width=".8"/>
      <ellipse cx="${c + 42}" cy="${c}" rx="206" ry="190" stroke-width="1.300"/></g>
    <g fill="none" stroke="#26221d" stroke-width=".7">${figures}</g>
    <g fill="#26221d">${dots}</g>
  </svg>`;
}

/** The symbol from an old control screen, one letter a pixel. 24 x 24. */
export const PIXEL_SYMBOL = [
  '........................',
  '..........gggg..........',
  '.......ggg....ggg.......',
  '.....gg..........gg.....',
  '....g......ww......g....',
  '...g.....wwwwww.....g...',
  '..g....wwwwwwwww.....g..',
  '..g...wwwwwwwwaaa....g..',
  '.g...wwwwwwwwaa.aa....g.',
  '.g...wwwwwwwaa..waa...g.',
  '.g..wwwwwwwaa..wwwaa..g.',
  'g...wwwwwwwa..wwwww....g',
  'g...wwwwwwwwwwwwwww....g',
  'g..ddddddddddddddddd...g',
  'g..dddddddddddddddddd..g',
  '.g..wwwwwwwwwwwwwww...g.',
  '.g..wrrwwwrrwwwrrww...g.',
  '.g..wrrwwwrrwwwrrww...g.',
  '..g.wwwwwwwwwwwwwww..g..',
  '..gddddddddddddddddddg..',
  '...gg..............gg...',
  '.....ggg........ggg.....',
  '........gggggggg........',
  '........................',
];

export const PIXEL_COLOURS: Record<string, [number, number, number]> = {
  '.': [12, 20, 24],
  g: [86, 214, 122],
  w: [214, 228, 210],
  d: [94, 116, 108],
  a: [240, 178, 62],
  r: [226, 96, 58],
};
