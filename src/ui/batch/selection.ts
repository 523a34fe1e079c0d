import { createSelection } from '../parts/selection';

/** Pictures of the batch on the screen that an act is for. */
export const { useSelection, select, selectNone, actedOn } = createSelection();
