import { subsampling, type Findings } from '@/core/inspect/findings';
import { formatBytes, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import { Copyable } from '../../../parts/Copyable';
import { say } from '@/core/words/say';

/** What the file says of itself. */
export function FileFacts({ findings }: { findings: Findings }) {
  const { jpeg, ppi, vector, alpha } = findings;
  const mm = (points: number) => formatNumber((points / 72) * 25.4, 1);
  const size = vector
    ? `${mm(vector.widthPt)} × ${mm(vector.heightPt)}`
    : `${findings.width} × ${findings.height}`;
  const facts: [string, string][] = [
    [
      say`File`,
      say`${formatBytes(findings.bytes)} · ${findings.format.toUpperCase()} · ${findings.bitDepth} bit${alpha ? say` · alpha` : ''}`,
    ],
    [
      say`ppi tag`,
      ppi
        ? Math.abs(ppi.x - ppi.y) < 0.5
          ? formatPpi(ppi.x)
          : `${formatPpi(ppi.x)} × ${formatPpi(ppi.y)}`
        : say`missing`,
    ],
    [say`Profile`, findings.profile ?? say`missing`],
    ...(jpeg
      ? ([
          [
            say`Compressed`,
            jpeg.quality === null
              ? say`JPEG, non-standard tables`
              : say`JPEG quality ${jpeg.quality}`,
          ],
          [
            say`Chroma subsampling`,
            `${subsampling(jpeg)}${jpeg.progressive ? say` · progressive` : ''}`,
          ],
        ] as [string, string][])
      : []),
  ];
  return (
    <dl className="facts">
      <dt>{vector ? say`Page, mm` : say`Pixels`}</dt>
      <dd>
        <Copyable>{size}</Copyable>
        {!vector && (
          <span className="figure"> {say`· ${formatMegapixels(findings.megapixels)} MP`}</span>
        )}
      </dd>
      {facts.map(([label, value]) => (
        <div key={label} style={{ display: 'contents' }}>
          <dt>{label}</dt>
          <dd>
            <Copyable>{value}</Copyable>
          </dd>
        </div>
      ))}
    </dl>
  );
}
