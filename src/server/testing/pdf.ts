/** An object of a PDF: its dictionary, and the bytes of a stream where it is one. */
export type PdfObject = string | { dictionary: string; stream: Buffer };

/** A page: its size in points, what is drawn on it, and what that needs. */
export interface PdfPageText {
  width: number;
  height: number;
  /** drawing operators */
  content: string;
  /** the resource dictionary; objects are named by their number */
  resources?: string;
}

/**
 * Writes a PDF (ISO 32000). `objects` come first, numbered from 1, so that pages can name them.
 * @param trailer more entries of the trailer, such as an encryption dictionary
 */
export function buildPdf(
  pages: readonly PdfPageText[],
  objects: readonly PdfObject[] = [],
  trailer = '',
): Buffer {
  const first = objects.length + 1;
  const tree = first + 2 * pages.length;
  const all: PdfObject[] = [
    ...objects,
    ...pages.flatMap(({ width, height, content, resources = '' }, i): PdfObject[] => [
      `<</Type/Page/Parent ${tree} 0 R/MediaBox[0 0 ${width} ${height}]/Contents ${first + 2 * i + 1} 0 R/Resources<<${resources}>>>>`,
      { dictionary: '', stream: Buffer.from(content, 'latin1') },
    ]),
    `<</Type/Pages/Count ${pages.length}/Kids[${pages.map((_, i) => `${first + 2 * i} 0 R`).join(' ')}]>>`,
    `<</Type/Catalog/Pages ${tree} 0 R>>`,
  ];
  const parts: Buffer[] = [Buffer.from('%PDF-1.7\n%\xe2\xe3\xcf\xd3\n', 'latin1')];
  let length = parts[0]!.length;
  const offsets: number[] = [];
  const put = (part: Buffer) => {
    parts.push(part);
    length += part.length;
  };
  all.forEach((object, i) => {
    offsets.push(length);
    put(Buffer.from(`${i + 1} 0 obj\n`));
    if (typeof object === 'string') put(Buffer.from(object, 'latin1'));
    else {
      put(
        Buffer.from(`<<${object.dictionary}/Length ${object.stream.length}>>\nstream\n`, 'latin1'),
      );
      put(object.stream);
      put(Buffer.from('\nendstream'));
    }
    put(Buffer.from('\nendobj\n'));
  });
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  put(
    Buffer.from(
      `xref\n0 ${all.length + 1}\n0000000000 65535 f \n${table}trailer\n<</Size ${all.length + 1}/Root ${tree + 1} 0 R${trailer}>>\nstartxref\n${length}\n%%EOF\n`,
      'latin1',
    ),
  );
  return Buffer.concat(parts);
}

/** A JPEG as an object that pages can place. */
export const jpegObject = (jpeg: Buffer, width: number, height: number): PdfObject => ({
  dictionary: `/Type/XObject/Subtype/Image/Width ${width}/Height ${height}/ColorSpace/DeviceRGB/BitsPerComponent 8/Filter/DCTDecode`,
  stream: jpeg,
});
