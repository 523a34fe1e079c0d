import type { Findings } from '../inspect/findings';
import type { PlacedPicture, TakenOut } from '../placed/placed';
import { testFindings } from './index';

/** A page of shapes of 300 x 200 points with a picture of 60 x 40 pixels on 90 x 60 points, taken out of it. */
export function testPage(change: Partial<PlacedPicture> = {}): {
  findings: Findings;
  taken: TakenOut;
} {
  const picture: PlacedPicture = {
    ...{ width: 60, height: 40, widthPt: 90, heightPt: 60 },
    ...{ place: [9000, 0, 0, 6000, 3020, 4050], times: 1, kept: null },
    ...change,
  };
  const size = { width: 30_000, height: 20_000 };
  const findings = testFindings(size, {
    kind: 'flat artwork',
    detail: null,
    vector: { widthPt: 300, heightPt: 200, pictures: [picture] },
  });
  const own = { width: picture.width, height: picture.height };
  const taken = { picture: 1, digest: 'b'.repeat(64), findings: testFindings(own) };
  return { findings, taken };
}
