import type { Findings } from '../../inspect/findings';
import { newPart, type Zone } from '../../zone/zone';
import type { Method } from '../../steps/enlarge/methods';
import { newStep } from '../order';
import type { Proposed } from './proposed';
import { say } from '../../words/say';

/** The zone that a picture with lettering among what is photographed begins with. */
export const LETTERING_ZONE: Zone = {
  ...{ id: 'lettering', name: 'Lettering', parts: [newPart.lettering()] },
  ...{ painted: null, feather: 1, inverted: false },
};

/**
 * The enlargement of a picture, by the method that is chosen for all of it: lettering that lies in a photograph is enlarged by
 * the network for drawings, which is half a decibel truer there.
 */
export function proposeEnlargement(
  { kind }: Findings,
  { method, sentence }: { method: Method | null; sentence: string },
): Proposed & { zones: Zone[] } {
  if (kind !== 'mixed' || method !== 'learned-photo') {
    return { step: newStep('enlarge'), sentence, zones: [] };
  }
  const parts = [{ zone: LETTERING_ZONE.id, method: 'learned-art' as const }];
  return {
    step: newStep('enlarge', { parts }),
    sentence: say`Network for photographs, quick; its lettering by the network for drawings, in a zone.`,
    zones: [LETTERING_ZONE],
  };
}
