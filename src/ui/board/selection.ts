import { createSelection } from '../parts/selection';

/** Jobs of the board that an act is for. */
export const { useSelection, select, selectNone, actedOn } = createSelection();
