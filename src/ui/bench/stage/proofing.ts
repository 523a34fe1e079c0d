import { useMemo } from 'react';
import type { Proof } from '@/core/colour/proof';
import { useProfiles } from '../../data/queries';
import { usePicked } from '../../parts/use-picked';
import { benchStore } from '../picture-store';
import type { WorkBench } from '../use-work';
import { say } from '@/core/words/say';

interface Proofing {
  /** the result is seen as its print would look */
  on: boolean;
  paperWhite: boolean;
  /** what the print can't show is marked */
  beyond: boolean;
}

/** Whether and how results are seen as printed. */
export const useProofing = benchStore<Proofing>({ on: false, paperWhite: true, beyond: false }, [
  'on',
]);

/** A proof of the trial on the bench, and what it is a proof of; null where it is seen as it is. */
export interface Proofed {
  proof: Proof;
  /** for its caption */
  made: string;
}

export function useProof({ trial }: WorkBench): Proofed | null {
  const { on, paperWhite, beyond } = usePicked(useProofing, 'on', 'paperWhite', 'beyond');
  const { colour } = trial.output;
  const { data: profiles } = useProfiles();
  const name = profiles?.find(({ digest }) => digest === colour?.profile)?.name;
  return useMemo(
    () =>
      on && colour
        ? {
            proof: { conversion: colour, paperWhite, beyond },
            made: say`as printed: ${name ?? say`another profile`}`,
          }
        : null,
    [on, colour, paperWhite, beyond, name],
  );
}
