import type { FileHandle } from 'node:fs/promises';
import { writeAll } from './write-all';

/** A binary comment, so that nobody takes the file for text (ISO 32000-1, 7.5.2). */
const BINARY = Buffer.from([0x25, 0xe2, 0xe3, 0xcf, 0xd3, 0x0a]);

/** Writes the objects of a PDF one after the other, and where each of them begins (ISO 32000-1, 7.5). */
export class PdfFile {
  private at = 0;
  private readonly starts = new Map<number, number>();
  private given = 0;

  constructor(private readonly file: FileHandle) {}

  async begin(version: string): Promise<void> {
    await this.put(`%PDF-${version}\n`);
    await this.put(BINARY);
  }

  /** A number for an object that is written later. */
  reserve(): number {
    return ++this.given;
  }

  /** Writes an object. @returns its number */
  async add(body: string, id = this.reserve()): Promise<number> {
    this.starts.set(id, this.at);
    await this.put(`${id} 0 obj\n${body}\nendobj\n`);
    return id;
  }

  /** Writes a stream whose length is known once it ends. @param entries of its dictionary */
  async addStream(
    entries: string,
    pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
    id = this.reserve(),
  ): Promise<number> {
    const length = this.reserve();
    this.starts.set(id, this.at);
    await this.put(`${id} 0 obj\n<< ${entries} /Length ${length} 0 R >>\nstream\n`);
    const from = this.at;
    for await (const piece of pieces) await this.put(piece);
    const bytes = this.at - from;
    await this.put('\nendstream\nendobj\n');
    await this.add(String(bytes), length);
    return id;
  }

  /** Writes the table of objects and what points at it. @param id of the file: 32 hexadecimal digits */
  async end({ root, info, id }: { root: number; info: number; id: string }): Promise<void> {
    const start = this.at;
    const count = this.given + 1;
    const lines = [`0000000000 65535 f \n`];
    for (let n = 1; n < count; n++) {
      const at = this.starts.get(n);
      if (at === undefined) throw new Error(`pdf: object ${n} was never written`);
      // A table has room for ten digits.
      if (at > 9_999_999_999) throw new Error('pdf: the file is longer than its table can tell');
      lines.push(`${String(at).padStart(10, '0')} 00000 n \n`);
    }
    await this.put(`xref\n0 ${count}\n${lines.join('')}`);
    await this.put(
      `trailer\n<< /Size ${count} /Root ${root} 0 R /Info ${info} 0 R /ID [<${id}> <${id}>] >>\nstartxref\n${start}\n%%EOF\n`,
    );
  }

  private async put(data: string | Uint8Array): Promise<void> {
    const bytes = typeof data === 'string' ? Buffer.from(data, 'latin1') : data;
    await writeAll(this.file, bytes, this.at);
    this.at += bytes.length;
  }
}

/** A text as PDF holds it: UTF-16 with a mark, in hexadecimal digits. */
export const pdfText = (text: string): string =>
  `<feff${Buffer.from(text, 'utf16le').swap16().toString('hex')}>`;

/** A length or another number, without an exponent. */
export const pdfNumber = (value: number): string =>
  value
    .toFixed(5)
    .replace(/\.?0+$/, '')
    .replace(/^-0$/, '0');
