import { wholeView, type ModeView, type SceneProps } from '../view';
import { TryGrid } from './TryGrid';

/** The original and variants beside each other on one spot. */
const Scene = ({ bench, resolved, original, scale, view, onTrouble, onBusy }: SceneProps) => (
  <TryGrid {...{ bench, resolved, original, scale, view, onTrouble, onBusy }} />
);

export const tried: ModeView = {
  Scene,
  pane: wholeView,
  moves: true,
  overlaid: false,
  compares: false,
};
