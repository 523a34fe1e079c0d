import { useId, useState } from 'react';
import { Col, Form, Row } from 'react-bootstrap';
import type { HouseContent } from '@/core/house/house-recipe';
import { HouseName } from '@/core/house/house-version';
import { Kind } from '@/core/inspect/kind';
import { useLists } from '../data/queries';
import { say } from '@/core/words/say';

/** What is said of a recipe beside its steps. */
export type About = { name: string } & Pick<HouseContent, 'kind' | 'material' | 'note'>;

/** Fields for a recipe's name, what it is for, and a note. */
export function AboutRecipe({
  about,
  trouble,
  onChange,
}: {
  about: About;
  /** what is wrong with its name, besides that it may be missing */
  trouble: string | null;
  onChange(about: About): void;
}) {
  const { data: lists } = useLists();
  const id = useId();
  const named = HouseName.safeParse(about.name).success;
  const [left, setLeft] = useState(false);
  const wrong = named ? trouble : left ? say`It needs a name.` : null;
  return (
    <>
      <Form.Group controlId={`${id}-name`} className="order-field">
        <Form.Label>{say`Name`}</Form.Label>
        <Form.Control
          value={about.name}
          maxLength={60}
          autoComplete="off"
          isInvalid={wrong !== null}
          onBlur={() => setLeft(true)}
          onChange={(event) => onChange({ ...about, name: event.target.value })}
        />
        <Form.Control.Feedback type="invalid">{wrong}</Form.Control.Feedback>
      </Form.Group>
      <Row>
        <Col>
          <Form.Group controlId={`${id}-kind`} className="order-field">
            <Form.Label>{say`For`}</Form.Label>
            <Form.Select
              value={about.kind ?? ''}
              onChange={(event) =>
                onChange({ ...about, kind: Kind.nullable().catch(null).parse(event.target.value) })
              }
            >
              <option value="">{say`pictures of any kind`}</option>
              {Kind.options.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </Form.Select>
          </Form.Group>
        </Col>
        <Col>
          <Form.Group controlId={`${id}-material`} className="order-field">
            <Form.Label>{say`Printed on`}</Form.Label>
            <Form.Select
              value={about.material ?? ''}
              onChange={(event) => onChange({ ...about, material: event.target.value || null })}
            >
              <option value="">{say`anything`}</option>
              {lists?.materials.map(({ name }) => (
                <option key={name}>{name}</option>
              ))}
            </Form.Select>
          </Form.Group>
        </Col>
      </Row>
      <Form.Group controlId={`${id}-note`} className="order-field">
        <Form.Label>{say`Note`}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          maxLength={500}
          value={about.note}
          onChange={(event) => onChange({ ...about, note: event.target.value })}
        />
      </Form.Group>
    </>
  );
}
