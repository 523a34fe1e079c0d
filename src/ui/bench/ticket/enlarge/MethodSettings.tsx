import type { EnlargeSettings } from '@/core/steps/enlarge/enlarge';
import { mixesLight, rings } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/recipe/work';
import { Choices } from '../../../parts/Choices';
import { Slider } from '../../../parts/Slider';
import { ofStep, slides, type WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What can be set about the chosen method. */
export function MethodSettings({ bench }: { bench: WorkBench }) {
  const { trial, change } = bench;
  const { method, light, limit, step } = stepOf(trial.treatment, 'enlarge')!.settings;
  const put = (settings: Partial<EnlargeSettings>) =>
    ofStep('enlarge', (next) => Object.assign(next.settings, settings));
  const sets = (key: 'step' | 'limit', words: (value: number) => string) =>
    slides(bench, (value) => put({ [key]: value }), words);
  return (
    <>
      {method === 'stepped' && (
        <Slider
          label={say`Step size`}
          value={step}
          min={1}
          max={100}
          step={1}
          usual={10}
          unit="%"
          {...sets('step', (value) => say`${value} % at a time`)}
        />
      )}
      {rings(method) && (
        <Slider
          label={say`Limit ringing`}
          value={limit}
          min={0}
          max={100}
          step={1}
          usual={0}
          unit="%"
          {...sets('limit', (value) => say`Ringing limited by ${value} %`)}
        />
      )}
      {mixesLight(method) && (
        <div className="setting-line">
          <span className="field-label">{say`Resampled in`}</span>
          <Choices
            name="light"
            label={say`Light that pixels are resampled in`}
            value={light}
            options={[
              {
                value: 'gamma',
                label: say`encoded light`,
                title: say`Usual; dark lines keep their weight`,
              },
              {
                value: 'linear',
                label: say`linear light`,
                title: say`For points of light, and for reducing fine patterns`,
              },
            ]}
            onChange={(value) =>
              change(
                value === 'linear' ? say`In linear light` : say`In encoded light`,
                put({ light: value }),
              )
            }
          />
        </div>
      )}
    </>
  );
}
