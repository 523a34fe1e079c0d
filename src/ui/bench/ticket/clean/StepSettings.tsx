import { formatNumber } from '@/core/measure/format';
import { steps, type StepChoice, type StepKind } from '@/core/steps';
import { Choices } from '../../../parts/Choices';
import { Slider } from '../../../parts/Slider';
import { useModels } from '../../../data/queries';
import { ofStepAt, slides, type WorkBench } from '../../use-work';

/** One figure of a step's settings. */
interface Figure {
  key: string;
  label: string;
  min: number;
  max: number;
  step: number;
  unit: string;
  /** what "auto" comes to, where the application can decide */
  found?: (bench: WorkBench) => number;
}

const percent = { min: 0, max: 100, step: 1, unit: '%' };
const around = { min: -100, max: 100, step: 1, unit: '%' };
const levels = { step: 0.5, unit: 'levels' };

/** What can be set of each kind, in the order in which it matters. */
const FIGURES: Partial<Record<StepKind, Figure[]>> = {
  compression: [
    { key: 'luma', label: 'Luminance', ...percent, found: usualShare },
    { key: 'colour', label: 'Colour', ...percent, found: usualShare },
  ],
  noise: [
    {
      key: 'luma',
      label: 'Luminance',
      min: 0,
      max: 50,
      ...levels,
      found: (b) => b.found.noise.luma,
    },
    {
      key: 'colour',
      label: 'Colour',
      min: 0,
      max: 50,
      ...levels,
      found: (b) => b.found.noise.colour,
    },
  ],
  specks: [{ key: 'threshold', label: 'Stands out by', min: 1, max: 128, step: 1, unit: 'levels' }],
  fringes: [
    { key: 'radius', label: 'Width', min: 1, max: 8, step: 1, unit: 'px' },
    { key: 'threshold', label: 'Edges from', min: 1, max: 64, step: 1, unit: 'levels' },
  ],
  smooth: [
    { key: 'radius', label: 'Radius', min: 0.01, max: 6, step: 0.01, unit: 'px' },
    { key: 'threshold', label: 'Threshold', min: 0.5, max: 64, ...levels },
  ],
  banding: [
    { key: 'radius', label: 'Radius', min: 4, max: 32, step: 1, unit: 'px' },
    { key: 'threshold', label: 'Breaks up to', min: 0.5, max: 12, ...levels },
  ],
  tones: [
    { key: 'points', label: 'Black and white points', ...percent },
    { key: 'exposure', label: 'Exposure', min: -3, max: 3, step: 0.05, unit: 'stops' },
    { key: 'contrast', label: 'Contrast', ...around },
    { key: 'saturation', label: 'Saturation', ...around },
    { key: 'warmth', label: 'Warmth', ...around },
  ],
  texture: [
    { key: 'returned', label: 'Detail given back', ...percent },
    { key: 'finer', label: 'Finer than', min: 0.3, max: 4, step: 0.1, unit: 'px' },
    {
      key: 'grain',
      label: 'New grain',
      min: 0,
      max: 20,
      ...levels,
      found: (b) => b.found.noise.luma,
    },
    { key: 'grainSize', label: 'Grain size', min: 0.5, max: 6, step: 0.1, unit: 'px' },
  ],
};

function usualShare({ found }: WorkBench): number {
  return (found.jpeg?.quality ?? 0) >= 96 ? 60 : 100;
}

interface Props {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}

/** The settings of one step. */
export function StepSettings({ bench, step, index }: Props) {
  const { change } = bench;
  const { title, defaults } = steps[step.kind];
  const settings = step.settings as Record<string, number | string>;
  const usual = defaults as Record<string, number | string>;
  const put = (key: string, value: number | string) =>
    ofStepAt(index, (next) => Object.assign(next.settings, { [key]: value }));
  return (
    <>
      {'engine' in step.settings && <Engine bench={bench} step={step} index={index} />}
      {FIGURES[step.kind]?.map(({ key, label, found, ...range }) => {
        const chosen = settings[key]!;
        const automatic = chosen === 'auto';
        const value = automatic ? Number((found?.(bench) ?? 0).toFixed(1)) : Number(chosen);
        const by = typeof usual[key] === 'number' ? usual[key] : value;
        return (
          <div className="auto-slider" key={key}>
            <Slider
              label={label}
              value={value}
              {...range}
              usual={by}
              {...slides(
                bench,
                (next) => put(key, next),
                (next) => `${title}: ${label} ${formatNumber(next)}`,
              )}
            />
            {found && (
              <button
                type="button"
                className={`auto ${automatic ? 'taken' : ''}`}
                aria-pressed={automatic}
                aria-label={`${label}: automatic`}
                onClick={() =>
                  change(
                    `${title}: ${label} ${automatic ? 'set by hand' : 'automatic'}`,
                    put(key, automatic ? value : 'auto'),
                  )
                }
              >
                auto
              </button>
            )}
          </div>
        );
      })}
    </>
  );
}

const ENGINES = [
  { value: 'learned', label: 'Learned' },
  { value: 'classical', label: 'Classical' },
] as const;

/** How a cleaner computes, and what is said where the learned way can't be gone. */
function Engine({ bench, step, index }: Props) {
  const { data: models } = useModels();
  if (step.kind !== 'compression' && step.kind !== 'noise') return null;
  const missing = models && models[step.kind] === null;
  const { title } = steps[step.kind];
  return (
    <>
      <Choices
        name={`engine-${index}`}
        label={`How ${title.toLowerCase()} is computed`}
        value={step.settings.engine}
        options={ENGINES}
        onChange={(engine) =>
          bench.change(
            `${title}: ${engine}`,
            ofStepAt(index, (next) => Object.assign(next.settings, { engine })),
          )
        }
      />
      {missing && step.settings.engine === 'learned' && (
        <p className="caution mb-0">
          Its model is missing or damaged: computed classically. Put models/ back from the delivery.
        </p>
      )}
    </>
  );
}
