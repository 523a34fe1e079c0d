import { useRef } from 'react';
import { Form } from 'react-bootstrap';
import { Intent, INTENT_WORDS } from '@/core/colour/conversion';
import type { KnownProfile } from '@/core/colour/profiles';
import { SPACE_WORDS } from '@/core/colour/space';
import type { Output } from '@/core/output/output';
import { useChangeProfiles, useProfiles } from '../../../data/queries';
import { FileInput } from '../../../parts/FileInput';
import { usePicked } from '../../../parts/use-picked';
import { useProofing } from '../../stage/proofing';
import type { WorkBench } from '../../use-work';
import { put } from './put';
import { say } from '@/core/words/say';

/** What is chosen where nothing is converted, and what asks for a file. */
const OWN = 'own';
const ADD = 'add';

type Colour = NonNullable<Output['colour']>;

/** Which colours the file is written in, and how they look as printed. */
export function Colours({ bench }: { bench: WorkBench }) {
  const { change, job } = bench;
  const { output } = bench.trial;
  const { colour } = output;
  const { profile } = job.piece.findings;
  const { data: profiles = [] } = useProfiles();
  const { add } = useChangeProfiles();
  const input = useRef<HTMLInputElement>(null);
  const convert = (to: KnownProfile) =>
    change(
      `Colours: ${to.name}`,
      put({
        colour: {
          ...{ profile: to.digest, space: to.space },
          ...{ intent: colour?.intent ?? 'relative', blackPoint: colour?.blackPoint ?? true },
        },
      }),
    );
  const choose = (value: string) => {
    if (value === ADD) return input.current?.click();
    const to = profiles.find(({ digest }) => digest === value);
    if (to) convert(to);
    else change(say`Colours as the original`, put({ colour: null }));
  };
  const gone = colour && !profiles.some(({ digest }) => digest === colour.profile);
  return (
    <>
      <div>
        <label className="field-label" htmlFor="output-colours">
          {say`Colours`}
        </label>
        <Form.Select
          id="output-colours"
          size="sm"
          value={colour?.profile ?? OWN}
          onChange={(event) => choose(event.target.value)}
        >
          <option value={OWN}>{say`As the original: ${profile ?? say`no profile`}`}</option>
          {profiles.map(({ digest, name, space }) => (
            <option key={digest} value={digest}>
              {name} ({SPACE_WORDS[space]})
            </option>
          ))}
          {gone && (
            <option value={colour.profile}>{say`A profile that was taken off the list`}</option>
          )}
          <option value={ADD}>{say`Add a profile …`}</option>
        </Form.Select>
        <FileInput
          input={input}
          label={say`A colour profile`}
          accept=".icc,.icm"
          onChoose={(file) => add.mutate(file, { onSuccess: convert })}
        />
      </div>
      {colour ? <Converting bench={bench} colour={colour} /> : <Untagged bench={bench} />}
    </>
  );
}

/** How colours are converted, and whether the stage shows that. */
function Converting({ bench: { change }, colour }: { bench: WorkBench; colour: Colour }) {
  const { on, paperWhite, beyond } = usePicked(useProofing, 'on', 'paperWhite', 'beyond');
  const set = (label: string, next: Partial<Colour>) =>
    change(label, put({ colour: { ...colour, ...next } }));
  return (
    <>
      <Form.Select
        size="sm"
        aria-label={say`Rendering intent`}
        value={colour.intent}
        onChange={(event) => {
          const intent = Intent.parse(event.target.value);
          set(say`Colours ${INTENT_WORDS[intent].label.toLowerCase()}`, { intent });
        }}
      >
        {Intent.options.map((intent) => (
          <option key={intent} value={intent}>
            {INTENT_WORDS[intent].label}
          </option>
        ))}
      </Form.Select>
      <p className="reason">{INTENT_WORDS[colour.intent].blurb}</p>
      <Form.Check
        type="checkbox"
        id="output-black-point"
        label={say`Black point compensation`}
        checked={colour.blackPoint}
        onChange={() =>
          set(colour.blackPoint ? say`Black as it is` : say`Darkest becomes darkest`, {
            blackPoint: !colour.blackPoint,
          })
        }
      />
      <Form.Check
        type="switch"
        id="proof-on"
        label={say`Soft proof: the result as printed`}
        checked={on}
        onChange={() => useProofing.setState({ on: !on })}
      />
      {on && (
        <div className="ms-4">
          <Form.Check
            type="checkbox"
            id="proof-white"
            label={say`with the paper’s own white`}
            checked={paperWhite}
            onChange={() => useProofing.setState({ paperWhite: !paperWhite })}
          />
          <Form.Check
            type="checkbox"
            id="proof-beyond"
            label={say`gamut warning: stripes where the print lacks the colour`}
            checked={beyond}
            onChange={() => useProofing.setState({ beyond: !beyond })}
          />
        </div>
      )}
    </>
  );
}

/** Where nothing is converted and the original has no profile: whether the file gets one. */
function Untagged({ bench: { change, trial, job } }: { bench: WorkBench }) {
  const { untagged } = trial.output;
  if (job.piece.findings.profile) return null;
  return (
    <>
      <Form.Check
        type="checkbox"
        id="output-srgb"
        label={say`Tag as sRGB`}
        checked={untagged === 'srgb'}
        onChange={() =>
          change(
            untagged === 'srgb' ? say`No profile` : say`Tagged as sRGB`,
            put({ untagged: untagged === 'srgb' ? 'none' : 'srgb' }),
          )
        }
      />
      <p className={untagged === 'srgb' ? 'reason' : 'caution mb-0'}>
        {untagged === 'srgb'
          ? say`The original says nothing of its colours; sRGB is what they most likely are.`
          : say`Neither the original nor the result says what its colours are: a printer will guess.`}
      </p>
    </>
  );
}
