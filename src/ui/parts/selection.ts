import { create } from 'zustand';

/** Rows of a list that an act is for, by their numbers in the database. */
export function createSelection() {
  const useSelection = create<{ chosen: ReadonlySet<number> }>(() => ({ chosen: new Set() }));
  return {
    useSelection,
    /** Takes rows in, or out. */
    select: (rows: readonly number[], on: boolean): void =>
      useSelection.setState(({ chosen: before }) => {
        const after = new Set(before);
        for (const row of rows) {
          if (on) after.add(row);
          else after.delete(row);
        }
        return { chosen: after };
      }),
    selectNone: (): void => useSelection.setState({ chosen: new Set() }),
    /** What an act on a row is for: all that are selected, where it is one of them; that row alone otherwise. */
    actedOn: (row: number): number[] => {
      const { chosen } = useSelection.getState();
      return chosen.has(row) ? [...chosen] : [row];
    },
  };
}
