import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { stepOfKind, type StepChoice } from '@/core/steps';
import type { Control } from '@/core/steps/step';
import { Choices } from '../../../parts/Choices';
import { Slider } from '../../../parts/Slider';
import { ofStepAt, slides, type WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  step: StepChoice;
  /** where it stands in the treatment */
  index: number;
}

type Settings = Record<string, number | string>;

/** The settings of one step, drawn as it says itself. */
export function StepControls(props: Props) {
  const controls = stepOfKind(props.step.kind).controls as readonly Control<Settings>[];
  const shown = controls.filter((control) => control.shown?.(settingsOf(props.step)) ?? true);
  return shown.map((control) => {
    switch (control.form) {
      case 'slider':
        return <SliderControl key={control.setting} {...props} control={control} />;
      case 'length':
        return <LengthControl key={control.setting} {...props} control={control} />;
      case 'choice':
        return <ChoiceControl key={control.setting} {...props} control={control} />;
    }
  });
}

type Of<F extends Control<Settings>['form']> = Props & {
  control: Extract<Control<Settings>, { form: F }>;
};

const settingsOf = ({ settings }: StepChoice) => settings as unknown as Settings;

/** A change of some of a step's settings. */
const put = (index: number, settings: Settings) =>
  ofStepAt(index, (next) => Object.assign(next.settings, settings));

/** How a slider of a setting sketches, settles, and is told in the list of changes. */
const sliding = (
  { bench, step, index }: Props,
  { setting, label }: { setting: string; label: string },
  unit = '',
) =>
  slides(
    bench,
    (next) => put(index, { [setting]: next }),
    (next) => `${stepOfKind(step.kind).title}: ${label} ${formatNumber(next)}${unit}`,
  );

function SliderControl({ bench, step, index, control }: Of<'slider'>) {
  const { setting, label, min, max, step: by, unit, automatic } = control;
  const { title, defaults } = stepOfKind(step.kind);
  const chosen = settingsOf(step)[setting]!;
  const isAutomatic = chosen === 'auto';
  const value = isAutomatic
    ? Number((automatic?.(bench.found, settingsOf(step)) ?? 0).toFixed(1))
    : Number(chosen);
  const usual = (defaults as Settings)[setting];
  return (
    <div className="auto-slider">
      <Slider
        {...{ label, value, min, max, step: by, unit }}
        usual={typeof usual === 'number' ? usual : value}
        {...sliding({ bench, step, index }, control)}
      />
      {automatic && (
        <button
          type="button"
          className={`auto ${isAutomatic ? 'taken' : ''}`}
          aria-pressed={isAutomatic}
          aria-label={say`${label}: automatic`}
          onClick={() =>
            bench.change(
              `${title}: ${label} ${isAutomatic ? say`set by hand` : say`automatic`}`,
              put(index, { [setting]: isAutomatic ? value : 'auto' }),
            )
          }
        >
          {say`auto`}
        </button>
      )}
    </div>
  );
}

/** A length in mm on paper or px of the result, with what it is in the other. */
function LengthControl({ bench, step, index, control }: Of<'length'>) {
  const { setting, unitSetting, label, least = 0.01, most } = control;
  const { title, defaults } = stepOfKind(step.kind);
  const { ppi } = bench.trial;
  const settings = settingsOf(step);
  const value = Number(settings[setting]);
  const unit = settings[unitSetting] as 'px' | 'mm';
  const inPixels = (value / MM_PER_INCH) * ppi;
  const inMillimetres = (value / ppi) * MM_PER_INCH;
  const other = unit === 'mm' ? inPixels : inMillimetres;
  const usual = Number((defaults as Settings)[setting]);
  const usualUnit = (defaults as Settings)[unitSetting];
  return (
    <Slider
      label={`${label} (${unit === 'mm' ? say`${formatNumber(other, 1)} px` : say`${formatNumber(other)} mm`})`}
      value={value}
      min={least}
      max={most[unit]}
      step={unit === 'mm' ? 0.01 : 0.1}
      usual={unit === usualUnit ? usual : value}
      unitWord={unit}
      unit={
        <select
          aria-label={say`Unit of the ${label.toLowerCase()}`}
          value={unit}
          onChange={() => {
            const next = unit === 'mm' ? 'px' : 'mm';
            const kept = Math.min(most[next], Math.max(least, Number(other.toFixed(2))));
            bench.change(
              say`${title}: ${label} in ${next}`,
              put(index, { [unitSetting]: next, [setting]: kept }),
            );
          }}
        >
          <option>{say`mm`}</option>
          <option>{say`px`}</option>
        </select>
      }
      {...sliding({ bench, step, index }, control, ` ${unit}`)}
    />
  );
}

/** A choice of a few, and what is said where the model that one of them needs is missing. */
function ChoiceControl({ bench, step, index, control }: Of<'choice'>) {
  const { setting, label, options, needs } = control;
  const { title } = stepOfKind(step.kind);
  const chosen = String(settingsOf(step)[setting]);
  return (
    <>
      <Choices
        name={`${setting}-${index}`}
        label={`${title}: ${label.toLowerCase()}`}
        value={chosen}
        options={options}
        onChange={(next) => bench.change(`${title}: ${next}`, put(index, { [setting]: next }))}
      />
      {needs && chosen === needs.option && bench.models[needs.model] === null && (
        <p className="caution mb-0">
          {say`Its model is missing or damaged: computed classically. Put models/ back from the delivery.`}
        </p>
      )}
    </>
  );
}
