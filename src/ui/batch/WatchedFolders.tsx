import type { WatchedFolder } from '@/core/shop/folders';
import { useFolders } from '../data/batches';
import { say } from '@/core/words/say';

/** Folders that the server watches: what is put there becomes a job by itself. */
export function WatchedFolders() {
  const { data: folders, error } = useFolders();
  if (error) return <p className="trouble">{error.message}</p>;
  if (!folders || folders.watched.length === 0) return null;
  return (
    <ul className="watched-folders" aria-label={say`Watched folders`}>
      {folders.watched.map((folder) => (
        <li key={folder.name}>
          <b>{folder.name}</b>
          <span className="soft">{say`a watched folder`}</span>
          <span className="figure">{countWords(folder)}</span>
          {folder.trouble && <span className="trouble">{folder.trouble}</span>}
        </li>
      ))}
    </ul>
  );
}

const countWords = ({ takenIn, putAside, lookedAt }: WatchedFolder): string =>
  lookedAt === null
    ? say`not looked at yet`
    : [say`${takenIn} taken in`, ...(putAside > 0 ? [say`${putAside} put aside`] : [])].join(' · ');
