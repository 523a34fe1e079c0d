import { create } from 'zustand';
import type { ProcessNews } from '@/core/shop/processes';
import { say } from '@/core/words/say';

/** How long an end is spoken of at least, in milliseconds: most processes are there again before it could be read. */
const SAID_MS = 4000;

/** Whether the shop answers, and how its processes are; null where they are as they should be or nobody knows. */
interface HouseState {
  answers: boolean;
  news: ProcessNews | null;
  /** the process of runs ended within the last seconds, whether or not it is there again */
  endedLately: boolean;
}

export const processStore = create<HouseState>(() => ({
  answers: true,
  news: null,
  endedLately: false,
}));

let forgetting: ReturnType<typeof setTimeout> | undefined;

/** Takes in how the processes are now. */
export function hearOfProcesses(news: ProcessNews | null): void {
  const before = processStore.getState().news;
  processStore.setState({ news });
  // A shop that was opened anew counts from nothing again.
  if (!before || !news || news.tasks.ended <= before.tasks.ended) return;
  processStore.setState({ endedLately: true });
  clearTimeout(forgetting);
  forgetting = setTimeout(() => processStore.setState({ endedLately: false }), SAID_MS);
}

/** What a person should know of the shop just now, or null where all is well. */
export function processWords({ answers, news, endedLately }: HouseState): string | null {
  if (!answers) {
    return say`The shop does not answer. It is looked for again by itself; what you decided is kept, leave this page open.`;
  }
  if (news && (!news.tasks.up || endedLately)) {
    const often = news.tasks.ended > 1 ? say` It ended ${news.tasks.ended} times by now.` : '';
    return say`The process of runs ended and is started again.${often} Runs go on from where they were.`;
  }
  return null;
}
