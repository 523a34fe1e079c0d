import type { WorkBench } from '../../use-work';
import { useStageBusy } from '../busy-store';
import { useSweeping, type Shown } from './use-sweep';

/** Notes what is seen; by itself, so that a pan renders nothing but this. */
export function Sweeping({ bench, close, ...shown }: Shown & { bench: WorkBench }) {
  const busy = useStageBusy((stage) => stage.busy);
  useSweeping(bench, { ...shown, close: close && !busy });
  return null;
}
