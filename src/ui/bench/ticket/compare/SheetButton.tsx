import { FileText } from 'lucide-react';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { SHEET_MOST, SheetPaper, type SheetRequest } from '@/core/shop/sheet';
import { artifactOf, type SheetTask } from '@/core/shop/task';
import { artifactAddress } from '../../../data/api';
import { useComparing, useRequestSheet } from '../../../data/comparing';
import { Choices } from '../../../parts/Choices';
import { useOnPaper } from '../../stage/on-paper';
import { useStops } from '../../stage/stops/stop-store';
import type { WorkBench } from '../../use-work';
import { useMeasuredTrials } from './use-measured-trials';
import { say } from '@/core/words/say';

/** Asks for a comparison sheet: chosen places, the original beside trials, for the customer or the file. */
export function SheetButton({ bench }: { bench: WorkBench }) {
  const [open, setOpen] = useState(false);
  const { sheets = [] } = useComparing(bench.job.piece.id).data ?? {};
  const [newest] = sheets;
  const last = sheets.find(({ state }) => state === 'done');
  const made = last && artifactOf(last, 'result');
  return (
    <div className="sheet-line">
      <Button variant="outline-primary" size="sm" onClick={() => setOpen(true)}>
        <FileText size={14} aria-hidden /> {say`Comparison sheet …`}
      </Button>
      {made && made.goneAt === null && (
        <a href={artifactAddress(last.id, 'result')} target="_blank" rel="noreferrer">
          {say`Open the last one`}
        </a>
      )}
      {newest && <Making sheet={newest} />}
      <Modal show={open} onHide={() => setOpen(false)} centered aria-labelledby="sheet-title">
        {open && <Asking bench={bench} onClose={() => setOpen(false)} />}
      </Modal>
    </div>
  );
}

function Making({ sheet: { state, error } }: { sheet: SheetTask }) {
  if (state === 'queued') return <span className="soft">{say`waits for its turn`}</span>;
  if (state === 'running') return <span className="soft">{say`is being made`}</span>;
  if (state === 'failed') return <span className="trouble">{say`was not made: ${error}`}</span>;
  return null;
}

function Asking({ bench, onClose }: { bench: WorkBench; onClose(): void }) {
  const { job, work } = bench;
  const list = useStops((stops) => stops.list);
  const onPaper = useOnPaper(bench);
  const measured = useMeasuredTrials(bench);
  const [paper, setPaper] = useState<SheetPaper>('A4');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const request = useRequestSheet(job.piece.id);
  const stops = list.filter(({ key }) => !left.has(key)).slice(0, SHEET_MOST.stops);
  const ask = () => {
    if (!onPaper) return;
    const asked: SheetRequest = {
      revision: job.piece.revision,
      paper,
      stops: stops.map(({ title, words, x, y }) => ({ title, words, ...onPaper.toPaper(x, y) })),
      trials: measured
        .slice(0, SHEET_MOST.trials)
        .map(({ trial, found }) => ({ id: trial.id, evidence: found })),
      original: measured[0]?.original ?? null,
    };
    request(asked, onClose);
  };
  const toggle = (key: string) =>
    setLeft((now) => {
      const next = new Set(now);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return (
    <Modal.Body className="sheet-asking">
      <h2 className="fs-6" id="sheet-title">
        {say`Comparison sheet`}
      </h2>
      <p className="soft mb-0">
        {say`The original beside ${measured.map(({ trial }) => trial.name).join(', ')}, at the print’s own scale, with figures and settings. A PDF.`}
      </p>
      <Choices<SheetPaper>
        name="sheet-paper"
        label={say`Paper`}
        value={paper}
        options={SheetPaper.options.map((value) => ({ value, label: value }))}
        onChange={setPaper}
      />
      <fieldset>
        <legend className="field-label">{say`Places`}</legend>
        {list.map(({ key, title, words }, i) => (
          <label key={key}>
            <input type="checkbox" checked={!left.has(key)} onChange={() => toggle(key)} />
            <b className="figure">{i + 1}</b> {title} <span className="soft">{words}</span>
          </label>
        ))}
      </fieldset>
      {list.length === 0 && <p className="soft mb-0">{say`There is no place yet: M marks one.`}</p>}
      {work.trials.length > SHEET_MOST.trials && (
        <p className="soft mb-0">
          {say`At most ${SHEET_MOST.trials} trials are on it: the one on the bench and those beside it.`}
        </p>
      )}
      <div className="d-flex gap-2 justify-content-end">
        <Button variant="quiet" onClick={onClose}>
          {say`Cancel`}
        </Button>
        <Button variant="primary" disabled={stops.length === 0} onClick={ask}>
          {say`Make it`}
        </Button>
      </div>
    </Modal.Body>
  );
}
