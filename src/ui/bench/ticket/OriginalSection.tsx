import { blockingWord, compressionWords, subsampling } from '@/core/inspect/findings';
import { formatBytes, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import type { WorkBench } from '../use-work';
import { Section } from './Section';

export function OriginalSection({ bench }: { bench: WorkBench }) {
  const { findings, fileName } = bench.job.piece;
  const { jpeg, ppi, blocking } = findings;
  const facts: [string, string][] = [
    [
      'Pixels',
      `${findings.width} × ${findings.height} · ${formatMegapixels(findings.megapixels)} MP`,
    ],
    [
      'File',
      `${formatBytes(findings.bytes)} · ${findings.format.toUpperCase()} · ${findings.bitDepth} bit`,
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
      ? [
          [
            'Compressed',
            jpeg.quality === null ? 'JPEG, tables of its own' : `JPEG quality ${jpeg.quality}`,
          ] as [string, string],
          ['Colour samples', `${subsampling(jpeg)}${jpeg.progressive ? ' · progressive' : ''}`] as [
            string,
            string,
          ],
        ]
      : []),
    ['Blocks', `${blockingWord(findings)} · ${formatNumber(blocking.ratio)}`],
  ];
  return (
    <Section
      name="original"
      title="Original"
      line={`${findings.width} × ${findings.height} · ${compressionWords(findings)} · ${blockingWord(findings)}`}
    >
      <p className="mb-0" style={{ overflowWrap: 'anywhere' }}>
        {fileName}
      </p>
      <dl className="facts">
        {facts.map(([label, value]) => (
          <div key={label} style={{ display: 'contents' }}>
            <dt>{label}</dt>
            <dd className="figure">{value}</dd>
          </div>
        ))}
      </dl>
      {blocking.ratio >= 1.08 && (
        <p className="reason">
          Neighbours differ {formatNumber(blocking.ratio)} times as much across the 8 × 8 grid of
          compression as inside its blocks.
        </p>
      )}
      {findings.notes.map((note) => (
        <p className="reason" key={note}>
          {note}
        </p>
      ))}
    </Section>
  );
}
