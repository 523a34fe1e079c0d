import { formatNumber } from '@/core/measure/format';
import { phasesOf } from '@/core/steps';
import type { SpecialProps } from './special-props';

/** What blur was measured, and on which side of the enlargement it is undone. */
export function BlurAdvice({ bench: { found, trial }, index }: SpecialProps) {
  const { blur } = found;
  const finishing = phasesOf(trial.treatment)[index] === 'target';
  const measured = !blur
    ? 'Nothing in the picture tells how it is blurred.'
    : blur.motion
      ? `It moved by ${formatNumber(blur.motion.length, 1)} px of the original, at ${formatNumber(blur.motion.angle, 0)}°.`
      : blur.sigma > 0
        ? `Its sharpest parts are blurred by ${formatNumber(blur.sigma, 1)} px.`
        : 'Its sharpest parts are sharp: as measured there is nothing to undo.';
  return (
    <p className="reason mb-0">
      {measured}{' '}
      {finishing
        ? 'Blur of the file itself is undone better in Clean, before it is enlarged; here what the enlargement left soft.'
        : 'This is the right place: the enlargement then begins with a sharp picture.'}
    </p>
  );
}
