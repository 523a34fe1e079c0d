import { SPACE_WORDS } from '../colour/space';
import type { Size } from '../raster/region';
import { formatOf } from './formats';
import { layOutPanels } from './panels';
import { isLossy, panelsOf, spaceOf, type Output } from './output';
import { say } from '../words/say';

/** A JPEG in passes is kept whole in memory until its last one: so many of its samples may be. */
const MOST_IN_PASSES = 150e6;
/** Samples a pixel that a JPEG keeps, by how fine its colours are. */
const KEPT = { '4:4:4': 3, '4:2:0': 1.5 } as const;

/** Whether a JPEG can be kept whole in memory while it is written, for passes or for codes that fit it. */
export const keptWhole = (
  { sampling }: Pick<Output, 'sampling'>,
  { width, height }: Size,
): boolean => width * height * KEPT[sampling] <= MOST_IN_PASSES;

/** Why an output can't hold a result, with what works; null where it can. */
export function outputRefusal(output: Output, target: Size & { ppi: number }): string | null {
  const { format, sampling, progressive } = output;
  const { name } = formatOf(format);
  const { width, height, ppi } = target;
  const { spaces } = formatOf(format);
  const space = spaceOf(output);
  if (!spaces.includes(space)) {
    return say`A ${name} holds no ${SPACE_WORDS[space]}. Choose TIFF, JPEG or PDF, or another profile.`;
  }
  const longestSide = longestSideOf(output);
  const side = Math.max(width, height);
  if (side > longestSide) {
    const fits = Math.floor((ppi * longestSide) / side);
    const orFewer = fits >= 1 ? say`, or order ${fits} ppi` : '';
    const inside = format === 'pdf' ? ' with a JPEG inside' : '';
    return say`A ${name}${inside} holds at most ${longestSide} pixels a side, this result has ${side}. Choose TIFF${orFewer}.`;
  }
  const panels = panelsOf(output);
  if (panels) {
    const laid = layOutPanels(target, panels);
    if (!laid.ok) return laid.reason;
  }
  const inPasses = isLossy(output) && formatOf(format).samplings && progressive;
  if (inPasses && !keptWhole(output, target)) {
    const most = Math.round(MOST_IN_PASSES / KEPT[sampling] / 1e6);
    return say`A JPEG of more than ${most} megapixels is written in one pass alone. Switch the passes off.`;
  }
  return null;
}

/** A PDF's lossy picture is a JPEG, and no longer than one. */
const longestSideOf = (output: Output): number =>
  output.format === 'pdf' && isLossy(output)
    ? formatOf('jpeg').longestSide
    : formatOf(output.format).longestSide;
