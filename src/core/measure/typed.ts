import { formatNumber } from './format';
import { fromInches, Length, MM_PER_INCH, toInches, Unit } from './units';
import type { Size } from '../raster/region';
import type { Sheet } from '../shop/lists';
import { say } from '../words/say';

/** What was typed, read; or what is wrong with it, in words. */
export type Typed<T> = { ok: true; value: T } | { ok: false; why: string };

/** A number with the unit that it was given, if any. */
interface Quantity {
  value: number;
  unit: string | null;
}

/** What is wrong with a text. */
class Wrong extends Error {}

const MARKS: Record<string, Unit> = {
  ...{ '"': 'in', '″': 'in', inch: 'in', inches: 'in' },
  ...{ "'": 'ft', '′': 'ft', feet: 'ft' },
};
const SPELT: Record<string, string> = { '½': ' 1/2', '¼': ' 1/4', '¾': ' 3/4', '−': '-', '·': '*' };
/** Longer than this is no figure, in letters: brackets within brackets end somewhere. */
const LONGEST = 80;

const NUMBER = /^(\d+(?:[.,]\d*)?|[.,]\d+)/;
const OPERATOR = /^[-+*/()]/;

const isPaperUnit = (unit: string): unit is Exclude<Unit, 'px' | '%'> =>
  unit !== 'px' && unit !== '%' && Unit.safeParse(unit).success;

/** Both in the unit of the first that has one. */
function inOneUnit(one: Quantity, other: Quantity): [number, number, string | null] {
  const unit = one.unit ?? other.unit;
  if (one.unit === null || other.unit === null || one.unit === other.unit) {
    return [one.value, other.value, unit];
  }
  if (!isPaperUnit(one.unit) || !isPaperUnit(other.unit)) {
    throw new Wrong(say`${one.unit} and ${other.unit} can’t be added.`);
  }
  const axis = { originalPixels: 1, ppi: 1 };
  const inches = toInches({ value: other.value, unit: other.unit }, axis);
  return [one.value, fromInches(inches, one.unit, axis), unit];
}

/** Sums, products, mixed fractions and brackets of numbers with units, from left to right. */
class Reader {
  private readonly tokens: string[] = [];
  private at = 0;

  /** @param own units that are meant besides lengths, as ppi or ° */
  constructor(
    text: string,
    private readonly own: readonly string[],
  ) {
    if (text.length > LONGEST) throw new Wrong(say`That is too long for a figure.`);
    const units = [...own, ...Unit.options, ...Object.keys(MARKS)].sort(
      (a, b) => b.length - a.length,
    );
    let rest = text.replace(/[½¼¾−·]/g, (mark) => SPELT[mark]!).trimStart();
    while (rest) {
      const unit = units.find((one) => rest.toLowerCase().startsWith(one.toLowerCase()));
      const token = NUMBER.exec(rest)?.[0] ?? OPERATOR.exec(rest)?.[0] ?? unit;
      const word = /^\S+/.exec(rest)![0];
      // A unit ends where its word does: “mmm” is none.
      if (
        !token ||
        (token === unit && /^[a-z]/i.test(rest.slice(token.length)) && /[a-z]$/i.test(token))
      ) {
        throw new Wrong(say`“${word}” is neither a number nor a unit.`);
      }
      this.tokens.push(token === unit ? unit : token);
      rest = rest.slice(token.length).trimStart();
    }
  }

  read(): Quantity {
    const all = this.sum();
    if (this.at < this.tokens.length) throw new Wrong(say`What is “${this.next}” after that?`);
    return all;
  }

  private get next(): string | undefined {
    return this.tokens[this.at];
  }

  private take(...wanted: string[]): string | null {
    const { next } = this;
    if (next === undefined || !wanted.includes(next)) return null;
    this.at++;
    return next;
  }

