import { InvalidArgumentError } from 'commander';
import { typedMm } from '@/core/measure/typed';

/** Reads an option that is a length on paper, in millimetres. */
export const millimetres =
  (range: { least?: number; most?: number }) =>
  (text: string): number => {
    const mm = typedMm(text, range);
    if (!mm.ok) throw new InvalidArgumentError(mm.why);
    return mm.value;
  };
