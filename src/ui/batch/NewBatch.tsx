import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { CALL_MOST } from '@/core/batch/batch';
import { formatBytes, formatNumber } from '@/core/measure/format';
import type { Settings } from '@/core/shop/settings';
import { typedNumber } from '@/core/measure/typed';
import { api } from '../data/api';
import { author } from '../data/author';
import { useSettings } from '../data/settings';
import { tell } from '../data/notices';
import { keys, NO_LISTS, useLists } from '../data/queries';
import { FIRST_DRAFT, readPlan, stepsName, type Draft, type Troubles } from './draft';
import { Field, PlanFields, ResultFields } from './PlanFields';
import { takeInto } from './take-in';
import { say } from '@/core/words/say';

/** What a batch is begun with: files that were brought, or jobs of the board. */
export type Begun = { files: readonly File[] } | { jobs: readonly number[] };

/** The most names of files that are listed. */
const NAMED = 200;
const DISTANCE = { least: 0.1, most: 200, unit: 'm' };

interface Props {
  begun: Begun;
  onClose(): void;
}

/** Asks what is to become of many pictures; nothing but a size is needed. */
export function NewBatch(props: Props) {
  const { data: settings } = useSettings();
  return settings ? <BatchForm {...props} settings={settings} /> : null;
}

function BatchForm({ begun, onClose, settings }: Props & { settings: Settings }) {
  const client = useQueryClient();
  const router = useRouter();
  const { data: lists } = useLists();
  const fromJobs = 'jobs' in begun;
  const [draft, setDraft] = useState<Draft>(() => {
    const first = { ...FIRST_DRAFT, names: settings.batchNames };
    return fromJobs
      ? { ...first, rule: { ...first.rule, by: 'ordered' }, steps: 'kept' }
      : { ...first, steps: stepsName(settings.begin.batch) };
  });
  const [order, setOrder] = useState(() => ({
    ...{ title: titleOf(begun), customer: '', due: '', device: '', material: '' },
    distance: formatNumber(settings.begin.distance, 2),
  }));
  const [troubles, setTroubles] = useState<Troubles & { title?: string; distance?: string }>({});
  const [busy, setBusy] = useState(false);
  const put = (change: Partial<typeof order>) => setOrder((before) => ({ ...before, ...change }));

  const begin = async (event: FormEvent) => {
    event.preventDefault();
    const read = readPlan(draft, lists ?? NO_LISTS);
    const distance = typedNumber(order.distance, DISTANCE);
    const found = {
      ...(read.ok ? {} : read.troubles),
      ...(order.title.trim() ? {} : { title: say`The batch needs a name.` }),
      ...(distance.ok ? {} : { distance: distance.why }),
    };
    setTroubles(found);
    if (!read.ok || !distance.ok || Object.keys(found).length > 0) return;
    setBusy(true);
    try {
      const name = order.title.trim();
      const { id } = await api.addBatch({ name, plan: read.value });
      if ('files' in begun) {
        // It goes on while the batch is looked at.
        void takeInto(client, id, begun.files, {
          ...{ title: name, customer: order.customer.trim(), due: order.due || null },
          ...{ device: order.device || null, material: order.material || null },
          distance: distance.value,
        });
      } else await joinJobs(id, begun.jobs);
      void client.invalidateQueries({ queryKey: keys.batches });
      onClose();
      router.push(`/batches/${id}`);
    } catch (error) {
      tell((error as Error).message, 'trouble');
      setBusy(false);
    }
  };

  return (
    <Modal
      show
      onHide={onClose}
      centered
      size="xl"
      backdrop="static"
      dialogClassName="new-job new-batch"
      aria-labelledby="new-batch-heading"
    >
      <form onSubmit={(event) => void begin(event)} noValidate>
        <Modal.Body>
          <section aria-label={say`Pictures`}>
            <h2 id="new-batch-heading">{say`A batch`}</h2>
            {'files' in begun ? (
              <FileList files={begun.files} />
            ) : (
              <p>
                {begun.jobs.length === 1
                  ? say`All pictures of one job, each with what is decided about it already.`
                  : say`All pictures of ${begun.jobs.length} jobs, each with what is decided about it already.`}
              </p>
            )}
          </section>
          <section aria-label={say`Order`}>
            <div className="plan-row">
              <Field label={say`Batch`} trouble={troubles.title}>
                {(id) => (
                  <input
                    id={id}
                    className="form-control"
                    value={order.title}
                    maxLength={120}
                    autoComplete="off"
                    onChange={({ target }) => put({ title: target.value })}
                  />
                )}
              </Field>
              {!fromJobs && (
                <Field label={say`Customer`}>
                  {(id) => (
                    <input
                      id={id}
                      className="form-control"
                      value={order.customer}
                      maxLength={120}
                      autoComplete="off"
                      onChange={({ target }) => put({ customer: target.value })}
                    />
                  )}
                </Field>
              )}
            </div>
            <PlanFields
              {...{ draft, troubles, leaving: false, ordered: fromJobs }}
              onChange={(change) => setDraft((before) => ({ ...before, ...change }))}
            />
            {!fromJobs && (
              <div className="plan-row">
                <Field label={say`Printed on`}>
                  {(id) => (
                    <select
                      id={id}
                      className="form-select"
                      value={order.material}
                      onChange={({ target }) => {
                        const chosen = lists?.materials.find(({ name }) => name === target.value);
                        put({
                          material: target.value,
                          ...(chosen && { distance: String(chosen.distance) }),
                        });
                      }}
                    >
                      <option value="">{say`not yet chosen`}</option>
                      {lists?.materials.map(({ name }) => (
                        <option key={name}>{name}</option>
                      ))}
                    </select>
                  )}
                </Field>
                <Field label={say`Printed with`}>
                  {(id) => (
                    <select
                      id={id}
                      className="form-select"
                      value={order.device}
                      onChange={({ target }) => put({ device: target.value })}
                    >
                      <option value="">{say`not yet chosen`}</option>
                      {lists?.devices.map(({ name }) => (
                        <option key={name}>{name}</option>
                      ))}
                    </select>
                  )}
                </Field>
              </div>
            )}
            {!fromJobs && (
              <div className="plan-row">
                <Field label={say`Seen from, m`} trouble={troubles.distance}>
                  {(id) => (
                    <input
                      id={id}
                      className="form-control figure"
                      value={order.distance}
                      autoComplete="off"
                      onChange={({ target }) => put({ distance: target.value })}
                    />
                  )}
                </Field>
                <Field label={say`Due`}>
                  {(id) => (
                    <input
                      id={id}
                      type="date"
                      className="form-control"
                      value={order.due}
                      onChange={({ target }) => put({ due: target.value })}
                    />
                  )}
                </Field>
              </div>
            )}
            <ResultFields
              {...{ draft, troubles }}
              onChange={(change) => setDraft((before) => ({ ...before, ...change }))}
            />
          </section>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={busy}>
            {'files' in begun
              ? begun.files.length === 1
                ? say`Take in one file`
                : say`Take in ${begun.files.length} files`
              : say`To the batch`}
          </Button>
        </Modal.Footer>
      </form>
    </Modal>
  );
}

