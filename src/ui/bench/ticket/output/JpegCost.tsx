import {
  Chart,
  LinearScale,
  LineElement,
  PointElement,
  type ChartData,
  type ChartOptions,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import { Button } from 'react-bootstrap';
import { Line } from 'react-chartjs-2';
import { suggestedQuality, type JpegCost as Cost } from '@/core/evidence/jpeg-cost';
import { formatBytes } from '@/core/measure/format';
import { useViewport } from '../../stage/viewport';
import type { WorkBench } from '../../use-work';
import { put } from './put';
import { CLOSE_UP, useCloseUp, useJpegCost } from './use-jpeg-cost';
import { say } from '@/core/words/say';

Chart.register(LinearScale, PointElement, LineElement);

/** What a JPEG's quality costs this very picture: size, changes and blocks, a close-up, and a floor. */
export function JpegCost({ bench }: { bench: WorkBench }) {
  const { change, resolved, trial } = bench;
  const { quality } = trial.output;
  const { data: costs, error, isFetching } = useJpegCost(bench);
  if (error) return <p className="field-trouble">{say`What it costs could not be measured.`}</p>;
  if (!costs || costs.length === 0 || !resolved.ok) {
    return isFetching ? (
      <p className="soft mb-0">{say`Measuring what quality costs here …`}</p>
    ) : null;
  }
  const { width, height } = resolved.recipe.target;
  const floor = suggestedQuality(costs);
  return (
    <div className="jpeg-cost">
      <div className="chart">
        <Line data={dataOf(costs, quality, width * height)} options={OPTIONS} aria-hidden />
      </div>
      <p className="keys">
        <span className="key size">{say`size, MB`}</span>
        <span className="key blocks">{say`block edges, levels`}</span>
        <span className="key ratio">{say`PSNR, dB`}</span>
      </p>
      <p className="figure-line">{wordsAt(costs, quality, width * height)}</p>
      {floor ? (
        <p className="reason">
          {floor.reason}{' '}
          {floor.quality !== quality && (
            <Button
              variant="link"
              size="sm"
              className="p-0 align-baseline"
              onClick={() =>
                change(say`JPEG quality ${floor.quality}`, put({ quality: floor.quality }))
              }
            >
              {say`Take ${floor.quality}`}
            </Button>
          )}
        </p>
      ) : (
        <p className="caution mb-0">
          {say`Even the best quality shows on this picture. TIFF or PNG keep every bit.`}
        </p>
      )}
      <CloseUpPair bench={bench} />
    </div>
  );
}

/** About what a quality between those tried costs. */
function between(costs: readonly Cost[], quality: number): Omit<Cost, 'quality'> {
  const above = costs.find((one) => one.quality >= quality) ?? costs.at(-1)!;
  const below = costs.findLast((one) => one.quality <= quality) ?? costs[0]!;
  const share = above === below ? 0 : (quality - below.quality) / (above.quality - below.quality);
  const mix = (key: keyof Cost) => below[key] + share * (above[key] - below[key]);
  return { bytes: mix('bytes'), psnr: mix('psnr'), blocking: mix('blocking') };
}

function wordsAt(costs: readonly Cost[], quality: number, pixels: number): string {
  const { bytes, psnr, blocking } = between(costs, quality);
  return say`At ${quality}: about ${formatBytes(bytes * pixels)}, ${psnr.toFixed(1)} dB, block edges ${blocking.toFixed(1)} levels`;
}

const MB = 1e6;

function dataOf(costs: readonly Cost[], quality: number, pixels: number): ChartData<'line'> {
  const line = { pointRadius: 0, borderWidth: 1.5 };
  const now = between(costs, quality);
  return {
    datasets: [
      {
        ...{ ...line, yAxisID: 'size', borderColor: '#1d2321' },
        data: costs.map(({ quality: x, bytes }) => ({ x, y: (bytes * pixels) / MB })),
      },
      {
        ...{ ...line, yAxisID: 'blocks', borderColor: '#a8322a', borderDash: [5, 3] },
        data: costs.map(({ quality: x, blocking: y }) => ({ x, y })),
      },
      {
        ...{ ...line, yAxisID: 'ratio', borderColor: '#1e4d3f', borderDash: [1, 3] },
        data: costs.map(({ quality: x, psnr: y }) => ({ x, y })),
      },
      {
        ...{ yAxisID: 'size', pointRadius: 5, backgroundColor: '#1e4d3f', borderColor: '#1d2321' },
        data: [{ x: quality, y: (now.bytes * pixels) / MB }],
      },
    ],
  };
}

const ticks = {
  color: '#5d6663',
  font: { family: 'Spline Sans Mono Variable', size: 10 },
  maxRotation: 0,
  maxTicksLimit: 5,
};
const scale = { beginAtZero: true, border: { display: false } } as const;

const OPTIONS: ChartOptions<'line'> = {
  animation: false,
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  scales: {
    x: { type: 'linear', min: 40, max: 100, grid: { display: false }, ticks },
    size: { ...scale, axis: 'y', position: 'left', grid: { color: '#e4e6e4' }, ticks },
    blocks: {
      ...scale,
      axis: 'y',
      position: 'right',
      grid: { display: false },
      ticks: { ...ticks, color: '#a8322a' },
    },
    ratio: { ...scale, axis: 'y', display: false, beginAtZero: false, min: 20, max: 60 },
  },
};

/** The place that is looked at, as it is and as its JPEG has it. */
function CloseUpPair({ bench }: { bench: WorkBench }) {
  const at = useViewport((viewport) => viewport.centre);
  const shown = useCloseUp(bench, at);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !shown) return;
    const image = context.createImageData(CLOSE_UP.width, CLOSE_UP.height);
    for (let i = 0, j = 0; j < shown.rgb.length; i += 4, j += 3) {
      image.data.set([shown.rgb[j]!, shown.rgb[j + 1]!, shown.rgb[j + 2]!, 255], i);
    }
    context.putImageData(image, 0, 0);
  }, [shown]);
  if (!shown) return null;
  const { quality } = bench.trial.output;
  return (
    <div className="close-ups">
      <figure>
        <canvas ref={canvas} {...CLOSE_UP} aria-label={say`Where you look, as it is`} />
        <figcaption>{say`as it is`}</figcaption>
      </figure>
      <figure>
        <img src={shown.jpeg} alt={say`Where you look, at quality ${quality}`} />
        <figcaption>{say`at ${quality}`}</figcaption>
      </figure>
    </div>
  );
}
