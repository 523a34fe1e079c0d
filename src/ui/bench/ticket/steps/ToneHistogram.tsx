import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { CategoryScale, Chart, Filler, LinearScale, LineElement, PointElement } from 'chart.js';
import { Line } from 'react-chartjs-2';
import { formatNumber } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { fromHalved } from '@/core/recipe/views';
import { levelSize } from '@/core/raster/tiles';
import { ask, PRIORITY } from '@/preview/client';
import { onOwnGrid } from '@/core/recipe/views';
import { wholeOriginal } from '../../preview-original';
import type { SpecialProps } from './special-props';
import { say } from '@/core/words/say';

Chart.register(CategoryScale, LinearScale, LineElement, PointElement, Filler);

/** Sides of the small picture that tones are counted on. */
const SIDE = 640;
const LEVELS = Array.from({ length: 256 }, (_, i) => i);
/** Ink of the three curves: told apart by dash as well. */
const CURVES = [
  { name: 'red', colour: '#a8322a', dash: [] },
  { name: 'green', colour: '#1e4d3f', dash: [5, 2] },
  { name: 'blue', colour: '#2c4f8a', dash: [1.5, 1.5] },
];

/** How the tones lie, as they are with the settings at hand, and what is clipped. */
export function ToneHistogram({ bench }: Pick<SpecialProps, 'bench'>) {
  const { resolved, job } = bench;
  const { digest, findings } = job.piece;
  const recipe = resolved.ok ? resolved.recipe : null;
  const { data } = useQuery({
    queryKey: ['tones', digest, findings.page, recipe && canonicalJson(recipe.steps)],
    queryFn: ({ signal }) => {
      const { width, height } = findings;
      const level = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / SIDE)));
      const small = fromHalved(onOwnGrid(recipe!, true), level);
      const size = levelSize({ width, height }, level);
      const original = { ...wholeOriginal(digest, findings, recipe!), level, size };
      const region = { x: 0, y: 0, ...small.target };
      return ask(
        'histogram',
        { original, recipe: small, region: level === 0 ? region : { ...region, ...size } },
        { priority: PRIORITY.figures, group: 'figures', signal },
      );
    },
    enabled: recipe !== null,
    placeholderData: keepPreviousData,
  });
  const highest = Math.max(1, ...(data?.counts.flatMap((c) => [...c.slice(2, 254)]) ?? []));
  const { dark, bright } = data?.clipped ?? { dark: 0, bright: 0 };
  const mark = (share: number) => (share > 0.001 ? 'trouble' : 'soft');
  return (
    <div className="histogram">
      <div style={{ height: 76 }}>
        <Line
          aria-label={say`Histogram`}
          data={{
            labels: LEVELS,
            datasets: CURVES.map(({ name, colour, dash }, i) => ({
              label: name,
              data: [...(data?.counts[i] ?? [])].map((count) => Math.min(1, count / highest)),
              borderColor: colour,
              borderDash: dash,
              borderWidth: 1.2,
              pointRadius: 0,
            })),
          }}
          options={{
            animation: false,
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: { x: { display: false }, y: { display: false, min: 0, max: 1.05 } },
          }}
        />
      </div>
      <div className="zone-line figure">
        <span className={mark(dark)}>{say`black ${formatNumber(dark * 100, 1)} %`}</span>
        <span className={mark(bright)}>{say`white ${formatNumber(bright * 100, 1)} %`}</span>
      </div>
    </div>
  );
}