  private sum(): Quantity {
    let all = this.product();
    for (;;) {
      const sign = this.take('+', '-');
      // 5 ft 6 in: what stands side by side, each with its unit, is added.
      const beside = !sign && all.unit !== null && this.isNumber(this.next);
      if (!sign && !beside) return all;
      const [one, other, unit] = inOneUnit(all, this.product());
      all = { value: sign === '-' ? one - other : one + other, unit };
    }
  }

  private product(): Quantity {
    let all = this.quantity();
    for (let sign = this.take('*', '/'); sign; sign = this.take('*', '/')) {
      const other = this.quantity();
      if (other.unit !== null && all.unit !== null) {
        throw new Wrong(say`A length is multiplied and divided by plain numbers.`);
      }
      if (sign === '/' && other.value === 0) throw new Wrong(say`Nothing can be divided by 0.`);
      all = {
        value: sign === '*' ? all.value * other.value : all.value / other.value,
        unit: all.unit ?? other.unit,
      };
    }
    return all;
  }

  private quantity(): Quantity {
    if (this.take('(')) {
      const inner = this.sum();
      if (!this.take(')')) throw new Wrong(say`A bracket is not closed.`);
      return { ...inner, unit: inner.unit ?? this.unit() };
    }
    const sign = this.take('-', '+') === '-' ? -1 : 1;
    let value = this.number();
    // 12 1/2
    const [numerator, slash, denominator] = this.tokens.slice(this.at, this.at + 3);
    if (this.isNumber(numerator) && slash === '/' && this.isNumber(denominator)) {
      this.at += 3;
      const below = toNumber(denominator!);
      if (below === 0) throw new Wrong(say`Nothing can be divided by 0.`);
      value += toNumber(numerator!) / below;
    }
    return { value: sign * value, unit: this.unit() };
  }

  private number(): number {
    const { next } = this;
    if (!this.isNumber(next)) {
      throw new Wrong(
        next === undefined ? say`A number is missing.` : say`A number is missing before “${next}”.`,
      );
    }
    this.at++;
    return toNumber(next!);
  }

  private unit(): string | null {
    const token = this.take(...this.own, ...Unit.options, ...Object.keys(MARKS));
    return token && (this.own.includes(token) ? token : (MARKS[token] ?? token));
  }

  private isNumber = (token: string | undefined): boolean =>
    token !== undefined && NUMBER.test(token);
}

const toNumber = (text: string): number => Number(text.replace(',', '.'));

/** Binary fractions of decimal sums are not shown: 0.1 + 0.2 is 0.3. */
const tidy = (value: number): number => Number(value.toPrecision(12));

function reading<T>(read: () => T): Typed<T> {
  try {
    return { ok: true, value: read() };
  } catch (error) {
    if (error instanceof Wrong) return { ok: false, why: error.message };
    throw error;
  }
}

/**
 * A length as it is typed: “120 cm”, “0,8 mm”, “12 1/2 in”, “60 + 2*0.3 cm”, “5 ft 6 in”.
 * @param fallback the unit of a number without one
 */
export function typedLength(text: string, fallback: Unit): Typed<Length> {
  return reading(() => {
    if (text.trim() === '') throw new Wrong(say`A length, as 120 cm.`);
    const { value, unit } = new Reader(text, []).read();
    const length = Length.safeParse({ value: tidy(value), unit: unit ?? fallback });
    if (!length.success) throw new Wrong(say`It must be more than 0.`);
    return length.data;
  });
}

/** A length on paper as it is typed, in millimetres to a thousandth; a number alone is millimetres. */
export function typedMm(text: string, { least = 0, most = Infinity } = {}): Typed<number> {
  return reading(() => {
    if (text.trim() === '') throw new Wrong(say`A length, as 3 mm.`);
    const { value, unit } = new Reader(text, []).read();
    const of = unit ?? 'mm';
    if (!isPaperUnit(of)) throw new Wrong(say`A length on paper, as 3 mm.`);
    const inches = toInches({ value, unit: of }, { originalPixels: 1, ppi: 1 });
    const mm = Number((inches * MM_PER_INCH).toFixed(3));
    if (mm < least || mm > most) throw new Wrong(between(least, most, 'mm'));
    return mm;
  });
}

