import type { Sending } from '@/core/shop/sending';
import { useLooking } from '../../stage/modes/mode';
import { useScreen } from '../../../data/screen';
import { look } from '../../stage/viewport';
import { useChosen } from '../../trial-store';

/** Shows a print beside the result: from the ordered distance where the screen is measured, else all of it. */
export function lookAtPrint({ key }: Sending): void {
  useChosen.setState(({ beside }) => ({
    beside: [{ of: 'file', digest: key }, ...beside.slice(1)],
  }));
  useLooking.setState({ comparing: 'side by side', special: null });
  look({ zoom: useScreen.getState().ppi === null ? { of: 'fit' } : { of: 'distance' } });
}
