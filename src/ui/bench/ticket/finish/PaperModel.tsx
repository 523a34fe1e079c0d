import { formatNumber } from '@/core/measure/format';
import { isOfKind } from '@/core/steps';
import { JUDGED_AT, spreadAndEye, surfaceOf, toldSurface } from '@/core/steps/paper/surfaces';
import type { SpecialProps } from '../steps/special-props';
import { say } from '@/core/words/say';

/** What ink and eye take away on this print, and what is put back, with the numbers of the model. */
export function PaperModel({ bench: { work }, step }: SpecialProps) {
  if (!isOfKind(step, 'paper')) return null;
  const { surface } = step.settings;
  const on = surface === 'auto' ? surfaceOf(work.material) : surface;
  const { ink, eye, together, left } = spreadAndEye(on, work.distance);
  const mm = (value: number) => say`${formatNumber(value, 2)} mm`;
  return (
    <p className="reason mb-0">
      {say`On ${on} ink spreads by ${mm(ink)}; from ${formatNumber(work.distance)} m the eye blurs by ${mm(eye)}: ${mm(together)} together. Of detail of ${JUDGED_AT} lines a degree ${formatNumber(left * 100, 0)} % is left. Put back with a radius of ${mm(together)}, ${formatNumber(100 / left, 0)} %.`}
      {surface === 'auto' &&
        !toldSurface(work.material) &&
        (work.material
          ? say` What ${work.material} is like, its name doesn’t tell: taken for matt.`
          : say` No material is named in Size: taken for matt.`)}
    </p>
  );
}
