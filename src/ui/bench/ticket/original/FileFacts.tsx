import { subsampling, type Findings } from '@/core/inspect/findings';
import { formatBytes, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import { Copyable } from '../../../parts/Copyable';

/** What the file says of itself. */
export function FileFacts({ findings }: { findings: Findings }) {
  const { jpeg, ppi, vector, alpha } = findings;
  const mm = (points: number) => formatNumber((points / 72) * 25.4, 1);
  const size = vector
    ? `${mm(vector.widthPt)} × ${mm(vector.heightPt)}`
    : `${findings.width} × ${findings.height}`;
  const facts: [string, string][] = [
    [
      'File',
      `${formatBytes(findings.bytes)} · ${findings.format.toUpperCase()} · ${findings.bitDepth} bit${alpha ? ' · alpha' : ''}`,
    ],
    [
      'ppi tag',
      ppi
        ? Math.abs(ppi.x - ppi.y) < 0.5
          ? formatPpi(ppi.x)
          : `${formatPpi(ppi.x)} × ${formatPpi(ppi.y)}`
        : 'missing',
    ],
    ['Profile', findings.profile ?? 'missing'],
    ...(jpeg
      ? ([
          [
            'Compressed',
            jpeg.quality === null ? 'JPEG, non-standard tables' : `JPEG quality ${jpeg.quality}`,
          ],
          ['Colour samples', `${subsampling(jpeg)}${jpeg.progressive ? ' · progressive' : ''}`],
        ] as [string, string][])
      : []),
  ];
  return (
    <dl className="facts">
      <dt>{vector ? 'Page, mm' : 'Pixels'}</dt>
      <dd>
        <Copyable>{size}</Copyable>
        {!vector && <span className="figure"> · {formatMegapixels(findings.megapixels)} MP</span>}
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
