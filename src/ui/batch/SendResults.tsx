import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { BatchItem } from '@/core/batch/batch';
import { api } from '../data/api';
import { useSigner } from '../data/author';
import { useDevices } from '../data/devices';
import { tell } from '../data/notices';
import { keys } from '../data/queries';
import { Initials } from '../parts/Initials';
import { Field } from './PlanFields';
import { say } from '@/core/words/say';

/** Sends the results of some pictures to a device, each checked as if it were sent alone. */
export function SendResults({ items, onClose }: { items: readonly BatchItem[]; onClose(): void }) {
  const client = useQueryClient();
  const { data: devices = [] } = useDevices();
  const { initials } = useSigner();
  const [chosen, setChosen] = useState<number | null>(null);
  const [on, setOn] = useState<string | null>(null);
  const [why, setWhy] = useState('');
  const connected = devices.flatMap((one) =>
    one.description ? [{ ...one, description: one.description }] : [],
  );
  const device = connected.find(({ id }) => id === chosen) ?? connected[0];
  const materials = device?.description.materials ?? [];
  const material = materials.find(({ name }) => name === on)?.name ?? materials[0]?.name ?? '';
  const send = useMutation({
    mutationFn: async () => {
      const refused = new Map<string, string[]>();
      for (const { task, fileName } of items) {
        const request = { device: device!.id, material, copies: 1, initials, why: why.trim() };
        await api.send(task!, request).catch((error: Error) => {
          refused.set(error.message, [...(refused.get(error.message) ?? []), fileName]);
        });
      }
      return refused;
    },
    onSuccess: (refused) => {
      const not = [...refused.values()].flat().length;
      if (items.length > not) tell(say`${items.length - not} sent to ${device!.name}.`, 'good');
      for (const [words, files] of refused)
        tell(say`${files.length} not sent: ${words}`, 'trouble');
      void client.invalidateQueries({ queryKey: keys.jobs });
      onClose();
    },
  });
  return (
    <Modal show onHide={onClose} centered aria-labelledby="send-results">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          send.mutate();
        }}
      >
        <Modal.Body className="plan-fields">
          <h2 id="send-results" className="dialog-title">
            {items.length === 1 ? say`Send 1 result` : say`Send ${items.length} results`}
          </h2>
          {!device && <p className="trouble">{say`No device is connected.`}</p>}
          <div className="plan-row">
            <Field label={say`Device`}>
              {(id) => (
                <select
                  id={id}
                  className="form-select"
                  value={device?.id ?? ''}
                  onChange={({ target }) => setChosen(Number(target.value))}
                >
                  {connected.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                      {one.answers ? '' : say` (does not answer)`}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            <Field label={say`On`}>
              {(id) => (
                <select
                  id={id}
                  className="form-select"
                  value={material}
                  onChange={({ target }) => setOn(target.value)}
                >
                  {materials.map(({ name }) => (
                    <option key={name}>{name}</option>
                  ))}
                </select>
              )}
            </Field>
          </div>
          <Field label={say`Why those are sent that nobody signed for`}>
            {(id) => (
              <input
                id={id}
                className="form-control"
                value={why}
                maxLength={500}
                placeholder={say`as looked through in the batch`}
                onChange={({ target }) => setWhy(target.value)}
              />
            )}
          </Field>
          <Initials />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={!device || initials.trim() === '' || send.isPending}>
            {say`Send`}
          </Button>
        </Modal.Footer>
      </form>
    </Modal>
  );
}
