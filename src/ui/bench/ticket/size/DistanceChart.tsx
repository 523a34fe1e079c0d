import {
  Chart,
  LinearScale,
  LineElement,
  LogarithmicScale,
  PointElement,
  type ChartOptions,
} from 'chart.js';
import { Line } from 'react-chartjs-2';
import { eyeNeed } from '@/core/measure/verdict';
import type { Kind } from '@/core/inspect/kind';
import { say } from '@/core/words/say';

Chart.register(LinearScale, LogarithmicScale, PointElement, LineElement);

interface Props {
  kind: Kind;
  /** metres */
  distance: number;
  /** ppi of the original on this paper; null for shapes */
  effective: number | null;
  /** ppi of the printer, and whether that is only assumed */
  printer: number;
  assumed: boolean;
}

const LEAST = 0.3;
const MOST = 20;
const STEPS = 48;

/** Resolution that is needed against distance, what the original has, and where the printer ends. */
export function DistanceChart({ kind, distance, effective, printer, assumed }: Props) {
  const metres = Array.from({ length: STEPS + 1 }, (_, i) => LEAST * (MOST / LEAST) ** (i / STEPS));
  const level = (ppi: number) => [
    { x: LEAST, y: ppi },
    { x: MOST, y: ppi },
  ];
  const line = { pointRadius: 0, borderWidth: 1.5 };
  const data = {
    datasets: [
      {
        ...line,
        label: say`needed`,
        borderColor: '#1d2321',
        data: metres.map((x) => ({ x, y: eyeNeed(x, kind) })),
      },
      {
        ...line,
        label: say`printer`,
        borderColor: '#9aa19d',
        borderDash: [4, 3],
        data: level(printer),
      },
      ...(effective
        ? [{ ...line, label: say`the original`, borderColor: '#1e4d3f', data: level(effective) }]
        : []),
      {
        label: say`this job`,
        data: [{ x: Math.min(MOST, Math.max(LEAST, distance)), y: eyeNeed(distance, kind) }],
        borderColor: '#1d2321',
        backgroundColor: '#1e4d3f',
        pointRadius: 5,
      },
    ],
  };
  return (
    <figure className="distance-chart">
      <div>
        <Line data={data} options={OPTIONS} aria-hidden />
      </div>
      <figcaption>
        <span className="key eye">{say`needed, ppi`}</span>
        {effective && <span className="key carried">{say`effective`}</span>}
        <span className="key device">
          {say`printer`}
          {assumed && say`, assumed`}
        </span>
      </figcaption>
    </figure>
  );
}

const ticks = {
  color: '#5d6663',
  font: { family: 'Spline Sans Mono Variable', size: 12.5 },
  maxRotation: 0,
  autoSkip: false,
};

const OPTIONS: ChartOptions<'line'> = {
  animation: false,
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  scales: {
    x: {
      type: 'logarithmic',
      min: LEAST,
      max: MOST,
      grid: { display: false },
      afterBuildTicks: (axis) => (axis.ticks = [0.3, 1, 2, 5, 10, 20].map((value) => ({ value }))),
      ticks: { ...ticks, callback: (value) => `${value} m` },
    },
    y: {
      type: 'logarithmic',
      min: 4,
      max: 600,
      grid: { color: '#e4e6e4' },
      border: { display: false },
      afterBuildTicks: (axis) => (axis.ticks = [5, 15, 50, 150, 500].map((value) => ({ value }))),
      ticks: { ...ticks, callback: (value) => String(value) },
    },
  },
};
