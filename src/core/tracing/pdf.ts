import { piecesOf, shapesOf, type Colour, type Curve, type Paint } from './shapes';
import type { TracedPart } from './traced';
import type { Tracing } from './tracing';

const POINTS_PER_INCH = 72;

/**
 * A tracing as PDF (ISO 32000-1), one page as large as its print, in the colours of the screen it was seen on (DeviceRGB). All of it is ASCII.
 * @param ppi pixels of the print an inch
 */
export function pdfOf(tracing: Tracing, part: TracedPart, ppi: number, title: string): string {
  const scale = POINTS_PER_INCH / ppi;
  const [width, height] = [part.width * scale, part.height * scale];
  // Pixels are counted from the top, points from the bottom.
  const matrix = [scale, 0, 0, -scale, 0, height].map((value) => value.toFixed(6)).join(' ');
  const patterns: string[] = [];
  const alphas: string[] = [];
  const painted = shapesOf(tracing, part).flatMap(({ curves, paint, alpha }) => {
    const lines = curves.map(pathOf);
    const state = alpha < 1 ? [`/A${alphas.push(`<< /ca ${short(alpha)} >>`) - 1} gs`] : [];
    if ('colour' in paint) {
      const colour = points(paint.colour);
      // A thin rim of its own colour, so that nothing shows between neighbours.
      const end = alpha < 1 ? 'f*' : 'B*';
      return ['q', ...state, `${colour} rg ${colour} RG`, ...lines, end, 'Q'];
    }
    const name = `/P${patterns.push(patternOf(paint, matrix)) - 1}`;
    return ['q', ...state, `/Pattern cs ${name} scn`, ...lines, 'f*', 'Q'];
  });
  const content = ['q', `${matrix} cm`, '0.4 w', ...painted, 'Q', ''].join('\n');
  const named = (letter: string, list: readonly string[]) =>
    list.map((one, i) => `/${letter}${i} ${one}`).join(' ');
  return fileOf([
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    [
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${width.toFixed(4)} ${height.toFixed(4)}]`,
      `/Resources << /ExtGState << ${named('A', alphas)} >> /Pattern << ${named('P', patterns)} >> >>`,
      '/Contents 4 0 R >>',
    ].join('\n'),
    `<< /Length ${content.length} >>\nstream\n${content}endstream`,
    `<< /Title <${utf16(title)}> >>`,
  ]);
}

/** Objects numbered from 1, the first the catalogue and the last what the file says of itself, with where each begins. */
function fileOf(objects: readonly string[]): string {
  let file = '%PDF-1.7\n';
  const offsets = objects.map((object, i) => {
    const at = file.length;
    file += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const entry = (at: number) => `${String(at).padStart(10, '0')} 00000 n \n`;
  const count = objects.length + 1;
  return [
    `${file}xref\n0 ${count}\n0000000000 65535 f \n${offsets.map(entry).join('')}`,
    `trailer\n<< /Size ${count} /Root 1 0 R /Info ${objects.length} 0 R >>\n`,
    `startxref\n${file.length}\n%%EOF\n`,
  ].join('');
}

const DIGITS = 3;
const short = (value: number): string => String(Number(value.toFixed(DIGITS)));
const points = (values: readonly number[]): string => values.map(short).join(' ');

/** Text of any letters, as hexadecimal digits with the mark that says so. */
const utf16 = (text: string): string =>
  ['\ufeff', ...text.split('')]
    .map((one) => one.charCodeAt(0).toString(16).padStart(4, '0'))
    .join('');

function pathOf(curve: Curve): string {
  const pieces = piecesOf(curve).map(
    (piece) => `${points(piece)} ${piece.length === 2 ? 'l' : 'c'}`,
  );
  return [`${points(curve.slice(0, 2))} m`, ...pieces, 'h'].join('\n');
}

/** Colours along a line, as a pattern; it lies on the page itself, not in the pixels of the print. */
function patternOf(
  { from, to, stops }: Exclude<Paint, { colour: Colour }>,
  matrix: string,
): string {
  const between = stops
    .slice(1)
    .map(
      ({ colour }, i) =>
        `<< /FunctionType 2 /Domain [0 1] /N 1 /C0 [${points(stops[i]!.colour)}] /C1 [${points(colour)}] >>`,
    );
  const inner = stops.slice(1, -1).map(({ at }) => at);
  const encode = between.map(() => '0 1').join(' ');
  const along = `<< /FunctionType 3 /Domain [0 1] /Functions [${between.join(' ')}] /Bounds [${points(inner)}] /Encode [${encode}] >>`;
  const shading = `<< /ShadingType 2 /ColorSpace /DeviceRGB /Coords [${points([...from, ...to])}] /Extend [true true] /Function ${along} >>`;
  return `<< /PatternType 2 /Matrix [${matrix}] /Shading ${shading} >>`;
}
