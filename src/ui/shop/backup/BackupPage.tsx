'use client';

import { useBackups } from '../../data/shop';
import { FolderOfBackups } from './FolderOfBackups';
import { Works } from './Works';
import { say } from '@/core/words/say';

/** Archives of the whole shop: written while work goes on, compared with their own lists, and how one is restored. */
export function BackupPage() {
  const { data: backups, error } = useBackups();
  if (error) return <p className="trouble">{error.message}</p>;
  if (!backups) return null;
  const busy = backups.works.some(({ state }) => state === 'running');
  return (
    <div className="shop-parts backup">
      <div>
        {backups.folders.map((folder) => (
          <FolderOfBackups key={folder.name} folder={folder} busy={busy} />
        ))}
        {backups.folders.length === 0 && <NoFolder />}
      </div>
      <div>
        {backups.works.length > 0 && <Works works={backups.works} />}
        <Restoring />
      </div>
    </div>
  );
}

function NoFolder() {
  return (
    <section aria-labelledby="backup-none">
      <h2 id="backup-none">{say`No folder for backups yet`}</h2>
      <p>
        {say`Where the server may write is named in its configuration, never typed here. In folders.json of its data folder:`}
      </p>
      <pre className="figure">{`{ "backups": [{ "name": "Archive disk", "path": "/mnt/archive" }] }`}</pre>
    </section>
  );
}

function Restoring() {
  return (
    <section aria-labelledby="backup-restoring">
      <h2 id="backup-restoring">{say`Restoring`}</h2>
      <p>
        {say`A shop is restored into a new folder, in the terminal of its server, and nothing is written over:`}
      </p>
      <pre className="figure">{`npm run lontano -- restore ARCHIVE.zip NEW-FOLDER\nLONTANO_DATA=NEW-FOLDER npm start`}</pre>
      <p className="soft">
        {say`All of an archive is compared with its list before the folder takes its place. What was on its way to a device stands as failed then: look whether it was printed. Watched folders are not in it, so that a copy does not take what is meant for this shop.`}
      </p>
    </section>
  );
}
