import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { Button, Col, Form, Modal, Row } from 'react-bootstrap';
import { z } from 'zod';
import { blockingWord, compressionWords } from '@/core/inspect/findings';
import { formatBytes } from '@/core/measure/format';
import { parseLength } from '@/core/measure/units';
import type { NewJob, TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../data/api';

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
});
type Fields = z.infer<typeof Fields>;

interface Props {
  taken: TakenIn;
  busy: boolean;
  onBegin(job: NewJob): void;
  onCancel(): void;
}

/** Asks for what the order says about a picture that was taken in; nothing but a name is needed. */
export function NewJobDialog({ taken, busy, onBegin, onCancel }: Props) {
  const { findings } = taken;
  const { register, handleSubmit, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: {
      title: taken.fileName
        .replace(/\.\w{1,5}$/, '')
        .replace(/[-_]+/g, ' ')
        .slice(0, 120),
      customer: '',
      due: '',
      width: '',
      height: '',
      distance: '2',
    },
  });
  const begin = handleSubmit((fields) =>
    onBegin({
      title: fields.title,
      customer: fields.customer,
      due: fields.due || null,
      digest: taken.digest,
      fileName: taken.fileName,
      paper: {
        width: parseLength(fields.width, 'cm'),
        height: parseLength(fields.height, 'cm'),
        fit: 'crop',
      },
      distance: Number(fields.distance.replace(',', '.')),
    }),
  );
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
  return (
    <Modal show onHide={onCancel} centered backdrop="static" aria-labelledby="new-job-heading">
      <Form onSubmit={begin} noValidate>
        <Modal.Body>
          <div className="d-flex gap-3 mb-3">
            <img
              src={thumbnailOf(taken.digest)}
              alt=""
              style={{ width: 116, height: 78, objectFit: 'contain', background: '#e9ebe9' }}
            />
            <div>
              <h2 className="fs-5 mb-1" id="new-job-heading">
                A new job
              </h2>
              <p className="soft mb-1">{taken.fileName}</p>
              <p className="figure mb-0">
                {findings.width} × {findings.height} · {compressionWords(findings)} ·{' '}
                {blockingWord(findings)} · {formatBytes(findings.bytes)}
              </p>
              {taken.known && (
                <p className="soft mb-0">This very file was taken in before; it is stored once.</p>
              )}
            </div>
          </div>
          {field('title', 'Job', { autoFocus: true })}
          <Row>
            <Col xs={8}>{field('customer', 'Customer')}</Col>
            <Col xs={4}>{field('due', 'Due', { type: 'date' })}</Col>
          </Row>
          <Row>
            <Col>{field('width', 'Print width', { placeholder: 'e.g. 120 cm' })}</Col>
            <Col>{field('height', 'Print height', { placeholder: 'follows' })}</Col>
            <Col>{field('distance', 'Seen from, m')}</Col>
          </Row>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onCancel}>
            Not now
          </Button>
          <Button type="submit" disabled={busy}>
            To the bench
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
