import { useState } from 'react';
import { Button } from 'react-bootstrap';
import {
  NAME_PARTS,
  nameBy,
  NamePattern,
  USUAL_PATTERN,
  type NameParts,
} from '@/core/output/names';
import { useChangeSettings, useSettings } from '../data/queries';
import { say } from '@/core/words/say';

/** An order to show a pattern by. */
const EXAMPLE: NameParts = {
  ...{ job: '2026-014', customer: say`Colle Vespra Observatory`, title: say`Dome at dusk` },
  file: 'dome',
  ...{ size: '120x80cm', ppi: '160', trial: 'Trial A', date: '2026-11-29' },
};

/** How results are named, and what that comes to. */
export function FileNames() {
  const { data: settings } = useSettings();
  const change = useChangeSettings();
  const [typed, setTyped] = useState<string | null>(null);
  if (!settings) return null;
  const pattern = typed ?? settings.fileNames;
  const read = NamePattern.safeParse(pattern);
  const trouble = read.success ? change.error?.message : read.error.issues[0]!.message;
  const keep = (fileNames: string) =>
    change.mutate({ fileNames }, { onSuccess: () => setTyped(null) });
  return (
    <section aria-labelledby="shop-names">
      <h2 id="shop-names">{say`Names of files`}</h2>
      <div className="d-flex gap-2">
        <input
          className="form-control figure"
          aria-label={say`Pattern of file names`}
          aria-invalid={!read.success}
          value={pattern}
          maxLength={120}
          spellCheck={false}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && read.success) keep(read.data);
            if (event.key === 'Escape') setTyped(null);
          }}
        />
        <Button
          variant="outline-primary"
          disabled={!read.success || pattern === settings.fileNames || change.isPending}
          onClick={() => read.success && keep(read.data)}
        >
          {say`Keep`}
        </Button>
        {settings.fileNames !== USUAL_PATTERN && (
          <Button variant="quiet" onClick={() => keep(USUAL_PATTERN)}>
            {say`As usual`}
          </Button>
        )}
      </div>
      {trouble ? (
        <p className="field-trouble" role="alert">
          {trouble}
        </p>
      ) : (
        <p className="figure mt-2 mb-1">{nameBy(pattern, EXAMPLE, 'tif')}</p>
      )}
      <p className="soft">
        {say`Parts: ${NAME_PARTS.map((part) => `{${part}}`).join(' ')}. A name can be written by hand on the ticket; one that another result of the job has gets a number.`}
      </p>
    </section>
  );
}
