import { Form } from 'react-bootstrap';
import { OVERSHOOT_MOST, USUAL_GUARDS, type Guards } from '@/core/guard/guards';
import { Fold } from '../../../parts/Fold';
import { Slider } from '../../../parts/Slider';
import { slides, type Change, type WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

const PROTECTED: { key: 'flat' | 'skin' | 'soft'; label: string }[] = [
  { key: 'flat', label: say`flat areas` },
  { key: 'skin', label: say`skin tones` },
  { key: 'soft', label: say`what is soft on purpose` },
];

const put =
  (change: Partial<Guards>): Change =>
  (_, trial) =>
    void Object.assign(trial.guards, change);

/** What a trial's guards come to, in a line. */
export function guardsLine({ limited, light, dark, ...left }: Guards): string {
  const alone = PROTECTED.filter(({ key }) => left[key]).map(({ key }) => key);
  return [limited ? say`halos +${light} −${dark}` : say`halos as they come`, ...alone].join(' · ');
}

/** What keeps sharpening from being overdone, for all steps, and enlarging from ringing. */
export function GuardSettings({ bench }: { bench: WorkBench }) {
  const { trial, change } = bench;
  const { guards } = trial;
  const rim = (key: 'light' | 'dark', label: string) => (
    <Slider
      label={label}
      value={guards[key]}
      min={0}
      max={OVERSHOOT_MOST}
      step={1}
      unit="levels"
      usual={USUAL_GUARDS[key]}
      {...slides(
        bench,
        (value) => put({ [key]: value }),
        (value) => say`Guards: ${label.toLowerCase()} ${value} levels`,
      )}
    />
  );
  return (
    <Fold title={say`Guards`} line={guardsLine(guards)}>
      <Form.Check
        type="switch"
        id="guard-limited"
        label={say`Hold halos to what lies about them`}
        checked={guards.limited}
        onChange={() =>
          change(
            `Guards: ${guards.limited ? say`no limit of halos` : say`halos are held`}`,
            put({ limited: !guards.limited }),
          )
        }
      />
      {guards.limited && (
        <>
          {rim('light', say`Lighter by at most`)}
          {rim('dark', say`Darker by at most`)}
        </>
      )}
      <span className="field-label">{say`Left alone by sharpening`}</span>
      {PROTECTED.map(({ key, label }) => (
        <Form.Check
          key={key}
          type="checkbox"
          id={`guard-${key}`}
          label={label}
          checked={guards[key]}
          onChange={() =>
            change(
              `Guards: ${label} ${guards[key] ? say`sharpened too` : say`left alone`}`,
              put({ [key]: !guards[key] }),
            )
          }
        />
      ))}
    </Fold>
  );
}
