import PDFDocument from 'pdfkit';
import type { Writable } from 'node:stream';
import type { JobRecord, RecordSection } from '@/core/shop/record';
import { firstFont, registerFonts, setLine } from '../sheet/text';
import { dayOf } from './read-record';

/** Points to a millimetre. */
const PT = 72 / 25.4;
/** A4, in millimetres; what stays free about it, and how wide labels are. */
const PAPER = { width: 210, height: 297 };
const MARGIN = 16;
const LABELS = 38;
const LINE = 4.4;
const SOFT = '#5d6663';
const RULE = '#c9cdca';
const BOTTLE = '#1e4d3f';

export interface RecordPictures {
  /** a picture's thumbnail as PNG, by its place among the pieces; null without one */
  thumbnails: readonly (Buffer | null)[];
}

/** Writes a record as a PDF. */
export function writeRecord(
  record: JobRecord,
  { thumbnails }: RecordPictures,
  out: Writable,
): void {
  const document = new PDFDocument({
    size: [PAPER.width * PT, PAPER.height * PT],
    ...{ margin: 0, font: firstFont(), autoFirstPage: false },
    info: { Title: `Record of job ${record.number}, ${record.title}`, Creator: 'Lontano' },
  });
  registerFonts(document);
  document.pipe(out);
  const page = new Pages(document, record);
  page.begin();
  page.rows(record.head);
  for (const [i, piece] of record.pieces.entries()) {
    page.picture(piece.fileName, thumbnails[i] ?? null);
    for (const section of piece.sections) page.section(section);
  }
  page.section({
    title: 'What happened',
    rows: record.events.map(({ at, words }) => ({ label: dayOf(at), text: words })),
  });
  page.foot();
  document.end();
}

type Document = InstanceType<typeof PDFDocument>;

class Pages {
  /** millimetres from the top */
  private at = 0;
  private number = 0;

  constructor(
    private readonly document: Document,
    private readonly record: JobRecord,
  ) {}

  begin(): void {
    if (this.number > 0) this.foot();
    this.number++;
    const { document } = this;
    const { number, title } = this.record;
    document.addPage();
    const width = (PAPER.width - 2 * MARGIN) * PT;
    setLine(document, `${number}  ${title}`, MARGIN * PT, MARGIN * PT, {
      ...{ weight: 600, size: 14, width: width * 0.8 },
    });
    setLine(document, 'Record', MARGIN * PT, MARGIN * PT, {
      ...{ size: 9, width, align: 'right', colour: BOTTLE },
    });
    this.at = MARGIN + 9;
    this.rule();
  }

  picture(name: string, thumbnail: Buffer | null): void {
    this.room(30);
    this.at += 4;
    if (thumbnail) {
      const top = this.at;
      this.document.image(thumbnail, (PAPER.width - MARGIN - 36) * PT, top * PT, {
        fit: [36 * PT, 26 * PT],
        align: 'right',
      });
    }
    setLine(this.document, name, MARGIN * PT, this.at * PT, {
      weight: 600,
      size: 11,
      width: 130 * PT,
    });
    this.at += 6;
    if (thumbnail) this.at += 22;
  }

  section({ title, rows }: RecordSection): void {
    if (rows.length === 0) return;
    this.room(3 * LINE);
    this.at += 2.5;
    this.rule();
    setLine(this.document, title, MARGIN * PT, this.at * PT, { weight: 600, size: 9.5 });
    this.at += LINE + 0.8;
    this.rows(rows);
  }

  rows(rows: RecordSection['rows']): void {
    const wide = (PAPER.width - 2 * MARGIN - LABELS) * PT;
    for (const { label, text } of rows) {
      const lines = wrapped(this.document, text, wide);
      this.room(LINE);
      setLine(this.document, label, MARGIN * PT, this.at * PT, {
        ...{ colour: SOFT, width: (LABELS - 2) * PT },
      });
      for (const line of lines) {
        this.room(LINE);
        setLine(this.document, line, (MARGIN + LABELS) * PT, this.at * PT, { width: wide });
        this.at += LINE;
      }
    }
  }

  foot(): void {
    const y = PAPER.height - MARGIN + 3;
    const words = { size: 7, colour: SOFT, width: (PAPER.width - 2 * MARGIN) * PT };
    setLine(this.document, this.record.writtenBy, MARGIN * PT, y * PT, words);
    setLine(this.document, String(this.number), MARGIN * PT, y * PT, { ...words, align: 'right' });
  }

  private room(height: number): void {
    if (this.at + height > PAPER.height - MARGIN - 4) this.begin();
  }

  private rule(): void {
    this.document
      .lineWidth(0.4)
      .strokeColor(RULE)
      .moveTo(MARGIN * PT, this.at * PT)
      .lineTo((PAPER.width - MARGIN) * PT, this.at * PT)
      .stroke();
    this.at += 1.8;
  }
}

/** Size of a line's letters, in points. */
const SIZE = 8;

/** A text in lines that are no wider than there is room; a word without end is broken. */
function wrapped(document: Document, text: string, width: number): string[] {
  document.font('latin 400').fontSize(SIZE);
  const fits = (line: string) => document.widthOfString(line) <= width;
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(/\s+/)) {
    const longer = line ? `${line} ${word}` : word;
    if (fits(longer)) {
      line = longer;
      continue;
    }
    if (line) lines.push(line);
    line = word;
    while (!fits(line)) {
      let length = line.length - 1;
      while (length > 1 && !fits(line.slice(0, length))) length--;
      lines.push(line.slice(0, length));
      line = line.slice(length);
    }
  }
  return [...lines, line];
}
