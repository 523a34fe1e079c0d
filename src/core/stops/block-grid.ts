import type { Findings } from '../inspect/findings';
import { ownGrid } from '../inspect/jpeg';

/** From this strength on blocks are worth a look, of 100. */
const WORTH = 4;

/** Where a block of a picture's compression begins, 0–7: as its file says, or as it shows; null where none are worth a look. */
export function blockGrid(
  findings: Pick<Findings, 'blocking' | 'jpeg'>,
): { x: number; y: number } | null {
  const { strength, offsetX, offsetY } = findings.blocking;
  return strength < WORTH ? null : (ownGrid(findings.jpeg) ?? { x: offsetX, y: offsetY });
}
