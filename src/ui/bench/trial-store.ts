import { benchStore } from './picture-store';

interface Chosen {
  /** the trial on the bench; the first where none was chosen */
  trial: string | null;
  /** the trial that it is compared with; the original where there is none */
  against: string | null;
}

/** Which of a picture's trials are looked at. */
export const useChosen = benchStore<Chosen>({ trial: null, against: null }, ['trial', 'against']);
