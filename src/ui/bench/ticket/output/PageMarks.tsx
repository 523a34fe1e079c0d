import { Plus, X } from 'lucide-react';
import { Button, Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { typedMm } from '@/core/measure/typed';
import { FOLDS, hasMarks, type Fold as PaperFold, type Marks } from '@/core/output/marks';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { put } from './put';
import { say } from '@/core/words/say';

const KINDS: { key: 'crop' | 'registration' | 'slug'; label: string; word: string }[] = [
  { key: 'crop', label: say`Crop marks at the trim`, word: 'crop' },
  { key: 'registration', label: say`Registration marks, in every ink`, word: 'registration' },
  { key: 'slug', label: say`Slug line: job, trial, size, date`, word: 'slug' },
];

/** What the marks of a page come to, in a line. */
function marksLine(marks: Marks): string {
  const folds = marks.folds.length;
  const words = KINDS.filter(({ key }) => marks[key]).map(({ word }) => word);
  if (folds > 0) words.push(say`${folds} fold${folds === 1 ? '' : 's'}`);
  return hasMarks(marks) ? words.join(' · ') : 'none';
}

/** What a PDF shows about its picture, for those who cut and fold it. */
export function PageMarks({ bench }: { bench: WorkBench }) {
  const { change } = bench;
  const { marks } = bench.trial.output;
  const set = (label: string, next: Partial<Marks>) =>
    change(label, put({ marks: { ...marks, ...next } }));
  return (
    <Fold title={say`Marks about the print`} line={marksLine(marks)}>
      {KINDS.map(({ key, label, word }) => (
        <Form.Check
          key={key}
          type="checkbox"
          id={`marks-${key}`}
          label={label}
          checked={marks[key]}
          onChange={() =>
            set(marks[key] ? say`Marks: no ${word}` : say`Marks: ${word}`, { [key]: !marks[key] })
          }
        />
      ))}
      {marks.folds.map((fold, i) => (
        <FoldRow
          key={i}
          fold={fold}
          index={i}
          onChange={(next) =>
            set(say`Fold at ${formatNumber(next.mm)} mm`, {
              folds: marks.folds.map((one, k) => (k === i ? next : one)),
            })
          }
          onRemove={() => set(say`Fold removed`, { folds: marks.folds.filter((_, k) => k !== i) })}
        />
      ))}
      {marks.folds.length < FOLDS && (
        <Button
          variant="quiet"
          size="sm"
          className="align-self-start d-flex align-items-center gap-1"
          onClick={() =>
            set(say`Fold added`, { folds: [...marks.folds, { along: 'width', mm: 100 }] })
          }
        >
          <Plus size={14} aria-hidden /> {say`Fold`}
        </Button>
      )}
    </Fold>
  );
}

interface FoldProps {
  fold: PaperFold;
  index: number;
  onChange(fold: PaperFold): void;
  onRemove(): void;
}

function FoldRow({ fold, index, onChange, onRemove }: FoldProps) {
  return (
    <div className="fold-row">
      <Form.Select
        size="sm"
        aria-label={say`Fold ${index + 1}: from which edge`}
        value={fold.along}
        onChange={(event) =>
          onChange({ ...fold, along: event.target.value === 'width' ? 'width' : 'height' })
        }
      >
        <option value="width">{say`From the left`}</option>
        <option value="height">{say`From the top`}</option>
      </Form.Select>
      <FigureField
        label={say`Fold ${index + 1}`}
        hideLabel
        text={formatNumber(fold.mm)}
        unit="mm"
        read={(text) => typedMm(text, { least: 0.1, most: 100_000 })}
        onEnter={(mm) => onChange({ ...fold, mm })}
      />
      <Button
        variant="quiet"
        size="sm"
        aria-label={say`Remove fold ${index + 1}`}
        onClick={onRemove}
      >
        <X size={14} aria-hidden />
      </Button>
    </div>
  );
}
