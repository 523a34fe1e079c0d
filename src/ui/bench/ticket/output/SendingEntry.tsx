import { format } from 'date-fns';
import { Eye } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { isOnItsWay, type Sending, type SendingState } from '@/core/shop/sending';
import { useDevices, useSend } from '../../../data/devices';
import { DeviceTrouble } from '../../../parts/DeviceTrouble';
import { Progress } from '../../../parts/Progress';
import { lookAtPrint } from './look-at-print';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

const WORDS: Record<SendingState, string> = {
  waiting: say`waits for the device`,
  sending: say`is sent`,
  queued: say`in its queue`,
  printing: say`prints`,
  printed: say`printed`,
  failed: say`not printed`,
  cancelled: say`taken back`,
};

/** A file on its way to a device: how far, what holds it up, and the print once it is there. */
export function SendingEntry({ sending, bench }: { sending: Sending; bench: WorkBench }) {
  const { key, state, progress, device, deviceId, material, copies, trouble, words } = sending;
  const { cancel } = useSend(bench.job.id, bench.job.piece.id);
  const { data: devices } = useDevices();
  const known = devices?.find(({ id }) => id === deviceId);
  const open = isOnItsWay(sending);
  const moves = state === 'sending' || state === 'printing';
  return (
    <div className="run sending" data-state={state}>
      <div className="top">
        <span>
          <b>{device}</b>{' '}
          <span className={state === 'failed' ? 'trouble' : 'soft'}>{WORDS[state]}</span>
        </span>
        <span className="figure">
          {moves
            ? `${Math.floor(progress * 100)} %`
            : format(sending.finishedAt ?? sending.at, 'd MMM HH:mm')}
        </span>
      </div>
      <p className="soft mb-0">
        {say`${sending.fileName} on ${material}`}
        {copies > 1 && say`, ${copies} times`}
        {sending.spoilt > 0 && say`; ${formatNumber(sending.spoilt / 10, 1)} cm spoilt`}
      </p>
      {open && (
        <div className="d-flex gap-2 align-items-center">
          <Progress
            className="flex-grow-1"
            share={moves ? progress : 0}
            label={state === 'sending' ? say`Sent` : say`Printed`}
          />
          {state !== 'printing' && (
            <Button
              variant="quiet"
              size="sm"
              disabled={cancel.isPending}
              onClick={() => cancel.mutate(key)}
            >
              {say`Take it back`}
            </Button>
          )}
        </div>
      )}
      {open && known && !known.answers && (
        <p className="caution mb-0">
          {say`${device} does not answer`}
          {known.since && say` since ${format(known.since, 'HH:mm')}`}
          {say`. It is asked again by itself; what it has, it keeps.`}
        </p>
      )}
      {open && trouble && <DeviceTrouble device={deviceId} trouble={trouble} material={material} />}
      {state === 'failed' && words && <p className="field-trouble">{words}</p>}
      {state === 'printed' && sending.dots && !sending.proof && (
        <Button
          variant="quiet"
          size="sm"
          className="d-flex align-items-center gap-2"
          onClick={() => lookAtPrint(sending)}
        >
          <Eye size={14} aria-hidden /> {say`Look at the print`}
        </Button>
      )}
    </div>
  );
}
