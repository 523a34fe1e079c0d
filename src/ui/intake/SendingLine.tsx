import { Progress } from '../parts/Progress';
import type { Sending } from './use-intake';
import { say } from '@/core/words/say';

/** How far the file on its way in is. */
export const SendingLine = ({ sending }: { sending: Sending }) => (
  <div className="sending-line" role="group" aria-label={say`Pictures on their way in`}>
    <b>{sending.name}</b>
    <Progress share={sending.share} label={say`Progress of the upload`} />
    <span>
      {sending.share < 1 ? `${Math.round(sending.share * 100)} %` : say`looking at it …`}
      {sending.of > 1 && say` · ${sending.number} of ${sending.of}`}
    </span>
  </div>
);
