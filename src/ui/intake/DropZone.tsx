import { useDropzone } from 'react-dropzone';
import type { Sending } from './use-intake';
import { Progress } from '../parts/Progress';

interface Props {
  empty: boolean;
  sending: Sending | null;
  onFiles(files: readonly File[]): void;
}

/** Where files are dropped; it shows how far the one on its way is. */
export function DropZone({ empty, sending, onFiles }: Props) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: onFiles,
    disabled: sending !== null,
    noClick: true,
    noKeyboard: true,
  });
  return (
    <div
      {...getRootProps({
        role: 'group',
        className: `drop-zone ${isDragActive ? 'over' : ''} ${empty ? 'empty' : ''}`,
        'aria-label': 'Pictures on their way in',
      })}
    >
      <input {...getInputProps({ 'aria-label': 'Pictures' })} />
      {sending ? (
        <>
          <b>{sending.name}</b>
          <Progress share={sending.share} label="Progress of the upload" />
          <span>
            {sending.share < 1 ? `${Math.round(sending.share * 100)} %` : 'looking at it …'}
            {sending.of > 1 && ` · ${sending.number} of ${sending.of}`}
          </span>
        </>
      ) : (
        <button
          type="button"
          aria-label="Drop pictures here, or press Enter to choose some"
          onClick={open}
        >
          <b>{empty ? 'Drop a customer’s picture here' : 'Drop pictures here to begin a job'}</b>
          <span>
            or press to choose, or paste · pictures, SVG and PDF · the file itself is never changed
          </span>
        </button>
      )}
    </div>
  );
}
