import { useEffect, useRef } from 'react';
import type { JobView } from '@/core/shop/job';
import { usePieceChoice } from '../data/queries';
import { useEntered } from './picture-store';
import { useChosen } from './trial-store';

/** Which picture of a job, and which of its trials, an address asks for. */
export interface Asked {
  piece?: number;
  trial?: string;
}

/**
 * Puts the picture on the bench that the address asks for, once; then the address is the job's alone.
 * @returns whether the picture that is there is one to be shown
 */
export function useAsked(job: JobView | undefined, { piece, trial }: Asked): boolean {
  const choose = usePieceChoice(job?.id ?? 0);
  const followed = useRef(piece === undefined);
  const { mutate } = choose;
  const there = job?.pieces.some(({ id }) => id === piece) ?? false;
  const shown = job?.piece.id;
  useEffect(() => {
    if (followed.current || shown === undefined) return;
    followed.current = true;
    const { pathname, hash } = location;
    history.replaceState(history.state, '', `${pathname}${hash}`);
    if (there && shown !== piece) mutate(piece!);
    if (!there || !trial) return;
    const put = () => {
      if (useEntered.getState().picture !== `${piece}`) return false;
      useChosen.setState({ trial });
      return true;
    };
    if (put()) return;
    const stop = useEntered.subscribe(() => void (put() && stop()));
  }, [shown, piece, trial, there, mutate]);
  return job !== undefined && (followed.current || !there || shown === piece || choose.isError);
}
