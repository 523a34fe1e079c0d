import { alone } from './alone/Alone';
import { blink } from './blink/Blink';
import { crop } from './crop';
import { difference } from './difference/Difference';
import { grid } from './grid/Grid';
import type { Mode, Way } from './mode';
import { paper } from './paper';
import { sideBySide } from './side-by-side/SideBySide';
import { tested } from './test';
import { tried } from './try';
import type { ModeView } from './view';
import { windowed } from './window/Window';
import { wipe } from './wipe/Wipe';

/** Every way of looking; a new one is a folder, its line here, and its kind in mode.ts. */
const MODES: Record<Way, ModeView> = {
  wipe,
  'side by side': sideBySide,
  grid,
  window: windowed,
  blink,
  difference,
  'result alone': alone,
  paper,
  crop,
  try: tried,
  test: tested,
};

export const modeView = (mode: Mode): ModeView => MODES[mode.way];
