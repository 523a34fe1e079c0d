import { useMemo } from 'react';
import type { Histogram } from '@/core/inspect/histogram';
import { formatNumber } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { usePicked } from '../../../parts/use-picked';
import { useRested } from '../../../parts/use-rested';
import { visible } from '../panes/layers';
import { useViewport } from '../viewport';
import { Curves } from './Curves';
import type { MeasuredProps } from './Measured';
import { inkedSides, useOfSides } from './sides';
import { SidesKey } from './SidesKey';
import { say } from '@/core/words/say';

const REST = 250;

/** How often each tone is in view, in every pane. */
export default function HistogramPanel({ compared, pane }: MeasuredProps) {
  const { centre } = usePicked(useViewport, 'centre');
  const rested = useRested(centre, REST);
  const sides = useMemo(() => inkedSides(compared), [compared]);
  const { answers, failed } = useOfSides('histogram', sides, true, ({ layer }) => {
    const region = visible(layer, rested, pane);
    return {
      key: [layer.original, canonicalJson(layer.recipe), region],
      ask: (signal) =>
        ask(
          'histogram',
          { original: layer.original, recipe: layer.recipe, region },
          { priority: PRIORITY.asked, group: 'histogram', signal },
        ),
    };
  });
  if (failed)
    return (
      <p className="nothing soft">
        {say`The tones could not be counted. Move the picture to try again.`}
      </p>
    );
  const curves = sides.flatMap(({ side, ink }, i) => {
    const found = answers[i];
    return found ? [{ name: side.name, ink, points: tones(found) }] : [];
  });
  const notes = sides.map((_, i) => {
    const clipped = answers[i]?.clipped;
    return clipped
      ? say`black ${formatNumber(100 * clipped.dark, 1)} · white ${formatNumber(100 * clipped.bright, 1)} %`
      : '…';
  });
  return (
    <div className="probed">
      <Curves
        label={say`Histogram of what is in view`}
        curves={curves}
        x={{ title: say`level`, min: 0, max: 255 }}
        y={{ title: say`% of the view`, min: 0 }}
      />
      <SidesKey
        sides={sides}
        notes={notes}
        words={say`Tones of what is in view, R, G and B together.`}
      />
    </div>
  );
}

/** Two tones together make a point, in percent of all. */
function tones({ counts }: Histogram): { x: number; y: number }[] {
  const all = counts.reduce((sum, one) => sum + one.reduce((a, b) => a + b, 0), 0) || 1;
  return Array.from({ length: 128 }, (_, i) => {
    const of = counts.reduce((sum, one) => sum + one[2 * i]! + one[2 * i + 1]!, 0);
    return { x: 2 * i + 0.5, y: (100 * of) / all };
  });
}
