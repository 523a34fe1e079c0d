import { ArrowLeftRight, Link2, Link2Off } from 'lucide-react';
import { useState } from 'react';
import { pictureRect } from '@/core/frame/framing';
import { formatFactor, formatNumber } from '@/core/measure/format';
import { FACTOR, factorOf, Ppi, type PrintPlan } from '@/core/measure/plan';
import { fromInches, parseLength, Unit, type Length } from '@/core/measure/units';
import type { Work } from '@/core/recipe/work';
import { framingOf, plannedPicture } from '@/core/recipe/plan';
import { useLists } from '../../../data/queries';
import { FigureField } from '../../../parts/FigureField';
import type { WorkBench } from '../../use-work';

type Side = 'width' | 'height';
const OTHER = { width: 'height', height: 'width' } as const;
const LABEL = { width: 'Width', height: 'Height' } as const;

/** Both sides have the picture's shape, so that one can follow the other. */
export const sameShape = (plan: PrintPlan): boolean =>
  plan.croppedAway < 0.002 && plan.margins < 0.002 && Math.abs(plan.distortion) < 0.002;

/** The ordered paper by its sides, by a factor, or by a sheet of the shop; and its resolution. */
export function PaperFields({ bench, plan }: { bench: WorkBench; plan: PrintPlan | null }) {
  const { work, trial, change, sketch, original } = bench;
  const { data: lists } = useLists();
  const [apart, setApart] = useState(false);
  const { paper } = work;
  const bothGiven = paper.width !== null && paper.height !== null;
  const linked = !apart && (!bothGiven || (plan !== null && sameShape(plan)));
  const rect = pictureRect(original.size, framingOf(original, work));

  /** The side as it is typed, or as it follows from the other one. */
  const lengthOf = (side: Side): Length | null => {
    const typed = paper[side];
    if (typed) return typed;
    const unit = paper[OTHER[side]]?.unit ?? 'cm';
    const value =
      plan && fromInches(plan.ordered[side], unit, { originalPixels: rect[side], ppi: trial.ppi });
    return value ? { value, unit } : null;
  };

  const withSide =
    (side: Side, length: Length) =>
    ({ paper: next }: Work): void => {
      next[side] = length;
      next[OTHER[side]] = linked ? null : (next[OTHER[side]] ?? lengthOf(OTHER[side]));
    };
  const setSide = (side: Side, length: Length) =>
    change(`${LABEL[side]} ${formatNumber(length.value)} ${length.unit}`, withSide(side, length));

  const field = (side: Side) => {
    const length = lengthOf(side);
    const unit = length?.unit ?? 'cm';
    return (
      <FigureField
        label={LABEL[side]}
        text={length ? formatNumber(length.value) : ''}
        onEnter={(text) => {
          const typed = parseLength(text, unit);
          if (!typed) return 'A length above 0, e.g. 120 cm.';
          setSide(side, typed);
          return null;
        }}
        onType={(text) => {
          const typed = text === null ? null : parseLength(text, unit);
          sketch(typed ? withSide(side, typed) : null);
        }}
        onStep={(direction, ten) => {
          const value = (length?.value ?? 0) + direction * (ten ? 10 : 1);
          if (value > 0) setSide(side, { value: Number(value.toFixed(3)), unit });
        }}
        unit={
          <select
            aria-label={`Unit of the ${side}`}
            value={unit}
            onChange={(event) => {
              const next = Unit.parse(event.target.value);
              const value =
                plan &&
                fromInches(plan.ordered[side], next, {
                  originalPixels: rect[side],
                  ppi: trial.ppi,
                });
              if (value) setSide(side, { value: Number(value.toFixed(4)), unit: next });
            }}
          >
            {Unit.options.map((option) => (
              <option key={option}>{option}</option>
            ))}
          </select>
        }
      />
    );
  };

  /** An enlargement in place of a paper size: the paper follows from the pixels. */
  const setFactor = (factor: number) =>
    change(`×${formatFactor(factor)}`, ({ paper: next }) => {
      next.width = { value: Number((factor * 100).toFixed(4)), unit: '%' };
      next.height = null;
    });

  const swap = () =>
    change('Paper turned', ({ paper: next }) => {
      const [width, height] = [lengthOf('width'), lengthOf('height')];
      next.width = height;
      next.height = width;
      next.place = { x: 0.5, y: 0.5, zoom: 1 };
    });

  return (
    <>
      <div className="length-fields">
        {field('width')}
        <button
          type="button"
          className="link-button"
          aria-pressed={linked}
          aria-label="One side follows the other"
          title={linked ? 'One side follows the other' : 'Both sides are given'}
          onClick={() => {
            if (linked) setApart(true);
            else {
              setApart(false);
              change('Height follows', ({ paper: next }) => {
                next.width ??= lengthOf('width');
                next.height = null;
              });
            }
          }}
        >
          {linked ? <Link2 size={16} /> : <Link2Off size={16} />}
        </button>
        {field('height')}
        <button
          type="button"
          className="link-button"
          aria-label="Turn the paper: portrait or landscape"
          title="Turn the paper: portrait or landscape"
          onClick={swap}
        >
          <ArrowLeftRight size={16} />
        </button>
      </div>
      <div className="length-fields second">
        <FigureField
          label="Resolution"
          text={formatNumber(trial.ppi)}
          unit="ppi"
          onEnter={(text) => {
            const ppi = Ppi.safeParse(Number(text.replace(',', '.').replace(/ppi$/, '')));
            if (!ppi.success) return '1 to 4800';
            change(`${formatNumber(ppi.data)} ppi`, (_, next) => (next.ppi = ppi.data));
            return null;
          }}
          onType={(text) => {
            const ppi = Ppi.safeParse(Number(text?.replace(',', '.').replace(/ppi$/, '')));
            sketch(ppi.success ? (_, next) => void (next.ppi = ppi.data) : null);
          }}
          onStep={(direction, ten) =>
            change(`${trial.ppi + direction * (ten ? 10 : 1)} ppi`, (_, next) => {
              next.ppi = Ppi.catch(trial.ppi).parse(trial.ppi + direction * (ten ? 10 : 1));
            })
          }
        />
        {original.vector ? (
          <span />
        ) : (
          <FigureField
            label="Factor"
            text={plan ? formatFactor(factorOf(plan)) : ''}
            unit="×"
            onEnter={(text) => {
              const factor = Number(text.replace(',', '.').replace(/[x×]/gi, ''));
              const most = FACTOR.most * (plannedPicture(original, work).repeats ?? 1);
              if (!(factor > 0 && factor <= most)) return `Above 0, at most ${most}.`;
              setFactor(factor);
              return null;
            }}
          />
        )}
        <div>
          <label className="field-label" htmlFor="sheet">
            Sheet
          </label>
          <select
            id="sheet"
            className="list-choice"
            value=""
            onChange={(event) => {
              const sheet = lists?.sheets.find((one) => one.name === event.target.value);
              if (!sheet) return;
              change(sheet.name, ({ paper: next }) => {
                const upright = rect.height > rect.width;
                const [short, long] = [sheet.width, sheet.height];
                const mm = (value: number | null) =>
                  value === null ? null : { value: value / 10, unit: 'cm' as const };
                // On a roll the picture lies across; its length follows.
                next.width = mm(long === null || upright ? short : long);
                next.height = mm(long === null ? null : upright ? long : short);
                next.place = { x: 0.5, y: 0.5, zoom: 1 };
              });
            }}
          >
            <option value="">choose …</option>
            {lists?.sheets.map((sheet) => (
              <option key={sheet.name}>{sheet.name}</option>
            ))}
          </select>
        </div>
      </div>
    </>
  );
}
