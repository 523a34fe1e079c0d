import { facesFound } from '@/core/faces/words';
import {
  blockingWord,
  compressionWords,
  subsampling,
  type Findings,
} from '@/core/inspect/findings';
import { happenedTo, sentenceOf } from '@/core/inspect/happened';
import { formatBytes, formatMegapixels, formatPpi } from '@/core/measure/format';
import type { PlacedPicture } from '@/core/placed/placed';
import { withDecoded } from './input';

export const inspect = (file: string, options: { json?: boolean; page: number }): Promise<void> =>
  withDecoded(file, options.page, ({ findings, name }) => {
    if (options.json) console.log(JSON.stringify(report(findings)));
    else console.log(inspectText(name, findings));
    return Promise.resolve();
  });

/** Findings with flat, stable keys for scripts; a missing ppi tag is null. */
function report(findings: Findings) {
  const { jpeg, ppi, ...rest } = findings;
  return {
    ...rest,
    ppi: ppi && ppi.x,
    // 0 carries detail in every pixel, 1 in none; null where it can't be judged
    softness: rest.detail === null ? null : 1 - rest.detail,
    jpeg: jpeg && {
      quality: jpeg.quality,
      subsampling: subsampling(jpeg),
      progressive: jpeg.progressive,
    },
  };
}

function inspectText(name: string, findings: Findings): string {
  const { width, height, jpeg, ppi, vector, noise, detail, blocking, history } = findings;
  const points = (value: number) => `${((value / 72) * 25.4).toFixed(1)} mm`;
  const lines: [string, string][] = [
    [
      'file',
      `${name}, ${formatBytes(findings.bytes)}, ${findings.format.toUpperCase()}, ${findings.bitDepth} bit`,
    ],
    ...(findings.pages > 1
      ? [['page', `${findings.page} of ${findings.pages}`] as [string, string]]
      : []),
    vector
      ? ['shapes', `${points(vector.widthPt)} x ${points(vector.heightPt)}, drawn at any size`]
      : ['pixels', `${width} x ${height}, ${formatMegapixels(findings.megapixels)} megapixels`],
    ['ppi tag', ppi ? formatPpi(ppi.x) : 'missing'],
    ['profile', findings.profile ?? 'none'],
    ['kind', `${findings.kind}. ${findings.kindReason}`],
    ...(vector ? pictureLines(vector.pictures) : pixelLines()),
    ...findings.notes.map((note): [string, string] => ['note', note]),
  ];
  function pictureLines(pictures: readonly PlacedPicture[]): [string, string][] {
    return pictures.map(({ width, height, widthPt, heightPt, times, kept }, i) => [
      `picture ${i + 1}`,
      [
        `${width} x ${height} on ${points(widthPt)} x ${points(heightPt)}`,
        `${formatPpi(Math.min(width / widthPt, height / heightPt) * 72)} ppi there`,
        ...(times > 1 ? [`${times} times`] : []),
        ...(kept ? [`stays as it is: ${kept}`] : []),
      ].join(', '),
    ]);
  }
  /** A line, where there is something to say. */
  function only<T>(
    label: string,
    found: T | null | undefined | false | '',
    words: (found: T) => string,
  ): [string, string][] {
    return found === null || found === undefined || found === false || found === ''
      ? []
      : [[label, words(found)]];
  }
  function pixelLines(): [string, string][] {
    return [
      [
        'compression',
        `${compressionWords(findings)}${jpeg ? `, ${subsampling(jpeg)}${jpeg.progressive ? ', progressive' : ''}` : ''}`,
      ],
      [
        'blocking',
        `${blockingWord(findings)} (borders differ ${blocking.ratio.toFixed(2)} times as much as insides; the grid begins at ${blocking.offsetX}, ${blocking.offsetY})`,
      ],
      ['noise', `${noise.luma.toFixed(1)} levels, ${noise.colour.toFixed(1)} in colour`],
      [
        'detail',
        detail === null
          ? 'nothing to judge by'
          : `in about ${Math.round(detail * 100)} % of its pixels`,
      ],
      ...only(
        'enlarged',
        findings.enlarged,
        (times) => `before, ${times.toFixed(2)} times as large`,
      ),
      ...only(
        'blur',
        findings.blur?.disc,
        ({ radius }) => `out of focus: every point is a disc of ${radius.toFixed(1)} px radius`,
      ),
      ...only(
        'focus',
        findings.localBlur,
        ({ sharpest, softest }) =>
          `sharpest at the ${sharpest.part}, softest at the ${softest.part}`,
      ),
      ...only('happened', history && sentenceOf(happenedTo(history, findings)), (words) => words),
      ...only('faces', findings.faces.length > 0 && findings.faces, facesFound),
      ...only(
        'grid',
        findings.grid,
        ({ width, height }) => `pixels are repeated: it is ${width} x ${height} in truth`,
      ),
    ];
  }
  return lines.map(([label, text]) => `${label.padEnd(12)} ${text}`).join('\n');
}
