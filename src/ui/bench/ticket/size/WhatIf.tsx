import { pictureRect } from '@/core/frame/framing';
import { formatBytes, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import type { PrintPlan } from '@/core/measure/plan';
import { MM_PER_INCH } from '@/core/measure/units';
import { eyeNeed } from '@/core/measure/verdict';
import { largestAt, waysToPrint, type Way } from '@/core/measure/what-if';
import { estimatedBytes } from '@/core/output/output';
import { framingOf, plannedPicture } from '@/core/recipe/plan';
import type { Trial } from '@/core/recipe/work';
import { estimate, type Throughput } from '@/core/render/throughput';
import { useThroughput } from '../../../data/queries';
import { estimateWords } from '../../../parts/time-left';
import { Copyable } from '../../../parts/Copyable';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

const NAMES: Record<Way['name'], string> = {
  'tag only': say`Size tag only`,
  'the eye': say`Needed at this distance`,
  'the device': say`The printer`,
  'twice the device': say`Twice the printer`,
};

const AT: Record<Way['name'], string> = {
  'tag only': say`with only the size tag`,
  'the eye': say`at what is needed at this distance`,
  'the device': say`at the printer’s resolution`,
  'twice the device': say`at twice the printer’s resolution`,
};

/** The trial as it would be in one of the ways. */
const trialFor = (trial: Trial, { name, ppi }: Way): Trial =>
  name === 'tag only' ? { ...trial, pixels: 'kept' } : { ...trial, pixels: 'new', ppi };

function time(bench: WorkBench, throughput: Throughput | undefined, trial: Trial): string {
  const resolved = throughput && bench.resolve(trial);
  return resolved?.ok ? estimateWords(estimate(resolved.recipe, throughput!)) : '–';
}

/** The ways to make this print beside each other; a press takes one. */
export function WhatIf({
  bench,
  plan,
  device,
}: {
  bench: WorkBench;
  plan: PrintPlan;
  device: number;
}) {
  const { work, trial, original, change, found } = bench;
  const { data: throughput } = useThroughput();
  const ways = waysToPrint(plannedPicture(original, work), work.paper, plan, {
    eye: eyeNeed(work.distance, found.kind),
    device,
  });
  const take = (way: Way) =>
    change(
      way.name === 'tag only' ? say`Only the size tag` : say`${formatNumber(way.ppi)} ppi`,
      (_, next) => void Object.assign(next, trialFor(next, way)),
    );
  return (
    <Fold title={say`What if`} line={say`${ways.length} ways`}>
      <table className="what-if">
        <thead>
          <tr>
            <th />
            <th>{say`ppi`}</th>
            <th>{say`MP`}</th>
            <th>{say`raw`}</th>
            <th>{say`file`}</th>
            <th>{say`time`}</th>
          </tr>
        </thead>
        <tbody>
          {ways.map((way) => {
            const taken =
              way.name === 'tag only'
                ? trial.pixels === 'kept'
                : trial.pixels === 'new' && Math.abs(way.ppi - trial.ppi) < 0.01;
            return (
              <tr key={way.name} className={taken ? 'taken' : undefined}>
                <th scope="row">
                  <button type="button" disabled={!way.plan} onClick={() => take(way)}>
                    {NAMES[way.name]}
                  </button>
                </th>
                <td>{formatPpi(way.ppi)}</td>
                {way.plan ? (
                  <>
                    <td title={`${way.plan.pixels.width} × ${way.plan.pixels.height}`}>
                      {formatMegapixels(way.plan.megapixels)}
                    </td>
                    <td>{formatBytes(way.plan.bytes * (trial.output.depth / 8))}</td>
                    <td>≈{formatBytes(estimatedBytes(way.plan.pixels, trial.output))}</td>
                    <td>{time(bench, throughput, trialFor(trial, way))}</td>
                  </>
                ) : (
                  <td colSpan={4}>{say`too large`}</td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="reason">
        {thrownAway(ways, plan)}
        {throughput &&
          Object.keys(throughput.kinds).length === 0 &&
          say` Times are guessed until the first run.`}
      </p>
    </Fold>
  );
}

function thrownAway(ways: Way[], plan: PrintPlan): string {
  const reduced = ways.filter(
    (way) => way.plan && Math.max(way.plan.factor.x, way.plan.factor.y) < 0.995,
  );
  const crop =
    plan.croppedAway > 0.0005
      ? say`Cropping leaves out ${formatNumber(plan.croppedAway * 100, 1)} % of the picture. `
      : '';
  if (reduced.length === 0) return say`${crop}None of these throws pixels away.`;
  const words = reduced.map((way) => {
    const share = 1 - way.plan!.factor.x * way.plan!.factor.y;
    return say`${AT[way.name]} ${formatNumber(share * 100, 0)} % of its pixels are thrown away`;
  });
  const all = words.join('; ');
  return `${crop}${all.charAt(0).toUpperCase()}${all.slice(1)}.`;
}

/** The other direction: how large it may be before new pixels are needed. */
export function WithoutNewPixels({ bench, device }: { bench: WorkBench; device: number }) {
  const { work, original, found, change } = bench;
  if (original.vector) return null;
  const rect = pictureRect(original.size, framingOf(original, work));
  const eye = eyeNeed(work.distance, found.kind);
  const at: [string, number][] = [
    [say`at 300 ppi`, 300],
    [say`at 150 ppi`, 150],
    [say`for the printer, ${formatPpi(device)} ppi`, device],
    [say`needed at this distance, ${formatPpi(eye)} ppi`, eye],
  ];
  /** As large as it holds: the paper that its own pixels fill at a resolution. */
  const take = (label: string, ppi: number) =>
    change(say`As large as it holds ${label}`, ({ paper }) => {
      const { width } = largestAt(rect, ppi);
      paper.width = { value: Number((width * MM_PER_INCH).toFixed(1)), unit: 'mm' };
      paper.height = null;
      paper.place = { x: 0.5, y: 0.5, zoom: 1 };
    });
  const words = (ppi: number) => {
    const { width, height } = largestAt(rect, ppi);
    const cm = (inches: number) => formatNumber((inches * MM_PER_INCH) / 10, 1);
    return say`${cm(width)} × ${cm(height)} cm`;
  };
  return (
    <Fold title={say`How large without new pixels`} line={words(eye)}>
      <dl className="facts">
        {at.map(([label, ppi]) => (
          <div key={label} style={{ display: 'contents' }}>
            <dt>{label}</dt>
            <dd>
              <Copyable>{words(ppi)}</Copyable>
              <button
                type="button"
                className="take"
                title={say`As large as it holds ${label}`}
                onClick={() => take(label, ppi)}
              >
                {say`take`}
              </button>
            </dd>
          </div>
        ))}
      </dl>
    </Fold>
  );
}
