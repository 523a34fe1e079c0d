import { Button, Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { typedMm } from '@/core/measure/typed';
import { MM_PER_INCH } from '@/core/measure/units';
import { panelsOf } from '@/core/output/output';
import { layOutPanels, USUAL_PANELS, type PanelLayout, type Panels } from '@/core/output/panels';
import type { Recipe } from '@/core/recipe/recipe';
import { useDevices } from '../../../data/devices';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { put } from './put';
import { say } from '@/core/words/say';

const WAYS: { value: Panels['way']; label: string }[] = [
  { value: 'columns', label: say`Side by side` },
  { value: 'rows', label: say`Stacked` },
  { value: 'grid', label: say`Both` },
];

type Length = Exclude<keyof Panels, 'way' | 'as'>;
const FIELDS: { key: Length; label: string; shown?: (panels: Panels) => boolean }[] = [
  { key: 'widest', label: say`Widest panel`, shown: ({ way }) => way !== 'rows' },
  { key: 'tallest', label: say`Tallest panel`, shown: ({ way }) => way !== 'columns' },
  { key: 'overlap', label: say`Overlap` },
  { key: 'hem', label: say`Hem` },
  { key: 'pocket', label: say`Pocket for a rod` },
  { key: 'eyelets', label: say`Between eyelets` },
];

const AS: { value: Panels['as']; label: string }[] = [
  { value: 'pages', label: say`Pages` },
  { value: 'files', label: say`Files in a ZIP` },
];

/** What the ordered material's roll can print across; null where no connected device has one. */
function useRoll({ work }: WorkBench): { name: string; width: number } | null {
  const { data: devices = [] } = useDevices();
  const described = devices.flatMap(({ description }) => description ?? []);
  for (const { materials, margins } of described) {
    const found = materials.find(({ name, pieces }) => pieces === 1 && name === work.material);
    if (found) return { name: found.name, width: found.width - 2 * margins.side };
  }
  return null;
}

const widthOf = (roll: ReturnType<typeof useRoll>): Partial<Panels> =>
  roll ? { widest: roll.width } : {};

/** Cuts a print into panels that are joined again, where the print is wider than what prints it. */
export function PanelsFold({ bench }: { bench: WorkBench }) {
  const { change, resolved, trial } = bench;
  const { output } = trial;
  const panels = panelsOf(output);
  const pages = output.format === 'pdf';
  const roll = useRoll(bench);
  const target = resolved.ok ? resolved.recipe.target : null;
  const laid = panels && target ? layOutPanels(target, panels) : null;
  const set = (label: string, next: Panels | null) => change(label, put({ panels: next }));
  return (
    <Fold title={say`Panels`} line={lineOf(laid)}>
      <Form.Check
        type="switch"
        id="panels-on"
        label={pages ? say`Cut into panels` : say`Cut into panels, in a ZIP`}
        checked={panels !== null}
        onChange={() =>
          set(
            panels ? say`In one piece` : say`In panels`,
            panels ? null : { ...USUAL_PANELS, as: pages ? 'pages' : 'files', ...widthOf(roll) },
          )
        }
      />
      {panels && (
        <>
          {pages && (
            <Choices<Panels['as']>
              name="panels-as"
              label={say`Panels as`}
              value={panels.as}
              options={AS}
              onChange={(as) =>
                set(as === 'pages' ? say`Panels as pages` : say`Panels as files`, { ...panels, as })
              }
            />
          )}
          <Choices
            name="panels"
            label={say`How panels lie`}
            value={panels.way}
            options={WAYS}
            onChange={(way) =>
              set(say`Panels: ${WAYS.find(({ value }) => value === way)!.label.toLowerCase()}`, {
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
                read={(text) => typedMm(text, rangeOf(key))}
                onEnter={(mm) =>
                  set(say`${label} ${formatNumber(mm)} mm`, { ...panels, [key]: mm })
                }
              />
            ))}
          </div>
          {roll && panels.way !== 'rows' && panels.widest !== roll.width && (
            <Button
              variant="quiet"
              size="sm"
              className="align-self-start"
              onClick={() => set(say`As wide as ${roll.name}`, { ...panels, ...widthOf(roll) })}
            >
              {say`As wide as ${roll.name} prints, ${formatNumber(roll.width / 10, 1)} cm`}
            </Button>
          )}
          {laid?.ok && target && <AssemblySketch laid={laid} target={target} />}
          {laid && (
            <p className={laid.ok ? 'reason' : 'caution mb-0'}>{wordsOf(laid, target!, panels)}</p>
          )}
        </>
      )}
    </Fold>
  );
}

/** Millimetres that make sense. */
const rangeOf = (key: Length): { least: number; most: number } =>
  key === 'widest' || key === 'tallest'
    ? { least: 10, most: 50_000 }
    : { least: 0, most: key === 'eyelets' ? 5000 : 1000 };

const lineOf = (laid: PanelLayout | null): string => {
  if (!laid) return say`in one piece`;
  return laid.ok ? say`${laid.panels.length} panels` : say`can’t be`;
};

function wordsOf(laid: PanelLayout, { ppi }: Recipe['target'], { as }: Panels): string {
  if (!laid.ok) return laid.reason;
  const [{ region }] = laid.panels as [PanelLayoutPanel];
  const cm = (pixels: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 1);
  const last = `${as === 'pages' ? say`The last page` : say`A drawing`} shows how they are joined, at 1:50.${as === 'files' ? say` Hem and pocket are left free beside the files.` : ''}`;
  return laid.panels.length === 1
    ? say`It needs no cutting: one panel of ${cm(region.width)} × ${cm(region.height)} cm.`
    : say`${laid.panels.length} panels of ${cm(region.width)} × ${cm(region.height)} cm. ${last}`;
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
      aria-label={say`${laid.columns} by ${laid.rows} panels`}
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
