import { useState } from 'react';
import { ProgressBar } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import type { TakenIn } from '@/core/shop/job';
import { upload } from '../data/api';
import { tell } from '../data/notices';

interface Props {
  empty: boolean;
  onTaken(taken: TakenIn): void;
}

/** Where files are dropped; they are uploaded one after another, each with its progress. */
export function DropZone({ empty, onTaken }: Props) {
  const [sending, setSending] = useState<{ name: string; share: number } | null>(null);
  const take = async (files: readonly File[]) => {
    for (const file of files) {
      setSending({ name: file.name, share: 0 });
      try {
        onTaken(await upload(file, (share) => setSending({ name: file.name, share })));
      } catch (error) {
        tell(error instanceof Error ? error.message : String(error), 'trouble');
      }
    }
    setSending(null);
  };
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    onDrop: (files) => void take(files),
    disabled: sending !== null,
  });
  return (
    <div
      {...getRootProps({
        role: 'button',
        className: `drop-zone ${isDragActive ? 'over' : ''} ${empty ? 'empty' : ''}`,
        'aria-label': 'Drop pictures here, or press Enter to choose some',
      })}
    >
      <input {...getInputProps({ 'aria-label': 'Pictures' })} />
      {sending ? (
        <>
          <b>{sending.name}</b>
          <ProgressBar now={sending.share * 100} aria-label="Progress of the upload" />
          <span>
            {sending.share < 1 ? `${Math.round(sending.share * 100)} %` : 'looking at it …'}
          </span>
        </>
      ) : (
        <>
          <b>{empty ? 'Drop a customer’s picture here' : 'Drop pictures here to begin a job'}</b>
          <span>JPEG or PNG · or press to choose · the file itself is never changed</span>
        </>
      )}
    </div>
  );
}
