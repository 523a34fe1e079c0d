import { Check, CircleX, Send, TriangleAlert } from 'lucide-react';
import { useId, useState } from 'react';
import { Button } from 'react-bootstrap';
import { canBeSent, checkForDevice, type Check as Checked } from '@/core/device/check';
import { placeFor } from '@/core/shop/place-for';
import { fileOfTask } from '@/core/shop/printable';
import { standingApproval } from '@/core/shop/event';
import { artifactOf, titleOf, type ProofTask, type Run } from '@/core/shop/task';
import { useDevices, useSend } from '../../../data/devices';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { useSigner } from '../../../data/author';
import { Initials } from '../../../parts/Initials';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  /** a run or a proof that is done */
  task: Run | ProofTask;
  /** whether it was sent before */
  again: boolean;
  onSent(): void;
}

const ICONS = { right: Check, caution: TriangleAlert, refused: CircleX };

/** Which device prints a file on what, whether it can, and sending it there. */
export function SendForm({ bench, task, again, onSent }: Props) {
  const { job, work } = bench;
  const { data: devices = [] } = useDevices();
  const { send } = useSend(job.id, job.piece.id);
  const { initials } = useSigner();
  const [chosen, setChosen] = useState<{ device?: number; material?: string }>({});
  const [copies, setCopies] = useState(1);
  const [why, setWhy] = useState('');
  const id = useId();
  const connected = devices.flatMap((one) =>
    one.description ? [{ ...one, description: one.description }] : [],
  );
  const file = artifactOf(task, 'result')!;
  const printed = fileOfTask(task, file.bytes);
  const asked = { ...chosen, proof: task.kind === 'proof', work };
  const where = placeFor(printed, connected, asked);
  if (!where) return null;
  const { device, material } = where;
  const { materials } = device.description;
  const checks = checkForDevice(printed, device.description, { material, ordered: work.material });
  // A proof is sent so that somebody can sign.
  const approved =
    task.kind === 'proof' || standingApproval(job.events, job.piece.id)?.digest === file.digest;
  const ready = canBeSent(checks) && initials.trim() !== '' && (approved || why.trim() !== '');
  const submit = () =>
    send.mutate(
      { task: task.id, device: device.id, material, copies, initials, why: approved ? '' : why },
      {
        onSuccess: () => {
          setWhy('');
          onSent();
        },
      },
    );
  return (
    <Fold
      title={again ? say`Send it once more` : say`Send to a device`}
      line={device.name}
      open={!again}
    >
      <form
        className="send"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <div className="send-where">
          <Field label={say`Device`} id={`${id}-device`}>
            <select
              id={`${id}-device`}
              className="list-choice"
              value={device.id}
              onChange={(event) => setChosen({ device: Number(event.target.value) })}
            >
              {connected.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                  {one.answers ? '' : say` (does not answer)`}
                </option>
              ))}
            </select>
          </Field>
          <Field label={say`On`} id={`${id}-material`}>
            <select
              id={`${id}-material`}
              className="list-choice"
              value={material}
              onChange={(event) => setChosen({ device: device.id, material: event.target.value })}
            >
              {materials.map(({ name }) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </Field>
        </div>
        <Checks checks={checks} />
        {!approved && (
          <Field label={say`Nobody signed for this file. Why is it sent?`} id={`${id}-why`}>
            <input
              id={`${id}-why`}
              className="form-control form-control-sm"
              value={why}
              maxLength={500}
              onChange={(event) => setWhy(event.target.value)}
            />
          </Field>
        )}
        <div className="send-row">
          <Field label={say`Copies`} id={`${id}-copies`}>
            <input
              id={`${id}-copies`}
              className="form-control form-control-sm figure"
              type="number"
              min={1}
              max={99}
              value={copies}
              onChange={(event) =>
                setCopies(Math.min(99, Math.max(1, Math.trunc(Number(event.target.value)) || 1)))
              }
            />
          </Field>
          <Initials />
          <Button
            type="submit"
            variant="outline-primary"
            size="sm"
            disabled={!ready || send.isPending}
            title={`${titleOf(task)}, ${file.fileName}`}
          >
            <Send size={14} aria-hidden /> {say`Send`}
          </Button>
        </div>
      </form>
    </Fold>
  );
}

function Field({ label, id, children }: { label: string; id: string; children: React.ReactNode }) {
  return (
    <div>
      <label className="field-label" htmlFor={id}>
        {label}
      </label>
      {children}
    </div>
  );
}

const Checks = ({ checks }: { checks: readonly Checked[] }) => (
  <ul className="checks" aria-label={say`Checked before it is sent`}>
    {checks.map(({ state, words }) => {
      const Icon = ICONS[state];
      return (
        <li key={words} className={{ right: '', caution: 'caution', refused: 'trouble' }[state]}>
          <Icon size={14} aria-hidden />
          {words}
        </li>
      );
    })}
  </ul>
);