function FileList({ files }: { files: readonly File[] }) {
  const bytes = files.reduce((sum, { size }) => sum + size, 0);
  return (
    <>
      <p>{say`${files.length} files, ${formatBytes(bytes)}`}</p>
      <ul className="batch-files" tabIndex={0} aria-label={say`Files`}>
        {files.slice(0, NAMED).map((file, i) => (
          <li key={i}>
            <span>{file.name}</span>
            <span className="figure">{formatBytes(file.size)}</span>
          </li>
        ))}
        {files.length > NAMED && <li>{say`and ${files.length - NAMED} more`}</li>}
      </ul>
    </>
  );
}

/** The folder that was dropped, else the day. */
function titleOf(begun: Begun): string {
  const path =
    'files' in begun ? (begun.files[0] as { path?: string; webkitRelativePath: string }) : null;
  const folders = (path?.webkitRelativePath || path?.path || '').split('/').filter(Boolean);
  return folders.length > 1 && folders[0] !== '.'
    ? folders[0]!
    : say`Batch of ${new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`;
}

/** Puts all pictures of some jobs into a batch. */
async function joinJobs(batch: number, jobs: readonly number[]): Promise<void> {
  const pieces = (await api.picturesOf(jobs)).map(({ piece }) => piece);
  for (let i = 0; i < pieces.length; i += CALL_MOST) {
    await api.addItems(batch, { pieces: pieces.slice(i, i + CALL_MOST), author: author() });
  }
}
