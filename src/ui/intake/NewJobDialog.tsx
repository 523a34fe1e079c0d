import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Button, Col, Form, Modal, Row } from 'react-bootstrap';
import { z } from 'zod';
import { OPEN_PAPER } from '@/core/measure/paper';
import { parseLength } from '@/core/measure/units';
import type { NewJob, NewPicture, TakenIn } from '@/core/shop/job';
import { useLists } from '../data/queries';
import { Choices } from '../parts/Choices';
import { TakenPicture } from './TakenPicture';

const side = z
  .string()
  .trim()
  .refine((text) => text === '' || parseLength(text, 'cm') !== null, 'A length such as 120 cm.');

const Fields = z.object({
  title: z.string().trim().min(1, 'The job needs a name.').max(120, 'At most 120 letters.'),
  customer: z.string().trim().max(120, 'At most 120 letters.'),
  due: z.union([z.literal(''), z.iso.date('A date, or nothing.')]),
  width: side,
  height: side,
  distance: z.string().refine((text) => {
    const metres = Number(text.replace(',', '.'));
    return metres >= 0.1 && metres <= 200;
  }, 'Metres, 0.1 to 200.'),
  device: z.string(),
  material: z.string(),
});
type Fields = z.infer<typeof Fields>;

interface Props {
  taken: TakenIn[];
  busy: boolean;
  onBegin(jobs: NewJob[]): void;
  onCancel(): void;
}

const titleOf = (fileName: string): string =>
  fileName
    .replace(/\.\w{1,5}$/, '')
    .replace(/[-_]+/g, ' ')
    .slice(0, 120);

/** Asks for what the order says about pictures that were taken in; nothing but a name is needed. */
export function NewJobDialog({ taken, busy, onBegin, onCancel }: Props) {
  const { data: lists } = useLists();
  const [together, setTogether] = useState<'each' | 'all'>('each');
  const [pages, setPages] = useState<Record<string, number>>({});
  const each = taken.length > 1 && together === 'each';
  const { register, handleSubmit, formState, setValue } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: {
      title: titleOf(taken[0]!.fileName),
      customer: '',
      due: '',
      width: '',
      height: '',
      distance: '2',
      device: '',
      material: '',
    },
  });
  const begin = handleSubmit((fields) => {
    const pictures = taken.map(({ digest, fileName }): NewPicture => ({
      digest,
      fileName,
      page: pages[digest] ?? 1,
    }));
    const job = (title: string, its: NewPicture[]): NewJob => ({
      title,
      customer: fields.customer,
      due: fields.due || null,
      pictures: its,
      paper: {
        ...OPEN_PAPER,
        width: parseLength(fields.width, 'cm'),
        height: parseLength(fields.height, 'cm'),
      },
      distance: Number(fields.distance.replace(',', '.')),
      device: fields.device || null,
      material: fields.material || null,
    });
    onBegin(
      each
        ? pictures.map((picture) => job(titleOf(picture.fileName), [picture]))
        : [job(fields.title, pictures)],
    );
  });
  const field = (name: keyof Fields, label: string, extra: object = {}) => {
    const wrong = formState.errors[name]?.message;
    return (
      <Form.Group controlId={`new-job-${name}`} className="mb-3">
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
    <Form.Group controlId={`new-job-${name}`} className="mb-3">
      <Form.Label>{label}</Form.Label>
      <Form.Select
        {...register(name, { onChange: (event) => onChoose?.(String(event.target.value)) })}
      >
        <option value="">not yet chosen</option>
        {options.map((option) => (
          <option key={option.name}>{option.name}</option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  return (
    <Modal show onHide={onCancel} centered backdrop="static" aria-labelledby="new-job-heading">
      <Form onSubmit={begin} noValidate>
        <Modal.Body>
          <h2 className="fs-5 mb-2" id="new-job-heading">
            {each ? `${taken.length} new jobs` : 'A new job'}
          </h2>
          <div className="taken-pictures">
            {taken.map((one) => (
              <TakenPicture
                key={one.digest}
                taken={one}
                page={pages[one.digest] ?? 1}
                onPage={(page) => setPages((all) => ({ ...all, [one.digest]: page }))}
              />
            ))}
          </div>
          {taken.length > 1 && (
            <div className="mb-3">
              <Choices
                name="together"
                label="Jobs for these pictures"
                value={together}
                onChange={(value) => setTogether(value)}
                options={[
                  { value: 'each', label: 'A job each' },
                  { value: 'all', label: 'One job for all' },
                ]}
              />
            </div>
          )}
          {!each && field('title', 'Job', { autoFocus: true })}
          <Row>
            <Col xs={8}>{field('customer', 'Customer')}</Col>
            <Col xs={4}>{field('due', 'Due', { type: 'date' })}</Col>
          </Row>
          <Row>
            <Col>{field('width', 'Print width', { placeholder: 'e.g. 120 cm' })}</Col>
            <Col>{field('height', 'Print height', { placeholder: 'follows' })}</Col>
            <Col>{field('distance', 'Seen from, m')}</Col>
          </Row>
          <Row>
            <Col>{choice('device', 'Printed with', lists?.devices ?? [])}</Col>
            <Col>
              {choice('material', 'Printed on', lists?.materials ?? [], (chosen) => {
                const material = lists?.materials.find((one) => one.name === chosen);
                if (material) setValue('distance', String(material.distance));
              })}
            </Col>
          </Row>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onCancel}>
            Not now
          </Button>
          <Button type="submit" disabled={busy}>
            {each ? 'Onto the board' : 'To the bench'}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
