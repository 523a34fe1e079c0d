import { formatISO } from 'date-fns';
import { useEffect, useId, useState } from 'react';
import { Button } from 'react-bootstrap';
import { resultName } from '@/core/shop/result-name';
import { useSettings } from '../../../data/settings';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What the result will be called: by the shop's pattern until somebody writes another name. */
export function FileNameField({ bench }: { bench: WorkBench }) {
  const { job, work, trial, change } = bench;
  const { data: settings } = useSettings();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  useEffect(() => setTyped(null), [trial.fileName, trial.id]);
  if (!settings) return null;
  const date = formatISO(new Date(), { representation: 'date' });
  const named = resultName({ job, file: job.piece.fileName, work, trial, date }, settings);
  const set = (fileName: string | null) =>
    change(
      fileName ? say`File name ${fileName}` : say`File name by the shop’s pattern`,
      (_, on) => {
        on.fileName = fileName;
      },
    );
  const enter = () => {
    const text = typed?.trim();
    setTyped(null);
    if (text && text !== named) set(text.slice(0, 120));
  };
  return (
    <div>
      <label className="field-label" htmlFor={id}>
        {say`File name`}
      </label>
      <div className="d-flex gap-2">
        <input
          id={id}
          className="form-control form-control-sm figure"
          value={typed ?? named}
          maxLength={120}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          onBlur={enter}
          onKeyDown={(event) => {
            if (event.key === 'Enter') enter();
            if (event.key === 'Escape') setTyped(null);
          }}
        />
        {trial.fileName && (
          <Button variant="quiet" size="sm" onClick={() => set(null)}>
            {say`By pattern`}
          </Button>
        )}
      </div>
    </div>
  );
}
