import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { Button, Col, Form, Modal, Row } from 'react-bootstrap';
import { z } from 'zod';
import { OPEN_PAPER, type Paper } from '@/core/measure/paper';
import { formatNumber } from '@/core/measure/format';
import type { Settings } from '@/core/shop/settings';
import { bareName } from '@/core/output/names';
import { sidesOf, typedNumber, typedPaper } from '@/core/measure/typed';
import { orderedVerdict } from '@/core/recipe/ordered';
import { PROPOSED_PPI } from '@/core/recipe/propose';
import type { NewJob, NewPicture, TakenIn } from '@/core/shop/job';
import type { Sizing } from '@/core/shop/lists';
import { NO_LISTS, useLists } from '../data/queries';
import { useSettings } from '../data/settings';
import { Choices } from '../parts/Choices';
import { OrderVerdict } from './OrderVerdict';
import { RefusedFile, TakenPicture } from './TakenPicture';
import type { Refused } from './use-intake';
import { say } from '@/core/words/say';

const DISTANCE = { least: 0.1, most: 200, unit: 'm' };

const fieldsFor = ({ sheets, unit }: Sizing) =>
  z.object({
    title: z
      .string()
      .trim()
      .min(1, say`The job needs a name.`)
      .max(120, say`At most 120 letters.`),
    customer: z
      .string()
      .trim()
      .max(120, say`At most 120 letters.`),
    due: z.union([z.literal(''), z.iso.date(say`A date, or nothing.`)]),
    size: z.string().superRefine((text, { addIssue }) => {
      const typed = text.trim() === '' ? null : typedPaper(text, unit, sheets);
      if (typed?.ok === false) addIssue(typed.why);
    }),
    distance: z.string().superRefine((text, { addIssue }) => {
      const typed = typedNumber(text, DISTANCE);
      if (!typed.ok) addIssue(typed.why);
    }),
    device: z.string(),
    material: z.string(),
  });
type Fields = z.infer<ReturnType<typeof fieldsFor>>;

interface Props {
  taken: readonly TakenIn[];
  /** what came with them and could not be taken in */
  refused: readonly Refused[];
  busy: boolean;
  onBegin(jobs: NewJob[]): void;
  onCancel(): void;
}

const titleOf = (fileName: string): string =>
  bareName(fileName).replace(/[-_]+/g, ' ').slice(0, 120);

/** Damaged ones first, so that they are seen. */
const inOrder = (taken: readonly TakenIn[]): TakenIn[] =>
  [...taken].sort((a, b) => Number(b.findings.damaged > 0) - Number(a.findings.damaged > 0));

/** Asks for what the order says about pictures that were taken in; nothing but a name is needed. */
export function NewJobDialog(props: Props) {
  const { data: settings } = useSettings();
  return settings ? <JobForm {...props} settings={settings} /> : null;
}

