import { create } from 'zustand';
import type { ProcessNews } from '@/core/shop/processes';
import { say } from '@/core/words/say';

/** Whether the shop answers, and how its processes are; null where they are as they should be or nobody knows. */
interface HouseState {
  answers: boolean;
  news: ProcessNews | null;
}

export const processStore = create<HouseState>(() => ({ answers: true, news: null }));

/** What a person should know of the shop just now, or null where all is well. */
export function processWords({ answers, news }: HouseState): string | null {
  if (!answers) {
    return say`The shop does not answer. It is looked for again by itself; what you decided is kept, leave this page open.`;
  }
  if (news && !news.tasks.up) {
    const often = news.tasks.ended > 1 ? say` It ended ${news.tasks.ended} times by now.` : '';
    return say`The process of runs ended and is started again.${often} Runs go on from where they were.`;
  }
  return null;
}
