import { benchStore } from './picture-store';
import type { Subject } from './stage/modes/compared/subject';

interface Chosen {
  /** the trial on the bench; the first where none was chosen */
  trial: string | null;
  /** what stands beside it, in the order of the panes; the original where nothing was chosen */
  beside: readonly Subject[];
}

/** Which of a picture's trials is on the bench, and what it is compared with. */
export const useChosen = benchStore<Chosen>({ trial: null, beside: [] }, ['trial', 'beside']);
