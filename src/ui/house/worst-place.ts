import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { STOP_WORDS, type Stop } from '@/core/stops/stop';
import { useOnPaper } from '../bench/stage/on-paper';
import { api } from '../data/api';
import type { Pictured } from './recipe-on';
import { say } from '@/core/words/say';

/** A place of a picture to be looked at: shares of the paper, and in words what it is. */
export interface Place {
  centre: { x: number; y: number };
  words: string;
}

const MIDDLE: Place = { centre: { x: 0.5, y: 0.5 }, words: say`Its middle, at 1:1.` };

/** Places of a picture's paper that are worth a look, the worst first; null until they are known. */
export function usePlaces(picture: Pictured): Place[] | null {
  const { digest, findings } = picture;
  const onPaper = useOnPaper(picture);
  const within = onPaper?.within;
  const { data: stops } = useQuery({
    queryKey: ['stops', digest, findings.page, within],
    queryFn: () => api.stops(digest, findings.page, within!),
    enabled: !findings.vector && (within?.width ?? 0) > 0,
    staleTime: Infinity,
  });
  return useMemo(() => {
    if (!findings.vector && !stops) return null;
    const places = (stops ?? []).flatMap((stop) => {
      const centre = onPaper?.toPaper(stop.x, stop.y);
      return centre ? [{ centre, words: wordsOf(stop) }] : [];
    });
    return places.length > 0 ? places : [MIDDLE];
  }, [findings.vector, stops, onPaper]);
}

const wordsOf = ({ kind, figure }: Stop): string =>
  say`Where it is worst, ${STOP_WORDS[kind].title}: ${STOP_WORDS[kind].figure(figure)}, at 1:1.`;
