import { format } from 'date-fns';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { formatOf } from '@/core/output/formats';
import { PROOF_TRIALS, ProofFormat, type ProofOn } from '@/core/shop/proof';
import { SHEET_MOST } from '@/core/shop/sheet';
import type { ProofTask } from '@/core/shop/task';
import { useDevices } from '../../../data/devices';
import { useRequestProof } from '../../../data/queries';
import { Choices } from '../../../parts/Choices';
import { Fold } from '../../../parts/Fold';
import { useOnPaper } from '../../stage/on-paper';
import { useStops } from '../../stage/stops/stop-store';
import type { WorkBench } from '../../use-work';
import { DownloadLink } from './DownloadLink';
import { OnItsWay } from './OnItsWay';
import { SendForm } from './SendForm';
import { say } from '@/core/words/say';

const SHEETS: { value: ProofOn['kind'] | 'A3'; label: string }[] = [
  { value: 'sheet', label: 'A4' },
  { value: 'A3', label: 'A3' },
  { value: 'strip', label: say`Strip of a roll` },
];
const FORMATS = ProofFormat.options.map((value) => ({ value, label: formatOf(value).name }));
/** Where no roll is connected a strip is so wide, in millimetres. */
const USUAL_STRIP = 1000;

/** A proof: chosen places of chosen trials at the size of the print, to be printed before all of it is. */
export function ProofFold({ bench }: { bench: WorkBench }) {
  const { proofs } = bench.job;
  const [newest] = proofs;
  const done = proofs.filter(({ state }) => state === 'done').length;
  return (
    <Fold
      title={say`Proof strip`}
      line={done > 0 ? say`${done} made` : say`not made`}
      onOpen={() => useStops.setState({ wanted: true })}
    >
      {newest && <Proof proof={newest} bench={bench} />}
      <Asking bench={bench} />
    </Fold>
  );
}

function Proof({ proof, bench }: { proof: ProofTask; bench: WorkBench }) {
  const [file] = proof.artifacts;
  return (
    <div className="run" data-state={proof.state}>
      <div className="top">
        <b>{proof.payload.words.trials.map(({ name }) => name).join(', ')}</b>
        <span className="figure">{format(proof.finishedAt ?? proof.queuedAt, 'd MMM HH:mm')}</span>
      </div>
      <OnItsWay task={proof} label={say`Progress of the proof`} />
      {proof.error && <p className="field-trouble">{proof.error}</p>}
      {file && file.goneAt === null && (
        <>
          <DownloadLink task={proof.id} file={file} />
          <SendForm bench={bench} task={proof} again={false} onSent={() => {}} />
        </>
      )}
    </div>
  );
}

function Asking({ bench }: { bench: WorkBench }) {
  const { job, work, trial } = bench;
  const { list, looking } = useStops();
  const onPaper = useOnPaper(bench);
  const { data: devices = [] } = useDevices();
  const [sheet, setSheet] = useState<(typeof SHEETS)[number]['value']>('sheet');
  const [file, setFile] = useState<ProofFormat>('pdf');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [others, setOthers] = useState<ReadonlySet<string>>(new Set());
  const request = useRequestProof(job.piece.id);
  const stops = list.filter(({ key }) => !left.has(key)).slice(0, SHEET_MOST.stops);
  const trials = work.trials.filter(({ id }) => id === trial.id || others.has(id));
  const roll = devices.find(({ description }) => description?.kind === 'roll')?.description;
  const material = roll?.materials.find(
    ({ name }) => name === (work.material ?? roll.loaded.material),
  );
  const width = material && roll ? material.width - 2 * roll.margins.side : USUAL_STRIP;
  const on: ProofOn =
    sheet === 'strip'
      ? { kind: 'strip', width }
      : { kind: 'sheet', paper: sheet === 'A3' ? 'A3' : 'A4' };
  const ask = () => {
    if (!onPaper) return;
    request.mutate({
      ...{ revision: job.piece.revision, on, format: file },
      stops: stops.map(({ title, words, x, y }) => ({ title, words, ...onPaper.toPaper(x, y) })),
      trials: trials.slice(0, PROOF_TRIALS).map(({ id }) => id),
    });
  };
  return (
    <div className="proof-asking">
      <Choices<(typeof SHEETS)[number]['value']>
        name="proof-sheet"
        label={say`Printed on`}
        value={sheet}
        options={SHEETS}
        onChange={setSheet}
      />
      {sheet === 'strip' && (
        <p className="reason">
          {material
            ? say`${material.name}: ${width / 10} cm of it can be printed.`
            : say`${width / 10} cm wide.`}
        </p>
      )}
      <Choices<ProofFormat>
        name="proof-format"
        label={say`As`}
        value={file}
        options={FORMATS}
        onChange={setFile}
      />
      {work.trials.length > 1 && (
        <Boxes
          legend="Trials"
          all={work.trials.map(({ id, name }) => ({ key: id, title: name, words: '' }))}
          on={(key) => key === trial.id || others.has(key)}
          fixed={trial.id}
          onToggle={(key) => setOthers(toggled(key))}
        />
      )}
      <Boxes
        legend="Places"
        all={list}
        on={(key) => !left.has(key)}
        onToggle={(key) => setLeft(toggled(key))}
      />
      {list.length === 0 && (
        <p className="soft mb-0">
          {looking === 'on'
            ? say`Places are looked for …`
            : say`There is no place yet: M marks one.`}
        </p>
      )}
      <Button
        variant="outline-primary"
        size="sm"
        disabled={stops.length === 0 || request.isPending || bench.saving}
        onClick={ask}
      >
        {say`Make a proof`}
      </Button>
    </div>
  );
}

/** The same set with one more, or one less. */
const toggled = (key: string) => (now: ReadonlySet<string>) => {
  const next = new Set(now);
  if (!next.delete(key)) next.add(key);
  return next;
};

interface BoxesProps {
  legend: string;
  all: readonly { key: string; title: string; words: string }[];
  on(key: string): boolean;
  /** one that is always among them */
  fixed?: string;
  onToggle(key: string): void;
}

const Boxes = ({ legend, all, on, fixed, onToggle }: BoxesProps) => (
  <fieldset>
    <legend className="field-label">{legend}</legend>
    {all.map(({ key, title, words }) => (
      <label key={key}>
        <input
          type="checkbox"
          checked={on(key)}
          disabled={key === fixed}
          onChange={() => onToggle(key)}
        />
        {title} <span className="soft">{words}</span>
      </label>
    ))}
  </fieldset>
);
