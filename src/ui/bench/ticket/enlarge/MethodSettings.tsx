import type { EnlargeSettings } from '@/core/steps/enlarge/enlarge';
import { mixesLight, rings } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/recipe/work';
import { Choices } from '../../../parts/Choices';
import { Slider } from '../../../parts/Slider';
import { ofStep, slides, type WorkBench } from '../../use-work';

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
          label="Grows at a time"
          value={step}
          min={1}
          max={100}
          step={1}
          usual={10}
          unit="%"
          {...sets('step', (value) => `${value} % at a time`)}
        />
      )}
      {rings(method) && (
        <Slider
          label="Limit ringing"
          value={limit}
          min={0}
          max={100}
          step={1}
          usual={0}
          unit="%"
          {...sets('limit', (value) => `Ringing limited by ${value} %`)}
        />
      )}
      {mixesLight(method) && (
        <div className="setting-line">
          <span className="field-label">Pixels are mixed</span>
          <Choices
            name="light"
            label="How pixels are mixed"
            value={light}
            options={[
              { value: 'gamma', label: 'as encoded', title: 'Usual; dark lines keep their weight' },
              {
                value: 'linear',
                label: 'as light',
                title: 'For points of light, and for reducing fine patterns',
              },
            ]}
            onChange={(value) =>
              change(
                value === 'linear' ? 'Mixed as light' : 'Mixed as encoded',
                put({ light: value }),
              )
            }
          />
        </div>
      )}
    </>
  );
}
