import { format } from 'date-fns';
import { Check, Download } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { formatBytes, formatNumber, formatSeconds } from '@/core/measure/format';
import { Format, formatOf, formatRefusal } from '@/core/output/formats';
import { MM_PER_INCH } from '@/core/measure/units';
import { artifactOf, isOpen, type Artifact, type Run } from '@/core/shop/task';
import { inFormat, outputWords, type Output } from '@/core/output/output';
import { artifactAddress } from '../../data/api';
import { useCancelTask, useThroughput } from '../../data/queries';
import { Choices } from '../../parts/Choices';
import { Slider } from '../../parts/Slider';
import { timeLeft } from '../../parts/time-left';
import { slides, type WorkBench } from '../use-work';
import { SaveTreatment } from './SaveTreatment';
import { Section } from './Section';
import { SweepLine } from './SweepLine';
import { Progress } from '../../parts/Progress';

const FORMATS = Format.options.map((value) => ({ value, label: formatOf(value).name }));
const WORDS: Record<Run['state'], string> = {
  queued: 'waiting',
  running: 'running',
  done: 'ready',
  failed: 'failed',
  cancelled: 'cancelled',
};

export function OutputSection({ bench }: { bench: WorkBench }) {
  const { trial, change, job } = bench;
  const { format, quality, depth } = trial.output;
  const put = (output: Partial<Output>) => (_: WorkBench['work'], on: WorkBench['trial']) =>
    void Object.assign(on.output, output);
  const [newest] = job.runs;
  const { resolved } = bench;
  const refused =
    resolved.ok && formatRefusal(format, resolved.recipe.target, resolved.plan.ppiAfter);
  const known = formatOf(format);
  return (
    <Section
      name="output"
      title="Output"
      line={`${outputWords(trial.output)} · ${newest ? WORDS[newest.state] : 'not run'}`}
    >
      <Choices
        name="format"
        label="File format"
        value={format}
        options={FORMATS}
        onChange={(value) => change(formatOf(value).name, put(inFormat(trial.output, value)))}
      />
      <p className="reason">{known.blurb}</p>
      {refused && <p className="caution mb-0">{refused}</p>}
      {known.quality ? (
        <Slider
          label="Quality"
          value={quality}
          {...known.quality}
          step={1}
          unit=""
          {...slides(
            bench,
            (value) => put({ quality: value }),
            (value) => `${known.name} quality ${value}`,
          )}
        />
      ) : (
        <Choices
          name="depth"
          label="Bits a sample"
          value={String(depth) as '8' | '16'}
          options={[
            { value: '8', label: '8 bit' },
            { value: '16', label: '16 bit' },
          ]}
          onChange={(value) => change(`${value} bit`, put({ depth: value === '8' ? 8 : 16 }))}
        />
      )}
      {job.piece.findings.alpha && (
        <>
          {known.alpha && (
            <Choices
              name="alpha"
              label="Transparent parts"
              value={trial.output.alpha}
              options={[
                { value: 'keep', label: 'Stay transparent' },
                { value: 'paper', label: 'On the paper’s colour' },
              ]}
              onChange={(value) =>
                change(
                  value === 'keep' ? 'Transparency kept' : 'Laid on the paper’s colour',
                  put({ alpha: value }),
                )
              }
            />
          )}
          <p className="reason">
            {!known.alpha
              ? `A ${known.name} holds no transparency: it is laid on the paper’s colour, ${bench.work.paper.colour}.`
              : trial.output.alpha === 'keep'
                ? 'The file keeps what is transparent.'
                : `What is transparent becomes the paper’s colour, ${bench.work.paper.colour}.`}
          </p>
        </>
      )}
      <SweepLine bench={bench} />
      <SaveTreatment bench={bench} />
      {job.runs.map((run) => (
        <RunEntry key={run.id} run={run} />
      ))}
      {job.runs.length === 0 && (
        <p className="soft mb-0">
          No run yet. The button below starts one; the bench stays usable.
        </p>
      )}
    </Section>
  );
}

function RunEntry({ run }: { run: Run }) {
  const cancel = useCancelTask();
  const { data: throughput } = useThroughput();
  const file = artifactOf(run, 'result');
  const open = isOpen(run);
  return (
    <div className="run" data-state={run.state}>
      <div className="top">
        <span>
          <b>{run.payload.trialName}</b>{' '}
          <span className={run.state === 'failed' ? 'trouble' : 'soft'}>{WORDS[run.state]}</span>
        </span>
        <span className="figure">
          {run.state === 'running' &&
            `${Math.round(run.progress * 100)} % · ${timeLeft(run, throughput)}`}
          {run.result &&
            file &&
            `${formatBytes(file.bytes)} · ${formatSeconds(run.result.seconds)}`}
        </span>
      </div>
      {open && (
        <div className="d-flex gap-2 align-items-center">
          <Progress className="flex-grow-1" share={run.progress} label="Progress of the run" />
          <Button
            variant="quiet"
            size="sm"
            disabled={cancel.isPending}
            onClick={() => cancel.mutate(run.id)}
          >
            Cancel
          </Button>
        </div>
      )}
      {run.error && <p className="field-trouble">{run.error}</p>}
      {run.result && file && <ReadBack run={run} file={file} />}
    </div>
  );
}

/** What the written file says of itself, read back after it was written. */
function ReadBack({ run, file }: { run: Run; file: Artifact }) {
  const result = run.result!;
  const cm = (pixels: number, ppi: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 2);
  return (
    <>
      <ul className="checks" aria-label="Read back from the file">
        {[
          `${result.width} × ${result.height} pixels`,
          `${formatNumber(result.ppi.x)} ppi: prints at ${cm(result.width, result.ppi.x)} × ${cm(result.height, result.ppi.y)} cm`,
          result.profile ? `Profile ${result.profile}` : 'No profile, as the original',
        ].map((line) => (
          <li key={line}>
            <Check size={14} aria-hidden />
            {line}
          </li>
        ))}
      </ul>
      {file.goneAt !== null ? (
        <p className="soft mb-0">
          {file.fileName} was cleared away {format(file.goneAt, 'd MMM')} to make room. Run the
          trial again: it gives the same bytes.
        </p>
      ) : (
        <DownloadLink run={run} file={file} />
      )}
    </>
  );
}

const DownloadLink = ({ run, file }: { run: Run; file: Artifact }) => (
  <a
    className="btn btn-quiet btn-sm d-flex align-items-center gap-2"
    href={artifactAddress(run.id, 'result')}
    download
  >
    <Download size={14} aria-hidden />
    <span className="text-truncate" title={file.fileName}>
      {file.fileName}
    </span>
  </a>
);
