import { ArrowLeftRight, Link2, Link2Off } from 'lucide-react';
import { useState } from 'react';
import { pictureRect } from '@/core/frame/framing';
import { formatFactor, formatNumber } from '@/core/measure/format';
import { FACTOR, factorOf, Ppi, type PrintPlan } from '@/core/measure/plan';
import {
  sheetSides,
  sidesOf,
  typedNumber,
  typedPaper,
  type TypedPaper,
} from '@/core/measure/typed';
import { decimalsOf, formatLength, fromInches, Unit, type Length } from '@/core/measure/units';
import type { Work } from '@/core/recipe/work';
import { framingOf, plannedPicture } from '@/core/recipe/plan';
import { NO_LISTS, useLists } from '../../../data/queries';
import { FigureField } from '../../../parts/FigureField';
import { useStepped } from '../../../parts/settling';
import type { Change, WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

type Side = 'width' | 'height';
const OTHER = { width: 'height', height: 'width' } as const;
const LABEL = { width: say`Width`, height: say`Height` } as const;

/** Both sides have the picture's shape, so that one can follow the other. */
export const sameShape = (plan: PrintPlan): boolean =>
  plan.croppedAway < 0.002 && plan.margins < 0.002 && Math.abs(plan.distortion) < 0.002;

/** The ordered paper by its sides, by a factor, or by a sheet of the shop; and its resolution. */
export function PaperFields({ bench, plan }: { bench: WorkBench; plan: PrintPlan | null }) {
  const { work, trial, change, sketch, original } = bench;
  const { data: lists = NO_LISTS } = useLists();
  const [apart, setApart] = useState(false);
  const keys = useStepped<{ label: string; change: Change }>(
    (stepped) => sketch(stepped.change),
    (stepped) => change(stepped.label, stepped.change),
  );
  const { paper } = work;
  const bothGiven = paper.width !== null && paper.height !== null;
  const linked = !apart && (!bothGiven || (plan !== null && sameShape(plan)));
  const rect = pictureRect(original.size, framingOf(original, work));

  /** The side as it is typed, or as it follows from the other one. */
  const lengthOf = (side: Side): Length | null => {
    const typed = paper[side];
    if (typed) return typed;
    const unit = paper[OTHER[side]]?.unit ?? lists.unit;
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
    change(`${LABEL[side]} ${formatLength(length)}`, withSide(side, length));

  /** Both sides, or those of a sheet, whichever way up the picture is. */
  const withSides =
    (sides: { width: Length | null; height: Length | null }) =>
    ({ paper: next }: Work): void => {
      Object.assign(next, sides);
      next.place = { x: 0.5, y: 0.5, zoom: 1 };
    };
  const withTyped = (side: Side, typed: TypedPaper) =>
    typed.of === 'side' ? withSide(side, typed.length) : withSides(sidesOf(typed, rect));
  const typedLabel = (side: Side, typed: TypedPaper): string =>
    typed.of === 'sheet'
      ? typed.sheet.name
      : typed.of === 'sides'
        ? [typed.width, typed.height].map((one) => (one ? formatLength(one) : '…')).join(' × ')
        : `${LABEL[side]} ${formatLength(typed.length)}`;

  const field = (side: Side) => {
    const length = lengthOf(side);
    const unit = length?.unit ?? lists.unit;
    return (
      <FigureField
        label={LABEL[side]}
        text={length ? formatNumber(length.value, decimalsOf(length.unit)) : ''}
        read={(text) => typedPaper(text, unit, lists.sheets)}
        onEnter={(typed) => change(typedLabel(side, typed), withTyped(side, typed))}
        onType={(typed) => sketch(typed && withTyped(side, typed))}
        onStep={(direction, ten) => {
          const value = (length?.value ?? 0) + direction * (ten ? 10 : 1);
          const next = { value: Number(value.toFixed(3)), unit };
          if (value > 0) {
            keys.step({
              label: `${LABEL[side]} ${formatLength(next)}`,
              change: withSide(side, next),
            });
          }
        }}
        unit={
          <select
            aria-label={say`Unit of the ${side}`}
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
    change(say`Paper turned`, ({ paper: next }) => {
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
          aria-label={say`One side follows the other`}
          title={linked ? say`One side follows the other` : say`Both sides are given`}
          onClick={() => {
            if (linked) setApart(true);
            else {
              setApart(false);
              change(say`Height follows`, ({ paper: next }) => {
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
          aria-label={say`Turn the paper: portrait or landscape`}
          title={say`Turn the paper: portrait or landscape`}
          onClick={swap}
        >
          <ArrowLeftRight size={16} />
        </button>
      </div>
      <div className="length-fields second">
        <FigureField
          label={say`Resolution`}
          text={formatNumber(trial.ppi)}
          unit="ppi"
          read={(text) =>
            typedNumber(text, { least: Ppi.minValue!, most: Ppi.maxValue!, unit: 'ppi' })
          }
          onEnter={(ppi) => change(say`${formatNumber(ppi)} ppi`, (_, next) => (next.ppi = ppi))}
          onType={(ppi) => sketch(ppi === null ? null : (_, next) => void (next.ppi = ppi))}
          onStep={(direction, ten) => {
            const ppi = Ppi.catch(trial.ppi).parse(trial.ppi + direction * (ten ? 10 : 1));
            keys.step({
              label: say`${formatNumber(ppi)} ppi`,
              change: (_, next) => void (next.ppi = ppi),
            });
          }}
        />
        {original.vector ? (
          <span />
        ) : (
          <FigureField
            label={say`Factor`}
            text={plan ? formatFactor(factorOf(plan)) : ''}
            unit="×"
            read={(text) =>
              typedNumber(text.replace(/[x×]/gi, ''), {
                least: FACTOR.least,
                most: FACTOR.most * (plannedPicture(original, work).repeats ?? 1),
              })
            }
            onEnter={setFactor}
          />
        )}
        <div>
          <label className="field-label" htmlFor="sheet">
            {say`Sheet`}
          </label>
          <select
            id="sheet"
            className="list-choice"
            value=""
            onChange={(event) => {
              const sheet = lists.sheets.find((one) => one.name === event.target.value);
              if (!sheet) return;
              change(sheet.name, withSides(sheetSides(sheet, rect)));
            }}
          >
            <option value="">{say`choose …`}</option>
            {lists.sheets.map((sheet) => (
              <option key={sheet.name}>{sheet.name}</option>
            ))}
          </select>
        </div>
      </div>
    </>
  );
}
