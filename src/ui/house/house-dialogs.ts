import { create } from 'zustand';

/** Which dialog of the bench about house recipes is open. */
export const useHouseDialog = create<{ open: 'keep' | 'try' | null; chosen: number | null }>(
  () => ({
    open: null,
    chosen: null,
  }),
);

/** Shows what recipes would make of the picture; one of them first, where that is said. */
export const openTryRecipe = (chosen: number | null = null): void =>
  useHouseDialog.setState({ open: 'try', chosen });
export const openKeepRecipe = (): void => useHouseDialog.setState({ open: 'keep' });
export const closeHouseDialog = (): void => useHouseDialog.setState({ open: null });
