import { Chart, Filler, LinearScale, LineElement, LogarithmicScale, PointElement } from 'chart.js';
import { Line } from 'react-chartjs-2';
import { formatNumber } from '@/core/measure/format';
import type { Ink } from '../modes/compared/inks';

Chart.register(LinearScale, LogarithmicScale, PointElement, LineElement, Filler);

/** One curve: its name, its ink, and its points. */
export interface Curve {
  name: string;
  ink: Ink;
  points: { x: number; y: number }[];
}

/** One axis, as far as it says something. */
interface Axis {
  title?: string;
  log?: true;
  min?: number;
  max?: number;
}

interface Props {
  label: string;
  curves: readonly Curve[];
  x: Axis;
  y: Axis;
}

const FONT = { family: "'Spline Sans Mono Variable', monospace", size: 11 };
const INK = '#5d6663';
const RULE = '#e3e5e2';

/** Curves of several panes on one pair of axes. */
export function Curves({ label, curves, x, y }: Props) {
  const axis = ({ title, log, min, max }: Axis) => ({
    type: log ? ('logarithmic' as const) : ('linear' as const),
    ...{ min, max },
    title: { display: title !== undefined, text: title, font: FONT, color: INK, padding: 0 },
    border: { display: false },
    grid: { color: RULE },
    ticks: {
      ...{ font: FONT, color: INK, maxTicksLimit: 5, maxRotation: 0, padding: 2 },
      callback: (value: number | string) => formatNumber(Number(value), 2),
    },
  });
  return (
    <div className="curves">
      <Line
        aria-label={label}
        role="img"
        data={{
          datasets: curves.map(({ name, ink, points }) => ({
            ...{ label: name, data: points, parsing: false as const },
            ...{ borderColor: ink.colour, borderDash: ink.dash, borderWidth: ink.width },
            pointRadius: 0,
          })),
        }}
        options={{
          ...{ animation: false, maintainAspectRatio: false, normalized: true },
          plugins: { legend: { display: false }, tooltip: { enabled: false } },
          scales: { x: axis(x), y: axis(y) },
        }}
      />
    </div>
  );
}
