import { SendingLine } from '../intake/SendingLine';
import { useOnTheirWay } from './take-in';

/** How far files are that are taken into a batch. @param batch one alone */
export function OnTheirWayLine({ batch }: { batch?: number }) {
  const now = useOnTheirWay((state) => state.now);
  return now && (batch === undefined || now.batch === batch) ? <SendingLine sending={now} /> : null;
}
