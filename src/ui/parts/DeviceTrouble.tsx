import { TriangleAlert } from 'lucide-react';
import { Button } from 'react-bootstrap';
import type { Act, Trouble } from '@/core/device/protocol';
import { useDeviceActs } from '../data/devices';
import { say } from '@/core/words/say';

const ACTS: Record<Act, string> = {
  clear: say`The jam is cleared`,
  load: say`It is loaded`,
  ink: say`The ink is changed`,
  again: say`Print it again`,
  whole: say`It is whole`,
};

interface Props {
  device: number;
  trouble: Trouble;
  /** what is loaded where that is asked for */
  material: string | undefined;
}

/** What a device stands still for, and what gets it going once somebody has been there. */
export function DeviceTrouble({ device, trouble, material }: Props) {
  const { act } = useDeviceActs();
  return (
    <div className="device-trouble" role="alert">
      <p>
        <TriangleAlert size={15} aria-hidden />
        {trouble.words}
      </p>
      <div className="acts">
        {trouble.acts.map((one) => (
          <Button
            key={one}
            variant="outline-primary"
            size="sm"
            disabled={act.isPending}
            onClick={() =>
              act.mutate({ id: device, act: one, ...(one === 'load' && material && { material }) })
            }
          >
            {ACTS[one]}
          </Button>
        ))}
      </div>
    </div>
  );
}