function JobForm({
  taken,
  refused,
  busy,
  onBegin,
  onCancel,
  settings,
}: Props & { settings: Settings }) {
  const { data: lists = NO_LISTS } = useLists();
  const [together, setTogether] = useState<'each' | 'all'>('each');
  const [pages, setPages] = useState<Record<string, number>>({});
  const each = taken.length > 1 && together === 'each';
  const { register, handleSubmit, formState, setValue, control } = useForm<Fields>({
    resolver: zodResolver(fieldsFor(lists)),
    mode: 'onTouched',
    defaultValues: {
      title: titleOf(taken[0]!.fileName),
      customer: '',
      due: '',
      size: '',
      distance: formatNumber(settings.begin.distance, 2),
      device: '',
      material: '',
    },
  });
  const typed = useWatch({ control });
  const paperFor = ({ findings }: TakenIn, text: string): Paper | null => {
    if (text.trim() === '') return OPEN_PAPER;
    const paper = typedPaper(text, lists.unit, lists.sheets);
    return paper.ok ? { ...OPEN_PAPER, ...sidesOf(paper.value, findings) } : null;
  };
  const metres = (text: string) => {
    const distance = typedNumber(text, DISTANCE);
    return distance.ok ? distance.value : null;
  };
  const verdictOf = (one: TakenIn) => {
    const paper = typed.size?.trim() ? paperFor(one, typed.size) : null;
    const distance = metres(typed.distance ?? '');
    const ppi = lists.devices.find(({ name }) => name === typed.device)?.ppi ?? PROPOSED_PPI;
    return paper && distance !== null
      ? orderedVerdict(one.findings, { paper, distance, ppi })
      : null;
  };
  const judged = inOrder(taken).map((one) => ({ one, verdict: verdictOf(one) }));

  const begin = handleSubmit((fields) => {
    const job = (title: string, its: readonly TakenIn[]): NewJob => ({
      title,
      customer: fields.customer,
      due: fields.due || null,
      pictures: its.map(({ digest, fileName }): NewPicture => ({
        digest,
        fileName,
        page: pages[digest] ?? 1,
      })),
      paper: paperFor(its[0]!, fields.size)!,
      distance: metres(fields.distance)!,
      device: fields.device || null,
      material: fields.material || null,
    });
    onBegin(
      each ? taken.map((one) => job(titleOf(one.fileName), [one])) : [job(fields.title, taken)],
    );
  });
  const field = (name: keyof Fields, label: string, extra: object = {}) => {
    const wrong = formState.errors[name]?.message;
    return (
      <Form.Group controlId={`new-job-${name}`} className="order-field">
        <Form.Label>{label}</Form.Label>
        <Form.Control
          {...register(name)}
          isInvalid={wrong !== undefined}
          autoComplete="off"
          {...extra}
        />
        <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
      </Form.Group>
    );
  };
  const choice = (
    name: 'device' | 'material',
    label: string,
    options: readonly { name: string }[],
    onChoose?: (chosen: string) => void,
  ) => (
    <Form.Group controlId={`new-job-${name}`} className="order-field">
      <Form.Label>{label}</Form.Label>
      <Form.Select
        {...register(name, { onChange: (event) => onChoose?.(String(event.target.value)) })}
      >
        <option value="">{say`not yet chosen`}</option>
        {options.map((option) => (
          <option key={option.name}>{option.name}</option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  return (
    <Modal
      show
      onHide={onCancel}
      centered
      size="xl"
      backdrop="static"
      dialogClassName="new-job"
      aria-labelledby="new-job-heading"
    >
      <Form onSubmit={begin} noValidate>
        <Modal.Body>
          <section aria-label={say`Files`}>
            <h2 id="new-job-heading">{each ? say`${taken.length} new jobs` : say`A new job`}</h2>
            <ul className="taken-pictures">
              {refused.map((one, i) => (
                <RefusedFile key={i} refused={one} />
              ))}
              {judged.map(({ one, verdict }) => (
                <TakenPicture
                  key={one.digest}
                  taken={one}
                  page={pages[one.digest] ?? 1}
                  onPage={(page) => setPages((all) => ({ ...all, [one.digest]: page }))}
                  ordered={verdict}
                />
              ))}
            </ul>
          </section>
          <section aria-label={say`Order`}>
            {taken.length > 1 && (
              <Choices
                name="together"
                label={say`Jobs for these pictures`}
                value={together}
                onChange={(value) => setTogether(value)}
                options={[
                  { value: 'each', label: say`A job each` },
                  { value: 'all', label: say`One job for all` },
                ]}
              />
            )}
            {!each && field('title', say`Job`, { autoFocus: true })}
            <Row>
              <Col xs={7}>{field('customer', say`Customer`)}</Col>
              <Col xs={5}>{field('due', say`Due`, { type: 'date' })}</Col>
            </Row>
            <Row>
              <Col xs={7}>
                {field('size', say`Print size`, {
                  placeholder: say`120 cm, 90x60 cm, A1`,
                  autoFocus: each,
                })}
              </Col>
              <Col xs={5}>{field('distance', say`Seen from, m`)}</Col>
            </Row>
            <Row>
              <Col>{choice('device', say`Printed with`, lists.devices ?? [])}</Col>
              <Col>
                {choice('material', say`Printed on`, lists.materials ?? [], (chosen) => {
                  const material = lists.materials.find((one) => one.name === chosen);
                  if (material) setValue('distance', String(material.distance));
                })}
              </Col>
            </Row>
            <OrderVerdict verdicts={judged.map(({ verdict }) => verdict)} />
          </section>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onCancel}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={busy}>
            {each ? say`Onto the board` : say`To the bench`}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
