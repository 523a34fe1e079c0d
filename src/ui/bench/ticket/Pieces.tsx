import { Plus } from 'lucide-react';
import { useRef } from 'react';
import type { JobView, NewPicture, TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../../data/api';
import { useAddPieces, usePieceChoice } from '../../data/queries';
import { useIntake, type Sending } from '../../intake/use-intake';

/** Takes more pictures in for a job: chosen, dropped or pasted. */
export function useMorePictures(job: JobView) {
  const add = useAddPieces(job.id);
  return useIntake((taken: TakenIn[]) =>
    add.mutate(taken.map(({ digest, fileName }): NewPicture => ({ digest, fileName, page: 1 }))),
  );
}

interface Props {
  job: JobView;
  sending: Sending | null;
  onFiles(files: readonly File[]): void;
}

/** The job's pictures, one of them on the bench; and a way to add more. */
export function Pieces({ job, sending, onFiles }: Props) {
  const choose = usePieceChoice(job.id);
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="pieces" role="group" aria-label="Pictures of this job">
      {job.pieces.length > 1 &&
        job.pieces.map((piece) => (
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
      <button
        type="button"
        className="add"
        aria-label="Add pictures to this job"
        title="Add pictures to this job"
        disabled={sending !== null}
        onClick={() => input.current?.click()}
      >
        {sending ? (
          <span className="figure">{Math.round(sending.share * 100)}%</span>
        ) : (
          <Plus size={15} />
        )}
      </button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="More pictures"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
    </div>
  );
}
