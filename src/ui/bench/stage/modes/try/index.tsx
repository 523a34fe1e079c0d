import { wholeView, type ModeView, type SceneProps } from '../view';
import { TryGrid } from './TryGrid';

/** Variants beside each other on one spot. */
const Scene = ({ bench, original, scale, view, onTrouble, onBusy }: SceneProps) => (
  <TryGrid {...{ bench, original, scale, view, onTrouble, onBusy }} />
);

export const tried: ModeView = { Scene, pane: wholeView, moves: true, overlaid: false };
