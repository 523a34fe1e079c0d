import { usualOutput } from '@/core/output/output';
import {
  formatBytes,
  formatFactor,
  formatMegapixels,
  formatNumber,
  formatPpi,
} from '@/core/measure/format';
import { leastPpi, type PrintPlan } from '@/core/measure/plan';
import { eyeNeed, verdict } from '@/core/measure/verdict';
import { planOf } from '@/core/recipe/plan';
import { originalOf } from '@/core/recipe/original';
import { Problem } from '@/server/problem';
import { withDecoded } from './input';
import type { OrderOptions } from './options';
import { workOf } from './work';

/** Prints the print plan for a size without making the print. */
export const plan = (file: string, options: OrderOptions): Promise<void> =>
  withDecoded(file, options.page, ({ findings }) => {
    const work = workOf(options, findings, usualOutput('tiff', 8));
    const trial = work.trials[0]!;
    const planned = planOf(originalOf('', findings), work, trial.ppi);
    if (!planned.ok) throw new Problem('usage', planned.reason);
    const judged = verdict(planned.plan, work.distance, findings);
    if (options.json) {
      const { tone, fact, judgement } = judged;
      console.log(
        JSON.stringify({
          ...planned.plan,
          distance: work.distance,
          eyePpi: eyeNeed(work.distance, findings.kind),
          verdict: { tone, sentence: `${fact} ${judgement}` },
        }),
      );
    } else {
      console.log(planText(planned.plan));
      console.log(`${judged.fact} ${judged.judgement}`);
    }
    return Promise.resolve();
  });

function planText(made: PrintPlan): string {
  const { pixels, inches, factor, vector } = made;
  const cm = (value: number) => formatNumber(value * 2.54, 2);
  const lines: [string, string][] = [
    [
      'result',
      `${pixels.width} x ${pixels.height} pixels, ${formatMegapixels(made.megapixels)} megapixels, ${formatBytes(made.bytes)}`,
    ],
    ['paper', `${cm(inches.width)} x ${cm(inches.height)} cm at ${formatPpi(made.ppiAfter)} ppi`],
    [
      'carries',
      vector
        ? 'shapes, at any size'
        : `${formatPpi(leastPpi(made))} ppi before, factor ${formatFactor(factor.x)}`,
    ],
  ];
  if (made.croppedAway > 0.0005) {
    lines.push(['left out', `${formatNumber(made.croppedAway * 100, 1)} % of the picture`]);
  }
  if (made.margins > 0.0005) {
    lines.push(['margins', `${formatNumber(made.margins * 100, 1)} % of the paper`]);
  }
  if (made.distortion !== 0) {
    lines.push(['stretched', `${formatNumber(made.distortion * 100, 1)} %`]);
  }
  return lines.map(([label, text]) => `${label.padEnd(12)} ${text}`).join('\n');
}
