import { createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import PDFDocument from 'pdfkit';
import { SHEET_PAPERS, type SheetWords } from '@/core/shop/sheet';
import { cropOf, type SheetPane } from './pane';
import { firstFont, registerFonts, setLine } from './text';

/** Points to a millimetre. */
const PT = 72 / 25.4;
/** Millimetres: about the paper, between panes, of a crop's words, of the heading, and of what stands at the foot. */
const MARGIN = 12;
const GAP = 3;
const WORDS = 9;
const HEADING = 24;
const FOOT = 14;
/** Crops are so high, for their width. */
const SHAPE = 0.72;
/** A line of figures or settings. */
const LINE = 4.6;
/** How long the scale at the foot is: a ruler laid on it says whether the sheet was printed at its size. */
const SCALE_MM = 100;

const SOFT = '#5d6663';
const RULE = '#c9cdca';
const BOTTLE = '#1e4d3f';

export interface SheetPictures {
  panes: readonly SheetPane[];
  /** told the share that is done, 0–1, and may stop it by throwing */
  onProgress?: (share: number) => Promise<void>;
}

/**
 * Writes a comparison sheet: each place beside itself in every pane, at the scale of the print; then the figures and
 * settings. The panes are those of the words, in their order.
 */
export async function writeSheet(
  out: string,
  words: SheetWords,
  { panes, onProgress = async () => {} }: SheetPictures,
): Promise<void> {
  const paper = SHEET_PAPERS[words.paper];
  const document = new PDFDocument({
    size: [paper.width * PT, paper.height * PT],
    ...{ margin: 0, font: firstFont(), autoFirstPage: false },
    info: { Title: `Comparison sheet, ${words.heading}`, Creator: 'Lontano' },
  });
  registerFonts(document);
  const file = createWriteStream(out);
  const written = finished(file);
  // Trouble may come before anybody waits for the end.
  written.catch(() => {});
  document.pipe(file);
  const page = new Pages(document, words);
  page.begin();
  const width = (paper.width - 2 * MARGIN - (panes.length - 1) * GAP) / panes.length;
  const height = width * SHAPE;
  try {
    for (const [i, stop] of words.stops.entries()) {
      page.room(height + WORDS);
      const top = page.at;
      page.line(MARGIN, top, paper.width - 2 * MARGIN, `${i + 1}  ${stop.title}`, stop.words);
      for (const [k, pane] of panes.entries()) {
        const crop = await cropOf(pane, stop, { width, height });
        const x = MARGIN + k * (width + GAP);
        document.save();
        document.rect(x * PT, (top + 5) * PT, width * PT, height * PT).clip();
        document.image(crop.png, (x + crop.x) * PT, (top + 5 + crop.y) * PT, {
          width: crop.width * PT,
          height: crop.height * PT,
        });
        document.restore();
        setLine(document, words.panes[k]!.name, x * PT, (top + 5.6 + height) * PT, {
          ...{ size: 7, width: width * PT, colour: SOFT },
        });
        if (file.errored) throw file.errored;
        await onProgress((i + (k + 1) / panes.length) / words.stops.length);
      }
      page.at += height + WORDS + 3;
    }
    page.figures();
    page.settings();
    page.foot();
    document.end();
    await written;
  } catch (error) {
    document.unpipe(file);
    file.end();
    await written;
    throw error;
  }
}

/** Pages of a sheet, one after another, and how far down the present one is filled. */
class Pages {
  /** millimetres from the top */
  at = 0;
  private number = 0;

  constructor(
    private readonly document: InstanceType<typeof PDFDocument>,
    private readonly words: SheetWords,
  ) {}

  private get paper() {
    return SHEET_PAPERS[this.words.paper];
  }

  begin(): void {
    if (this.number > 0) this.foot();
    this.number++;
    const { document, words, paper } = this;
    document.addPage();
    const right = paper.width - 2 * MARGIN;
    setLine(document, words.heading, MARGIN * PT, MARGIN * PT, {
      ...{ weight: 600, size: 12, width: right * 0.72 * PT },
    });
    setLine(document, 'Comparison sheet', MARGIN * PT, MARGIN * PT, {
      ...{ size: 9, width: right * PT, align: 'right', colour: BOTTLE },
    });
    setLine(document, words.print, MARGIN * PT, (MARGIN + 6) * PT, {
      ...{ size: 8, width: right * 0.8 * PT, colour: SOFT },
    });
    setLine(document, words.date, MARGIN * PT, (MARGIN + 6) * PT, {
      ...{ size: 8, width: right * PT, align: 'right', colour: SOFT },
    });
    this.rule(MARGIN + 11);
    this.at = HEADING + 4;
  }

  /** Goes on to the next page where so many millimetres have no room. */
  room(height: number): void {
    if (this.at + height > this.paper.height - MARGIN - FOOT) this.begin();
  }

  /** A title and what is said of it. */
  line(x: number, y: number, width: number, title: string, more: string): void {
    const used = setLine(this.document, title, x * PT, y * PT, { weight: 600, width: width * PT });
    setLine(this.document, more, x * PT + used + 8, y * PT, {
      ...{ size: 7.5, colour: SOFT, width: width * PT - used - 8 },
    });
  }

  /** What was measured, a line a figure. */
  figures(): void {
    const { rows, panes } = this.words;
    if (rows.length === 0) return;
    this.room((rows.length + 2) * LINE);
    const { document, paper } = this;
    const wide = paper.width - 2 * MARGIN;
    const first = wide * 0.34;
    const each = (wide - first) / panes.length;
    const cells = (cells_: readonly string[], weight: 400 | 600) =>
      cells_.forEach((text, k) =>
        setLine(document, text, (MARGIN + first + k * each) * PT, this.at * PT, {
          ...{ weight, width: (each - 2) * PT, align: 'right' },
        }),
      );
    setLine(document, 'Measured', MARGIN * PT, this.at * PT, { weight: 600 });
    cells(
      panes.map(({ name }) => name),
      600,
    );
    this.at += LINE;
    for (const { title, better, figures } of rows) {
      this.rule(this.at - 0.8);
      const used = setLine(document, title, MARGIN * PT, this.at * PT, { width: first * PT });
      setLine(document, better, MARGIN * PT + used + 5, this.at * PT, {
        ...{ size: 7, colour: SOFT, width: first * PT - used - 5 },
      });
      cells(figures, 400);
      this.at += LINE;
    }
    this.at += 3;
  }

  /** How each pane was made, side by side. */
  settings(): void {
    const { panes } = this.words;
    const most = Math.max(...panes.map(({ settings }) => settings.length));
    this.room((most + 2) * LINE);
    const { document, paper } = this;
    const each = (paper.width - 2 * MARGIN) / panes.length;
    panes.forEach(({ name, made, settings }, k) => {
      const x = (MARGIN + k * each) * PT;
      const width = (each - 3) * PT;
      setLine(document, name, x, this.at * PT, { weight: 600, width });
      [made, ...settings].forEach((text, i) =>
        setLine(document, text, x, (this.at + (i + 1) * LINE) * PT, { size: 7.5, width }),
      );
    });
    this.at += (most + 2) * LINE;
  }

  /** The scale, and how the sheet is to be printed. */
  foot(): void {
    const { document, paper, number } = this;
    const y = paper.height - MARGIN - 4;
    document.lineWidth(0.6).strokeColor('#1d2321');
    document.moveTo(MARGIN * PT, y * PT).lineTo((MARGIN + SCALE_MM) * PT, y * PT);
    for (let mm = 0; mm <= SCALE_MM; mm += 10) {
      const long = mm % 50 === 0 ? 2.4 : 1.4;
      document.moveTo((MARGIN + mm) * PT, y * PT).lineTo((MARGIN + mm) * PT, (y - long) * PT);
    }
    document.stroke();
    const words = `Crops are as large as on the print: print this sheet at 100 %, and this line is ${SCALE_MM} mm long.`;
    setLine(document, words, MARGIN * PT, (y + 1.4) * PT, { size: 7, colour: SOFT });
    setLine(document, String(number), MARGIN * PT, (y + 1.4) * PT, {
      ...{ size: 7, colour: SOFT, width: (paper.width - 2 * MARGIN) * PT, align: 'right' },
    });
  }

  private rule(y: number): void {
    this.document
      .lineWidth(0.4)
      .strokeColor(RULE)
      .moveTo(MARGIN * PT, y * PT)
      .lineTo((this.paper.width - MARGIN) * PT, y * PT)
      .stroke();
  }
}
