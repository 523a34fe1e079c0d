import { Form } from 'react-bootstrap';
import { formatOf } from '@/core/output/formats';
import { outputWords, panelsOf, spaceOf } from '@/core/output/output';
import { Choices } from '../../../parts/Choices';
import type { WorkBench } from '../../use-work';
import { Section } from '../Section';
import { FileFormat } from './FileFormat';
import { FileNameField } from './FileNameField';
import { JobRecord } from './JobRecord';
import { PageMarks } from './PageMarks';
import { PanelsFold } from './PanelsFold';
import { AnotherStage } from './AnotherStage';
import { Colours } from './Colours';
import { ProofFold } from './ProofFold';
import { put } from './put';
import { RunEntry, RUN_WORDS } from './RunEntry';
import { SaveTreatment } from './SaveTreatment';
import { Sendings } from './Sendings';
import { SignOff } from './SignOff';
import { SweepLine } from '../SweepLine';
import { say } from '@/core/words/say';

export function OutputSection({ bench }: { bench: WorkBench }) {
  const { trial, job } = bench;
  const [newest, ...earlier] = job.runs;
  return (
    <Section
      bench={bench}
      name="output"
      title={say`Output`}
      line={`${outputWords(trial.output)} · ${newest ? RUN_WORDS[newest.state] : say`not run`}`}
    >
      {newest && <RunEntry run={newest} />}
      {newest && !bench.inside && <SignOff bench={bench} />}
      {!bench.inside && <Sendings bench={bench} />}
      <FileFormat bench={bench} />
      {trial.output.format === 'pdf' && panelsOf(trial.output)?.as !== 'pages' && (
        <PageMarks bench={bench} />
      )}
      <PanelsFold bench={bench} />
      {job.piece.findings.alpha && <Transparency bench={bench} />}
      <Colours bench={bench} />
      {!bench.original.vector && <KeptExif bench={bench} />}
      <FileNameField bench={bench} />
      <SweepLine bench={bench} />
      {!bench.inside && <ProofFold bench={bench} />}
      {!bench.inside && <AnotherStage bench={bench} />}
      <SaveTreatment bench={bench} />
      {earlier.map((run) => (
        <RunEntry key={run.id} run={run} />
      ))}
      {job.runs.length === 0 && (
        <p className="soft mb-0">
          {say`No run yet. The button below starts one; the bench stays usable.`}
        </p>
      )}
      <JobRecord bench={bench} />
    </Section>
  );
}

/** What of the original's EXIF goes into the file. */
function KeptExif({ bench: { change, trial } }: { bench: WorkBench }) {
  const kept = trial.output.exif === 'keep';
  return (
    <Form.Check
      type="checkbox"
      id="output-exif"
      label={say`Keep camera, date, author and copyright`}
      title={say`The place where it was taken is never kept`}
      checked={kept}
      onChange={() =>
        change(kept ? say`EXIF dropped` : say`EXIF kept`, put({ exif: kept ? 'drop' : 'keep' }))
      }
    />
  );
}

function Transparency({ bench: { change, trial, work } }: { bench: WorkBench }) {
  const known = formatOf(trial.output.format);
  const { colour } = work.paper;
  const converted = spaceOf(trial.output) !== 'rgb';
  const holds = known.alpha && !converted;
  return (
    <>
      {holds && (
        <Choices
          name="alpha"
          label={say`Transparent parts`}
          value={trial.output.alpha}
          options={[
            { value: 'keep', label: say`Stay transparent` },
            { value: 'paper', label: say`On the paper’s colour` },
          ]}
          onChange={(value) =>
            change(
              value === 'keep' ? say`Transparency kept` : say`Laid on the paper’s colour`,
              put({ alpha: value }),
            )
          }
        />
      )}
      <p className="reason">
        {!holds
          ? say`${converted ? say`A print` : say`A ${known.name}`} holds no transparency: it is laid on the paper’s colour, ${colour}.`
          : trial.output.alpha === 'keep'
            ? say`The file keeps what is transparent.`
            : say`What is transparent becomes the paper’s colour, ${colour}.`}
      </p>
    </>
  );
}
