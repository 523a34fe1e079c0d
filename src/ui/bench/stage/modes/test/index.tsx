import { wholeView, type ModeView, type SceneProps } from '../view';
import { SelfTest } from './SelfTest';
import { say } from '@/core/words/say';

/** Every method on this very picture. */
const Scene = ({ bench }: SceneProps) => <SelfTest bench={bench} />;

export const tested: ModeView = {
  Scene,
  pane: wholeView,
  moves: false,
  overlaid: false,
  hint: say`Look at the pixels of a method too, not at its figures alone.`,
};
