import { ProgressBar } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import type { Sending } from './use-intake';

interface Props {
  empty: boolean;
  sending: Sending | null;
  onFiles(files: readonly File[]): void;
}

/** Where files are dropped; it shows how far the one on its way is. */
export function DropZone({ empty, sending, onFiles }: Props) {
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    onDrop: onFiles,
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
            {sending.of > 1 && ` · ${sending.number} of ${sending.of}`}
          </span>
        </>
      ) : (
        <>
          <b>{empty ? 'Drop a customer’s picture here' : 'Drop pictures here to begin a job'}</b>
          <span>
            or press to choose, or paste · pictures, SVG and PDF · the file itself is never changed
          </span>
        </>
      )}
    </div>
  );
}
