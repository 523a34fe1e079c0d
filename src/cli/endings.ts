import { Format, formatOf } from '@/core/output/formats';

/** The endings that a result can have. */
export const ENDINGS = Format.options.map((one) => `.${formatOf(one).endings[0]}`).join(', ');
