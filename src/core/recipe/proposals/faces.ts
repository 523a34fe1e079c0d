import type { Findings } from '../../inspect/findings';
import { newPart, type Zone } from '../../zone/zone';
import { newStep } from '../order';
import type { Proposed } from './proposed';
import { say } from '../../words/say';

/** The zone that a picture with faces begins with. */
export const FACES_ZONE: Zone = {
  ...{ id: 'faces', name: 'Faces', parts: [newPart.faces()] },
  ...{ painted: null, feather: 0, inverted: false },
};

/** How much of the finest that cleaning took of a face it is given back, in %. */
const RETURNED = 30;
/** From compression harder than this nothing is given back: it would be blocks. */
const LEAST_QUALITY = 60;

/** What is done otherwise in faces, once it is known how a picture is cleaned. */
export function proposeForFaces(
  { faces, jpeg, history }: Findings,
  cleaning: readonly Proposed[],
): Proposed[] {
  const quality = jpeg ? (jpeg.quality ?? 100) : (history?.quality.value ?? 100);
  const smooths = cleaning.some(
    ({ step: { kind, on } }) => on && (kind === 'noise' || kind === 'restore'),
  );
  if (faces.length === 0 || !smooths || quality < LEAST_QUALITY) return [];
  const get = faces.length === 1 ? say`The face gets` : say`The ${faces.length} faces get`;
  return [
    {
      step: { ...newStep('texture', { returned: RETURNED }), zone: FACES_ZONE.id },
      sentence: say`${get} ${RETURNED} % of the finest back that cleaning took: skin without any grain looks like wax.`,
    },
  ];
}
