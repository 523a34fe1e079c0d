import { Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH, parseMm } from '@/core/measure/units';
import { layOutPanels, USUAL_PANELS, type PanelLayout, type Panels } from '@/core/output/panels';
import type { Recipe } from '@/core/recipe/recipe';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { put } from './put';

const WAYS: { value: Panels['way']; label: string }[] = [
  { value: 'columns', label: 'Side by side' },
  { value: 'rows', label: 'Stacked' },
  { value: 'grid', label: 'Both' },
];

type Length = Exclude<keyof Panels, 'way'>;
const FIELDS: { key: Length; label: string; shown?: (panels: Panels) => boolean }[] = [
  { key: 'widest', label: 'Widest panel', shown: ({ way }) => way !== 'rows' },
  { key: 'tallest', label: 'Tallest panel', shown: ({ way }) => way !== 'columns' },
  { key: 'overlap', label: 'Overlap' },
  { key: 'hem', label: 'Hem' },
  { key: 'pocket', label: 'Pocket for a rod' },
  { key: 'eyelets', label: 'Between eyelets' },
];

/** Cuts a PDF into panels that are joined again, where the print is wider than what prints it. */
export function PanelsFold({ bench }: { bench: WorkBench }) {
  const { change, resolved, trial } = bench;
  const { panels } = trial.output;
  const target = resolved.ok ? resolved.recipe.target : null;
  const laid = panels && target ? layOutPanels(target, panels) : null;
  const set = (label: string, next: Panels | null) => change(label, put({ panels: next }));
  return (
    <Fold title="Panels" line={lineOf(laid)}>
      <Form.Check
        type="switch"
        id="panels-on"
        label="Cut into panels, a page each"
        checked={panels !== null}
        onChange={() => set(panels ? 'In one piece' : 'In panels', panels ? null : USUAL_PANELS)}
      />
      {panels && (
        <>
          <Choices
            name="panels"
            label="How panels lie"
            value={panels.way}
            options={WAYS}
            onChange={(way) =>
              set(`Panels: ${WAYS.find(({ value }) => value === way)!.label.toLowerCase()}`, {
                ...panels,
                way,
              })
            }
          />
          <div className="panel-fields">
            {FIELDS.filter(({ shown }) => shown?.(panels) ?? true).map(({ key, label }) => (
              <FigureField
                key={key}
                label={label}
                text={formatNumber(panels[key])}
                unit="mm"
                onEnter={(text) => enter(text, key, label, panels, set)}
              />
            ))}
          </div>
          {laid?.ok && target && <AssemblySketch laid={laid} target={target} />}
          {laid && <p className={laid.ok ? 'reason' : 'caution mb-0'}>{wordsOf(laid, target!)}</p>}
        </>
      )}
    </Fold>
  );
}

function enter(
  text: string,
  key: Length,
  label: string,
  panels: Panels,
  set: (label: string, next: Panels) => void,
): string | null {
  const mm = parseMm(text);
  const side = key === 'widest' || key === 'tallest';
  const [least, most] = side ? [10, 50_000] : [0, key === 'eyelets' ? 5000 : 1000];
  if (mm === null || mm < least || mm > most) return `${least} to ${most} mm`;
  set(`${label} ${formatNumber(mm)} mm`, { ...panels, [key]: mm });
  return null;
}

const lineOf = (laid: PanelLayout | null): string => {
  if (!laid) return 'in one piece';
  return laid.ok ? `${laid.panels.length} panels` : 'can’t be';
};

function wordsOf(laid: PanelLayout, { ppi }: Recipe['target']): string {
  if (!laid.ok) return laid.reason;
  const [{ region }] = laid.panels as [PanelLayoutPanel];
  const cm = (pixels: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 1);
  const last = 'The last page shows how they are joined, at 1:50.';
  return laid.panels.length === 1
    ? `It needs no cutting: one panel of ${cm(region.width)} × ${cm(region.height)} cm.`
    : `${laid.panels.length} panels of ${cm(region.width)} × ${cm(region.height)} cm. ${last}`;
}

type PanelLayoutPanel = Extract<PanelLayout, { ok: true }>['panels'][number];

/** How panels lie on the print. */
function AssemblySketch({
  laid,
  target,
}: {
  laid: Extract<PanelLayout, { ok: true }>;
  target: Recipe['target'];
}) {
  const { width, height } = target;
  const letters = Math.min(laid.panels[0]!.region.width, laid.panels[0]!.region.height) / 3;
  return (
    <svg
      className="assembly"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${laid.columns} by ${laid.rows} panels`}
    >
      {laid.panels.map(({ name, region }, i) => (
        <g key={name}>
          <rect {...region} className={i % 2 === 0 ? 'even' : 'odd'} />
          <text
            x={region.x + region.width / 2}
            y={region.y + region.height / 2}
            fontSize={letters}
            textAnchor="middle"
            dominantBaseline="central"
          >
            {name}
          </text>
        </g>
      ))}
    </svg>
  );
}
