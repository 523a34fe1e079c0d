import { useRef } from 'react';
import { useBring } from '../../../../data/comparing';
import { FileInput } from '../../../../parts/FileInput';
import { useChosen } from '../../../trial-store';
import type { WorkBench } from '../../../use-work';
import { useProof } from '../../proofing';
import { inkBeside, RESULT_INK, type Ink } from './inks';
import { useFiles } from './files';
import { keyOf, subjectsBeside, type Subject } from './subject';
import type { Compared } from './use-compared';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  compared: Compared;
  /** over which pane: the result's, or which of those beside it */
  of: 'result' | number;
  at: 'left' | 'right';
  /** what is said before its name */
  before?: string;
}

/** What a pane is, how it was made, and its resolution; beside the result it is also where one chooses. */
export function PaneCaption({ bench, compared, of, at, before }: Props) {
  const side = of === 'result' ? compared.after : compared.beside[of]!;
  const { name, made, figure } = side.caption;
  const ink = of === 'result' ? RESULT_INK : inkBeside(compared.subjects[of]!, of);
  return (
    <div className={`caption ${at}`}>
      {before}
      <i className="ink" style={{ borderTop: line(ink) }} aria-hidden />
      {of === 'result' ? <b>{name}</b> : <Choice {...{ bench, compared }} pane={of} />}
      {made}
      <span className="figure">{figure}</span>
    </div>
  );
}

const line = ({ colour, dash }: Ink): string =>
  `3px ${dash.length > 0 ? 'dashed' : 'solid'} ${colour}`;

/** The choice that asks for a file. */
const BRING = 'bring';

interface ChoiceProps extends Pick<Props, 'bench' | 'compared'> {
  pane: number;
}

function Choice({ bench, compared: { subjects }, pane }: ChoiceProps) {
  const { work, trial } = bench;
  const proofing = useProof(bench) !== null;
  const offered = subjectsBeside(work, trial, useFiles(bench), proofing);
  const bring = useBring(bench.job.piece.id);
  const input = useRef<HTMLInputElement>(null);
  const choose = (key: string) => {
    if (key === BRING) input.current?.click();
    const chosen = offered.find(({ subject }) => keyOf(subject) === key);
    if (chosen) show(chosen.subject);
  };
  const show = (subject: Subject) => {
    // What the other panes show stays; those that are not seen now keep what was chosen for them.
    useChosen.setState(({ beside }) => ({
      beside: Array.from({ length: Math.max(subjects.length, beside.length) }, (_, i) =>
        i === pane ? subject : (subjects[i] ?? beside[i]!),
      ),
    }));
  };
  return (
    <>
      <select
        className="caption-choice"
        aria-label={pane === 0 ? say`Compared with` : say`Compared with, pane ${pane + 1}`}
        value={keyOf(subjects[pane]!)}
        onChange={(event) => choose(event.target.value)}
      >
        {offered.map(({ subject, name }) => (
          <option key={keyOf(subject)} value={keyOf(subject)}>
            {name}
          </option>
        ))}
        {!bench.inside && <option value={BRING}>{say`Bring a picture …`}</option>}
      </select>
      <FileInput
        input={input}
        label={say`A picture to compare with`}
        onChoose={(file) => bring(file, ({ digest }) => show({ of: 'file', digest }))}
      />
    </>
  );
}
