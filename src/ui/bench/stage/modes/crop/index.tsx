import { wholeView, type ModeView, type SceneProps } from '../view';
import { CropOnPicture } from './CropOnPicture';
import { say } from '@/core/words/say';

/** A part of the picture, on the whole of it. */
const Scene = ({ mode, bench, resolved, original, view, onTrouble }: SceneProps) => (
  <CropOnPicture
    {...{ bench, original, view, onTrouble }}
    recipe={resolved.recipe}
    held={mode.way === 'crop' ? mode.shape : 'free'}
  />
);

export const crop: ModeView = {
  Scene,
  pane: wholeView,
  moves: false,
  overlaid: false,
  hint: say`Drag the part, its corners or its sides. The original stays whole.`,
};
