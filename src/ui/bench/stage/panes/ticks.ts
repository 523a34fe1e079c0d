import { formatNumber } from '@/core/measure/format';

/** A tick of a ruler, in CSS pixels from its beginning; only some have a figure. */
export interface Tick {
  at: number;
  label: string | null;
}

/** Figures stand at least so many CSS pixels apart, and steps between them are so many millimetres long. */
const APART = 56;
const STEPS = [0.1, 0.2, 0.5].concat([1, 10, 100, 1000].flatMap((ten) => [ten, 2 * ten, 5 * ten]));
/** Ticks from one figure to the next. */
const BETWEEN = 5;

/**
 * The ticks of a ruler.
 * @param of where its zero lies, in CSS pixels, and how many a millimetre is long
 * @param length of the ruler in CSS pixels
 */
export function ticksOf(
  { origin, mm }: { origin: number; mm: number },
  length: number,
): { ticks: Tick[]; unit: 'mm' | 'cm' } {
  const step = STEPS.find((one) => one * mm >= APART) ?? STEPS.at(-1)!;
  const unit = step >= 10 ? 'cm' : 'mm';
  const small = step / BETWEEN;
  const first = Math.ceil(-origin / mm / small);
  const last = Math.floor((length - origin) / mm / small);
  const ticks = Array.from({ length: Math.max(0, last - first + 1) }, (_, i): Tick => {
    const n = first + i;
    const value = n * small;
    return {
      at: origin + value * mm,
      label: n % BETWEEN === 0 ? formatNumber(unit === 'cm' ? value / 10 : value, 1) : null,
    };
  });
  return { ticks, unit };
}
