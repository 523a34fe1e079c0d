import { formatNumber } from '../measure/format';
import type { Face } from './face';
import { say } from '../words/say';

/** How many faces there are and how large, in a sentence. */
export function facesFound(faces: readonly Face[]): string {
  const [largest] = faces;
  if (!largest) return say`No face was found on this picture.`;
  const px = (face: Face) => formatNumber(Math.max(face.width, face.height), 0);
  const smallest = faces.at(-1)!;
  return faces.length === 1
    ? say`One face was found, ${px(largest)} px high.`
    : say`${faces.length} faces were found, ${px(smallest)} to ${px(largest)} px high.`;
}
