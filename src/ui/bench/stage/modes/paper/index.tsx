import { wholeView, type ModeView, type SceneProps } from '../view';
import { PaperOnPicture } from './PaperOnPicture';
import { say } from '@/core/words/say';

/** The paper on the whole picture. */
const Scene = ({ bench, resolved, original, view, onTrouble }: SceneProps) => (
  <PaperOnPicture
    {...{ bench, original, view, onTrouble }}
    recipe={resolved.recipe}
    plan={resolved.plan}
  />
);

export const paper: ModeView = {
  Scene,
  pane: wholeView,
  moves: false,
  overlaid: false,
  hint: say`Drag it to another part; a corner for more or less of the picture; a side for a longer or shorter paper.`,
};
