import { ImagePlus } from 'lucide-react';
import { useRef } from 'react';
import { Button } from 'react-bootstrap';
import type { JobView, NewPicture, TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../../data/api';
import { useAddPieces, usePieceChoice } from '../../data/queries';
import { useIntake, type Sending } from '../../intake/use-intake';
import { say } from '@/core/words/say';

/** Takes more pictures in for a job: chosen, dropped or pasted. */
export function useMorePictures(job: JobView) {
  const add = useAddPieces(job.id);
  return useIntake((taken: TakenIn[]) =>
    add.mutate(taken.map(({ digest, fileName }): NewPicture => ({ digest, fileName, page: 1 }))),
  );
}

/** The job's pictures, one of them on the bench. */
export function Pieces({ job }: { job: JobView }) {
  const choose = usePieceChoice(job.id);
  if (job.pieces.length < 2) return null;
  return (
    <div className="pieces" role="group" aria-label={say`Pictures of this job`}>
      {job.pieces.map((piece) => (
        <button
          key={piece.id}
          type="button"
          aria-current={piece.id === job.piece.id}
          aria-label={piece.fileName}
          title={piece.fileName}
          onClick={() => piece.id !== job.piece.id && choose.mutate(piece.id)}
        >
          <img src={thumbnailOf(piece.digest, piece.page)} alt="" />
        </button>
      ))}
    </div>
  );
}

interface Props {
  sending: Sending | null;
  onFiles(files: readonly File[]): void;
}

/** A way to add pictures to the job; they can also be dropped on the ticket, or pasted. */
export function AddPictures({ sending, onFiles }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        variant="quiet"
        size="sm"
        aria-label={say`Add pictures to this job`}
        title={say`Add pictures to this job: choose, drop here, or paste`}
        disabled={sending !== null}
        onClick={() => input.current?.click()}
      >
        {sending ? (
          <span className="figure">{Math.round(sending.share * 100)}%</span>
        ) : (
          <ImagePlus size={15} />
        )}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label={say`More pictures`}
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
    </>
  );
}
