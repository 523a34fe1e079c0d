import { formatNumber } from '@/core/measure/format';
import { factorOf } from '@/core/measure/plan';
import { isOfKind, phasesOf } from '@/core/steps';
import { beyondReach } from '@/core/steps/deblur/deblur';
import type { SpecialProps } from './special-props';
import { say } from '@/core/words/say';

/** What blur was measured, and on which side of the enlargement it is undone. */
export function BlurAdvice({ bench: { found, trial, resolved }, step, index }: SpecialProps) {
  const { blur } = found;
  const finishing = phasesOf(trial.treatment)[index] === 'target';
  const measured = !blur
    ? say`Nothing in the picture tells how it is blurred.`
    : blur.motion
      ? say`It moved by ${formatNumber(blur.motion.length, 1)} px of the original, at ${formatNumber(blur.motion.angle, 0)}°.`
      : blur.disc
        ? say`It is out of focus: every point became a disc of ${formatNumber(blur.disc.radius, 1)} px radius.`
        : blur.sigma > 0
          ? say`Its sharpest parts are blurred by ${formatNumber(blur.sigma, 1)} px.`
          : say`Its sharpest parts are sharp: as measured there is nothing to undo.`;
  const scale = finishing && resolved.ok ? factorOf(resolved.plan) : 1;
  const cut = isOfKind(step, 'deblur') ? beyondReach(step.settings, { blur }, scale) : null;
  return (
    <p className="reason mb-0">
      {measured}{' '}
      {finishing
        ? say`Blur of the file itself is undone better in Clean, before it is enlarged; here what the enlargement left soft.`
        : say`This is the right place: the enlargement then begins with a sharp picture.`}
      {cut &&
        say` Here it is ${formatNumber(cut.wide, 1)} px wide, of which ${formatNumber(cut.undone, 1)} px are undone: no more can be.`}
    </p>
  );
}
