import type { WorkBench } from '../bench/use-work';
import { useHouseDialog } from './house-dialogs';
import { KeepRecipe } from './KeepRecipe';
import { TryRecipe } from './TryRecipe';

/** What of house recipes is open over the bench. */
export function HouseDialogs({ bench }: { bench: WorkBench }) {
  const open = useHouseDialog((dialog) => dialog.open);
  if (open === 'keep') return <KeepRecipe bench={bench} />;
  return open === 'try' ? <TryRecipe bench={bench} /> : null;
}