interface NumberRange {
  least: number;
  most: number;
  /** of its figure: it may be typed too; other lengths on paper are converted to one */
  unit?: string;
  whole?: boolean;
}

/** A number as it is typed, with or without its unit: “35 %”, “0,8”, “1/3”. */
export function typedNumber(
  text: string,
  { least, most, unit: own = '', whole = false }: NumberRange,
): Typed<number> {
  return reading(() => {
    if (text.trim() === '') throw new Wrong(say`A number is missing.`);
    const read = new Reader(text, own ? [own] : []).read();
    let value = tidy(read.value);
    if (read.unit !== null && read.unit !== own) {
      if (!isPaperUnit(own) || !isPaperUnit(read.unit)) {
        throw new Wrong(own ? say`It is given in ${own}.` : say`It has no unit.`);
      }
      value = tidy(inOneUnit({ value: 0, unit: own }, read)[1]);
    }
    if (!(value >= least && value <= most)) throw new Wrong(between(least, most, own));
    if (whole && !Number.isInteger(value)) throw new Wrong(say`A whole number.`);
    return value;
  });
}

const between = (least: number, most: number, unit: string): string =>
  Number.isFinite(most)
    ? say`From ${formatNumber(least)} to ${formatNumber(most)}${unit ? ` ${unit}` : ''}.`
    : say`At least ${formatNumber(least)}${unit ? ` ${unit}` : ''}.`;

/** One side of a paper, both of them (one of which may be left open), or a sheet of the shop. */
export type TypedPaper =
  | { of: 'side'; length: Length }
  | { of: 'sides'; width: Length | null; height: Length | null }
  | { of: 'sheet'; sheet: Sheet };

/** A paper as it is typed into one field: “90”, “90x60”, “90 x 60 cm”, “x 60 cm” (its height), “A1”. */
export function typedPaper(
  text: string,
  fallback: Unit,
  sheets: readonly Sheet[],
): Typed<TypedPaper> {
  const name = text.trim().toLowerCase();
  const sheet = sheets.find((one) => one.name.toLowerCase() === name);
  if (sheet) return { ok: true, value: { of: 'sheet', sheet } };
  // The x of px parts nothing.
  const sides = text.split(/(?<!p)[x×]/i);
  if (sides.length > 2) return { ok: false, why: say`Two sides at most, as 90 x 60 cm.` };
  const [first, second] = sides;
  if (second === undefined) {
    const length = typedLength(text, fallback);
    return length.ok ? { ok: true, value: { of: 'side', length: length.value } } : length;
  }
  if (!first!.trim() && !second.trim())
    return { ok: false, why: say`A side at least, as 90 x 60 cm.` };
  const open: Typed<Length | null> = { ok: true, value: null };
  const height = second.trim() ? typedLength(second, fallback) : open;
  if (!height.ok) return height;
  const width = first!.trim() ? typedLength(first!, height.value?.unit ?? fallback) : open;
  if (!width.ok) return width;
  return { ok: true, value: { of: 'sides', width: width.value, height: height.value } };
}

/** The sides that a typed paper gives a picture. A number alone is its width. */
export function sidesOf(
  typed: TypedPaper,
  picture: Size,
): { width: Length | null; height: Length | null } {
  if (typed.of === 'side') return { width: typed.length, height: null };
  return typed.of === 'sides'
    ? { width: typed.width, height: typed.height }
    : sheetSides(typed.sheet, picture);
}

/** A sheet as the picture lies, upright or not; on a roll the picture lies across, and its length follows. */
export function sheetSides(
  { width: short, height: long }: Sheet,
  picture: Size,
): { width: Length | null; height: Length | null } {
  const upright = picture.height > picture.width;
  const cm = (mm: number | null): Length | null =>
    mm === null ? null : { value: mm / 10, unit: 'cm' };
  return {
    width: cm(long === null || upright ? short : long),
    height: cm(long === null ? null : upright ? long : short),
  };
}
