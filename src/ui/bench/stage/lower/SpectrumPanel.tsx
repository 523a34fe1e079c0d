import { useMemo } from 'react';
import { MM_PER_INCH } from '@/core/measure/units';
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
/** Of what is in view, so many pixels of the print about its middle are looked at. */
const MOST = 640;
/** Shorter waves than of so many levels are nothing that shows. */
const LEAST = 0.01;

/** How much detail of each scale is in view, at the print's own pixels: waves to a millimetre, from long to short. */
export default function SpectrumPanel({ bench, compared, pane }: MeasuredProps) {
  const { centre } = usePicked(useViewport, 'centre');
  const rested = useRested(centre, REST);
  const sides = useMemo(() => inkedSides(compared), [compared]);
  const view = { width: Math.min(MOST, pane.width), height: Math.min(MOST, pane.height) };
  const { answers, failed } = useOfSides('spectrum', sides, true, ({ own }) => {
    const region = visible({ ...own, scale: 1 }, rested, view);
    return {
      key: [own.original, canonicalJson(own.recipe), region],
      ask: (signal) =>
        ask(
          'spectrum',
          { original: own.original, recipe: own.recipe, region },
          { priority: PRIORITY.asked, group: 'spectrum', signal },
        ).then((found) => ({ found })),
    };
  });
  if (failed)
    return (
      <p className="nothing soft">
        {say`The spectrum could not be computed. Move the picture to try again.`}
      </p>
    );
  if (answers.some((one) => one && !one.found)) {
    return (
      <p className="nothing soft">
        {say`A spectrum needs 256 pixels of the print in view; there are fewer.`}
      </p>
    );
  }
  const { resolved } = bench;
  const wide = resolved.ok
    ? (resolved.recipe.target.width / resolved.recipe.target.ppi) * MM_PER_INCH
    : 1;
  const curves = sides.flatMap(({ side, ink }, i) => {
    const values = answers[i]?.found;
    if (!values) return [];
    const perMm = side.own.paper.width / wide;
    const points = Array.from(values, (y, k) => ({
      x: ((k + 1) / (2 * values.length)) * perMm,
      y: Math.max(LEAST, y),
    }));
    return [{ name: side.name, ink, points }];
  });
  return (
    <div className="probed">
      <Curves
        label={say`Detail against scale`}
        curves={curves}
        x={{ title: say`waves to a mm`, log: true }}
        y={{ title: say`levels`, log: true, min: LEAST }}
      />
      <SidesKey
        sides={sides}
        words={say`Detail against scale, about the middle of the view. The farther right a curve holds, the finer what it shows; what the original lacks there was made up or sharpened.`}
      />
    </div>
  );
}
