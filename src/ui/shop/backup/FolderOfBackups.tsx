import { format } from 'date-fns';
import { useId, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { formatBytes } from '@/core/measure/format';
import type { BackupFolder } from '@/core/shop/backups';
import { useBackupActs } from '../../data/shop';
import { say } from '@/core/words/say';

interface Props {
  folder: BackupFolder;
  /** whether one is written or compared just now */
  busy: boolean;
}

/** A folder of backups: what lies in it, and the way to one more. */
export function FolderOfBackups({ folder: { name, archives, trouble }, busy }: Props) {
  const { begin } = useBackupActs();
  const [allResults, setAllResults] = useState(false);
  const id = useId();
  const waits = busy || begin.isPending;
  return (
    <section aria-labelledby={id}>
      <h2 id={id}>{name}</h2>
      {trouble && <p className="trouble">{trouble}</p>}
      <div className="backup-begin">
        <Button
          variant="primary"
          disabled={waits}
          onClick={() => begin.mutate({ kind: 'write', folder: name, allResults })}
        >
          {say`Back up now`}
        </Button>
        <Form.Check
          id={`${id}-all`}
          label={say`with results that can be made again`}
          checked={allResults}
          onChange={({ target }) => setAllResults(target.checked)}
        />
      </div>
      <p className="soft">
        {say`Records as they are at one moment, originals, painted masks, profiles, words, and results that wait to be printed, with a digest of each. Work goes on meanwhile.`}
      </p>
      {archives.length === 0 ? (
        !trouble && <p>{say`No archive lies here yet.`}</p>
      ) : (
        <ul className="shop-list">
          {archives.map(({ file, bytes, at }) => (
            <li key={file}>
              <span className="archive">
                {file}
                <small className="soft">{format(at, 'EEE d MMM yyyy, HH:mm')}</small>
              </span>
              <span className="figure">{formatBytes(bytes)}</span>
              <Button
                variant="quiet"
                size="sm"
                disabled={waits}
                aria-label={say`Check ${file}`}
                onClick={() => begin.mutate({ kind: 'check', folder: name, file })}
              >
                {say`Check`}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
