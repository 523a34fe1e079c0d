import { Crosshair, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { riseOf, steepestEdge } from '@/core/evidence/profile';
import type { Probed } from '@/core/evidence/probe';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { IconSwitch } from '../../../parts/IconSwitch';
import { useRested } from '../../../parts/use-rested';
import type { Ink } from '../modes/compared/inks';
import type { Side } from '../modes/compared/use-compared';
import { probing, useProbe, type ProbeLine } from '../probe/probe-store';
import { Curves, type Curve } from './Curves';
import type { MeasuredProps } from './Measured';
import { inkedSides, useOfSides, type Inked } from './sides';
import { say } from '@/core/words/say';

/** How long the line must lie still before it is read, in milliseconds. */
const REST = 60;
/** An edge climbs so many levels at least; and a line is so many pixels long. */
const CLIMB = 10;
const LEAST = 8;

const COLOURS: readonly { key: 'red' | 'green' | 'blue'; ink: Ink }[] = [
  { key: 'red', ink: { colour: '#a8322a', dash: [], width: 1.4 } },
  { key: 'green', ink: { colour: '#1e7d4f', dash: [6, 2], width: 1.4 } },
  { key: 'blue', ink: { colour: '#2c4f8a', dash: [2, 2], width: 1.4 } },
];

/** Levels along the probe, of every pane: luminance, or the three colours of one of them. */
export default function ProbePanel({ bench, compared }: MeasuredProps) {
  const line = useProbe((probe) => probe.line);
  const rested = useRested(line, REST);
  const sides = useMemo(() => inkedSides(compared), [compared]);
  const [colours, setColours] = useState<string | null>(null);
  const target = bench.resolved.ok ? bench.resolved.recipe.target : null;
  const long = rested && target ? lengthOf(rested, target) >= LEAST : false;
  const { answers, failed } = useOfSides('probe', sides, rested !== null && long, (side) => ({
    key: [side.own.original, canonicalJson(side.own.recipe), rested],
    ask: (signal) => probed(side, rested!, signal),
  }));
  if (!line) {
    return (
      <p className="nothing">
        <button
          type="button"
          className="btn btn-outline-primary btn-sm"
          onClick={() => probing.run('middle')}
        >
          <Crosshair size={14} aria-hidden /> {say`Lay a probe`}
        </button>
        <span className="soft">
          {say`or`} <kbd>P</kbd>{' '}
          {say`over an edge: how steeply it rises in every pane, and what goes beyond it`}
        </span>
      </p>
    );
  }
  if (!long && rested) {
    return (
      <p className="nothing soft">
        {say`The probe is shorter than ${LEAST} pixels of the print: there is nothing to read along it. Draw its ends apart.`}
      </p>
    );
  }
  if (failed)
    return (
      <p className="nothing soft">{say`The probe could not be read. Move it to try again.`}</p>
    );
  const of = sides.findIndex(({ side }) => side.name === colours);
  const shown = of < 0 ? null : answers[of];
  const wide = target ? (target.width / target.ppi) * MM_PER_INCH : 1;
  const curves: Curve[] = shown
    ? COLOURS.map(({ key, ink }) => ({
        ...{ name: key, ink },
        points: points(shown[key], shown.step * pixelOf(sides[of]!.side, wide)),
      }))
    : sides.flatMap(({ side, ink }, i) => {
        const found = answers[i];
        if (!found) return [];
        const apart = found.step * pixelOf(side, wide);
        return [{ name: side.name, ink, points: points(found.luma, apart) }];
      });
  return (
    <div className="probed">
      <Curves
        label={say`Levels along the probe, over millimetres`}
        curves={curves}
        x={{
          title: say`mm`,
          min: 0,
          max: Math.max(...curves.map(({ points: p }) => p.at(-1)!.x), 0) || 1,
        }}
        y={{}}
      />
      <div className="beside-chart">
        <table className="figure">
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">{say`Pane`}</span>
              </th>
              <th
                scope="col"
                title={say`How far the steepest edge on the line rises from 10 to 90 % of its climb`}
              >
                10–90 %
              </th>
              <th
                scope="col"
                title={say`How far it goes beyond both grounds: light side, dark side`}
              >
                {say`beyond`}
              </th>
            </tr>
          </thead>
          <tbody>
            {sides.map(({ side, ink }, i) => (
              <Row
                key={side.name}
                {...{ side, ink }}
                mm={pixelOf(side, wide)}
                found={answers[i] ?? null}
              />
            ))}
          </tbody>
        </table>
        <span className="choice">
          <select
            className="list-choice"
            aria-label={say`What is drawn`}
            value={colours ?? ''}
            onChange={(event) => setColours(event.target.value || null)}
          >
            <option value="">{say`luminance`}</option>
            {sides.map(({ side }) => (
              <option key={side.name} value={side.name}>
                R, G, B: {side.caption.name}
              </option>
            ))}
          </select>
          <IconSwitch
            label={say`Take the probe up (P)`}
            Icon={X}
            onPress={() => probing.run('middle')}
          />
        </span>
      </div>
    </div>
  );
}

/** What a pane's edge shows in figures. */
function Row({ side, ink, mm, found }: Inked & { mm: number; found: Probed | null }) {
  const rise = found && riseOf(steepestEdge(found.luma), CLIMB);
  const pixels = rise && rise.width * found.step;
  return (
    <tr>
      <th scope="row" title={side.name}>
        <i className="ink" style={{ background: ink.colour }} aria-hidden /> {side.caption.name}
      </th>
      {rise ? (
        <>
          <td>{say`${formatNumber(pixels!, 1)} px, ${formatNumber(pixels! * mm, 2)} mm`}</td>
          <td title={say`light side · dark side`}>
            {formatNumber(Math.max(0, rise.overshoot.light), 0)} ·{' '}
            {formatNumber(Math.max(0, rise.overshoot.dark), 0)} %
          </td>
        </>
      ) : (
        <td colSpan={2}>{found ? say`no edge here` : '…'}</td>
      )}
    </tr>
  );
}

const lengthOf = ({ from, to }: ProbeLine, { width, height }: { width: number; height: number }) =>
  Math.hypot((to.x - from.x) * width, (to.y - from.y) * height);

function probed({ own }: Side, { from, to }: ProbeLine, signal: AbortSignal): Promise<Probed> {
  const { paper, original, recipe } = own;
  const at = ({ x, y }: { x: number; y: number }) => ({
    x: paper.x + x * paper.width,
    y: paper.y + y * paper.height,
  });
  return ask(
    'probe',
    { original, recipe, from: at(from), to: at(to) },
    { priority: PRIORITY.asked, group: 'probe', signal },
  );
}

/** Millimetres of a pixel of a pane's own grid. @param wide millimetres that the paper is wide */
const pixelOf = ({ own }: Side, wide: number): number => wide / own.paper.width;

/** @param apart millimetres from one value to the next */
const points = (values: Float32Array, apart: number) =>
  Array.from(values, (y, i) => ({ x: i * apart, y }));
