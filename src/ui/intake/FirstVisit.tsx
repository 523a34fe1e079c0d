import { useEffect } from 'react';
import { Button } from 'react-bootstrap';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { say } from '@/core/words/say';

const STEPS = [
  say`Drop a customer’s picture anywhere here, choose it, or paste it: the file itself is never changed.`,
  say`Say how large it is to be printed and from how far it is seen; a first trial stands ready at once.`,
  say`Compare it with the original at its real size, then run it: the file is read back before you send it.`,
];

/** Whether this browser has seen a shop with jobs in it. */
const useVisited = create<{ over: boolean }>()(
  persist((): { over: boolean } => ({ over: false }), { name: 'lontano-first-visit' }),
);

/** Notes that there are jobs: what is said at the beginning is not said again. */
export function useVisits(jobs: boolean): void {
  useEffect(() => {
    if (jobs) useVisited.setState({ over: true });
  }, [jobs]);
}

/** What an empty shop begins with: on the first visit, in three sentences. */
export function FirstVisit({ onChoose }: { onChoose(): void }) {
  const { over } = useVisited();
  return (
    <section className="first-visit" aria-label={say`How to begin`}>
      {over ? (
        <p>{say`There is no job. Drop a picture anywhere here to begin one.`}</p>
      ) : (
        <ol>
          {STEPS.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      <Button size="lg" onClick={onChoose}>
        {say`Choose pictures …`}
      </Button>
      <p className="soft">{say`Pictures (JPEG, PNG, TIFF, WebP, AVIF, GIF), SVG and PDF.`}</p>
    </section>
  );
}
