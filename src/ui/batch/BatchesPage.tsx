'use client';

import { FolderOpen, Plus } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import type { BatchHead } from '@/core/batch/batch';
import { thumbnailOf } from '../data/api';
import { useBatches } from '../data/batches';
import { Progress } from '../parts/Progress';
import { NewBatch } from './NewBatch';
import { WatchedFolders } from './WatchedFolders';
import { OnTheirWayLine } from './OnTheirWayLine';
import { planWords, stateWords } from './words';
import { useFolderChoice } from './use-folder-choice';
import { say } from '@/core/words/say';

/** All batches; files and folders are dropped anywhere on it. */
export function BatchesPage() {
  const { data: batches, error } = useBatches();
  const [files, setFiles] = useState<File[] | null>(null);
  const take = (chosen: File[]) => chosen.length > 0 && setFiles(chosen);
  const drop = useDropzone({ onDrop: take, noClick: true, noKeyboard: true });
  const folder = useFolderChoice(take);
  return (
    <main {...drop.getRootProps({ className: 'board batches', tabIndex: -1, role: undefined })}>
      <input {...drop.getInputProps({ 'aria-label': say`Files` })} />
      {folder.input}
      <header>
        <h1>{say`Batches`}</h1>
        <div className="search">
          <Button variant="outline-primary" onClick={folder.open}>
            <FolderOpen size={15} aria-hidden /> {say`A folder`}
          </Button>
          <Button onClick={drop.open}>
            <Plus size={15} aria-hidden /> {say`New batch`}
          </Button>
        </div>
      </header>
      <OnTheirWayLine />
      {error && <p className="trouble">{error.message}</p>}
      {batches && batches.length > 0 && (
        <ul className="batch-list">
          {batches.map((batch) => (
            <li key={batch.id}>
              <Entry batch={batch} />
            </li>
          ))}
        </ul>
      )}
      <WatchedFolders />
      {batches?.length === 0 && (
        <div className="first-visit">
          <ol>
            <li>
              <p>{say`Drop many files or a folder here, or select jobs on the board.`}</p>
            </li>
            <li>
              <p>{say`Say once how large, how treated, and what file.`}</p>
            </li>
            <li>
              <p>{say`Look them through at 1:1, and fetch the print files.`}</p>
            </li>
          </ol>
          <Button onClick={drop.open}>{say`Choose files`}</Button>
        </div>
      )}
      {drop.isDragActive && (
        <div className="drop-over" aria-hidden>
          <b>{say`Drop files or a folder to begin a batch`}</b>
          <span>{say`Pictures, SVG and PDF · the files themselves are never changed`}</span>
        </div>
      )}
      {files && <NewBatch begun={{ files }} onClose={() => setFiles(null)} />}
    </main>
  );
}

function Entry({ batch }: { batch: BatchHead }) {
  const { id, name, pieces, pictures, states } = batch;
  const done = states.done ?? 0;
  return (
    <Link prefetch={false} href={`/batches/${id}`} className="batch-entry">
      <span className="pictures" aria-hidden>
        {pieces.map(({ digest, page }, i) => (
          <img key={i} src={thumbnailOf(digest, page)} alt="" />
        ))}
      </span>
      <span className="what">
        <b>{name}</b>
        <span className="soft">{planWords(batch.plan)}</span>
      </span>
      <span className="how-far">
        <Progress share={pictures > 0 ? done / pictures : 0} label={say`Made of ${name}`} />
        <span className="figure">{stateWords(batch)}</span>
      </span>
    </Link>
  );
}
