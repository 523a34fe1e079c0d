import { fractal, hash, valueNoise } from './noise';

const range = (count: number): number[] => Array.from({ length: count }, (_, i) => i);

/** The long telescope in its hall, as a plate of 1900 might have held it. 1200 x 900, in greys. */
export function telescope(): string {
  const ribs = range(9)
    .map(
      (i) => `<path d="M${-80 + i * 170} 0Q${600 + (i - 4) * 40} 420 ${600 + (i - 4) * 60} 900"/>`,
    )
    .join('');
  const planks = range(22)
    .map((i) => `<path d="M${-500 + i * 100} 900L${380 + i * 20} 700"/>`)
    .join('');
  const spokes = range(10)
    .map((i) => {
      const turn = (i / 10) * Math.PI * 2;
      return `<path d="M0 0L${66 * Math.cos(turn)} ${66 * Math.sin(turn)}"/>`;
    })
    .join('');
  const rungs = range(12)
    .map((i) => `<path d="M${905 + i * 4} ${840 - i * 38}h74"/>`)
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1200 900">
    <defs>
      <linearGradient id="wall" x1="0" y1="0" x2="1" y2="1"><stop offset="0" stop-color="#b9b9b9"/><stop offset=".55" stop-color="#6f6f6f"/><stop offset="1" stop-color="#2b2b2b"/></linearGradient>
      <linearGradient id="tube" x1="0" y1="0" x2=".35" y2="1"><stop offset="0" stop-color="#4a4a4a"/><stop offset=".35" stop-color="#efefef"/><stop offset=".6" stop-color="#9d9d9d"/><stop offset="1" stop-color="#161616"/></linearGradient>
      <linearGradient id="pier" x1="0" x2="1"><stop offset="0" stop-color="#3a3a3a"/><stop offset=".4" stop-color="#a8a8a8"/><stop offset="1" stop-color="#1c1c1c"/></linearGradient>
      <radialGradient id="lamp" cx=".25" cy=".1" r=".8"><stop offset="0" stop-color="#fff" stop-opacity=".75"/><stop offset="1" stop-color="#fff" stop-opacity="0"/></radialGradient>
    </defs>
    <rect width="1200" height="900" fill="url(#wall)"/>
    <g fill="none" stroke="#3d3d3d" stroke-width="7">${ribs}</g>
    <path d="M120 0h190l60 420h-170z" fill="#e9e9e9" opacity=".85"/>
    <path d="M0 700h1200v200H0z" fill="#444"/><g stroke="#2a2a2a" stroke-width="4">${planks}</g>
    <path d="M560 842l36-330h90l52 330z" fill="url(#pier)"/><path d="M520 842h260v26H520z" fill="#222"/>
    <g transform="rotate(-30 620 490)">
      <rect x="180" y="446" width="880" height="92" fill="url(#tube)"/>
      <rect x="1056" y="432" width="96" height="120" fill="url(#tube)"/><rect x="1146" y="424" width="20" height="136" fill="#101010"/>
      <rect x="120" y="462" width="64" height="60" fill="url(#tube)"/><rect x="76" y="476" width="48" height="32" fill="#1b1b1b"/>
      <rect x="300" y="414" width="330" height="22" fill="url(#tube)"/>
      <g stroke="#1a1a1a" stroke-width="8"><path d="M360 436v12M560 436v12"/></g>
    </g>
    <circle cx="640" cy="500" r="58" fill="#2a2a2a"/><circle cx="640" cy="500" r="40" fill="#8b8b8b"/>
    <g transform="translate(482 640)" fill="none" stroke="#dcdcdc" stroke-width="6"><circle r="70" stroke-width="9"/>${spokes}</g>
    <g stroke="#1d1d1d" stroke-width="9" fill="none"><path d="M900 870l62-480M975 870l58-480"/>${rungs}</g>
    <path d="M235 870q-8-120 18-170q-16-40 14-52q34 6 20 52q30 40 26 170z" fill="#151515"/>
    <rect width="1200" height="900" fill="url(#lamp)"/>
  </svg>`;
}

/** Scratches and dust of an old plate, as SVG over the picture. 900 x 675. */
export function dust(): string {
  const specks = range(260)
    .map((i) => {
      const size = 0.4 + 1.9 * hash(i, 21) ** 5;
      const light = hash(i, 22) > 0.35 ? '#fff' : '#222';
      return `<ellipse cx="${(hash(i, 23) * 900).toFixed(1)}" cy="${(hash(i, 24) * 675).toFixed(1)}" rx="${size.toFixed(2)}" ry="${(size * (0.5 + hash(i, 25))).toFixed(2)}" fill="${light}" opacity="${(0.35 + 0.6 * hash(i, 26)).toFixed(2)}"/>`;
    })
    .join('');
  const scratches = range(15)
    .map((i) => {
      const [x, y] = [hash(i, 31) * 900, hash(i, 32) * 675];
      const [dx, dy] = [(hash(i, 33) - 0.5) * 120, (hash(i, 34) - 0.2) * 380];
      return `<path d="M${x.toFixed(1)} ${y.toFixed(1)}q${(dx / 2 + 8 * hash(i, 35)).toFixed(1)} ${(dy / 2).toFixed(1)} ${dx.toFixed(1)} ${dy.toFixed(1)}" stroke="#fff" stroke-width="${(0.3 + 0.7 * hash(i, 36)).toFixed(2)}" opacity="${(0.25 + 0.5 * hash(i, 37)).toFixed(2)}" fill="none"/>`;
    })
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="675" viewBox="0 0 900 675">${specks}${scratches}</svg>`;
}

/** A sensor's noise as grey samples about the middle, to be laid over the picture. */
export function speckled(width: number, height: number): Uint8Array {
  const pixels = new Uint8Array(width * height * 3);
  for (let i = 0; i < pixels.length; i++) {
    const [x, y] = [i % (3 * width), Math.floor(i / 3 / width)];
    const fine = hash(x, y) + hash(x + 9000, y) + hash(x, y + 9000) - 1.5;
    pixels[i] = Math.round(128 + 26 * fine);
  }
  return pixels;
}

/** Grain and stains as grey samples about the middle, to be laid over the picture. */
export function grain(width: number, height: number): Uint8Array {
  const pixels = new Uint8Array(width * height * 3);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      const fine = hash(x, y) + hash(x + 9000, y) + hash(x, y + 9000) - 1.5;
      const coarse = valueNoise(x / 2.3, y / 2.3) - 0.5;
      const stain = fractal(x / 210 + 3, y / 190, 4) - 0.5;
      pixels.fill(Math.round(128 + 30 * fine + 14 * coarse + 46 * stain), at, at + 3);
    }
  }
  return pixels;
}
