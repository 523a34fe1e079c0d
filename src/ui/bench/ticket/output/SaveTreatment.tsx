import { Button } from 'react-bootstrap';
import { alone, fileOf, forOtherPictures, type TreatmentFile } from '@/core/recipe/treatment-file';
import { api, gzipped } from '../../../data/api';
import { tell } from '../../../data/notices';
import { downloadText } from '../../../parts/download';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Saves the trial's steps as a file: with all that was painted, or as it serves other pictures. */
export function SaveTreatment({ bench }: { bench: WorkBench }) {
  const { trial, work, job } = bench;
  const carried = alone(trial.treatment).length;
  const save = async (make: () => Promise<TreatmentFile> | TreatmentFile) => {
    try {
      const text = JSON.stringify(await make(), null, 1);
      downloadText(`${job.number}-treatment.json`, text);
    } catch (error) {
      tell(error instanceof Error ? error.message : say`The file could not be made.`, 'trouble');
    }
  };
  return (
    <Fold title={say`Save settings`} line={say`${carried} steps`}>
      <p className="soft mb-0">
        {say`The steps alone, as JSON, for the terminal:`} <code>{say`--treatment`}</code>.
        {carried < trial.treatment.length &&
          say` What is taken from another trial stays behind; save that one as well.`}
      </p>
      <div className="d-flex gap-2">
        <Button
          size="sm"
          variant="outline-primary"
          onClick={() =>
            void save(() =>
              fileOf(trial, work.zones, async (painted) => gzipped(await api.mask(painted))),
            )
          }
        >
          {say`For this picture`}
        </Button>
        <Button
          size="sm"
          variant="outline-primary"
          title={say`Without spots and without what was painted`}
          onClick={() => void save(() => forOtherPictures(trial, work.zones))}
        >
          {say`For others`}
        </Button>
      </div>
    </Fold>
  );
}
