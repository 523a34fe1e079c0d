import { formatNumber } from '../measure/format';
import { VISIBLE } from './blocking';
import type { Findings } from './findings';

/** One finding: its figure, and what it means in one plain sentence. */
export interface Finding {
  name: string;
  figure: string;
  sentence: string;
  /** whether it is something to do about, or to know */
  matters: boolean;
  /** which map shows it part by part */
  map?: 'sharpness' | 'blocks';
}

const percent = (share: number): string => `${formatNumber(share * 100, share < 0.1 ? 1 : 0)} %`;

/** All findings in pixels, in the order in which they matter. */
export function findingsInWords(findings: Findings): Finding[] {
  const { blocking, noise, detail, banding, clipped, ringing, fringes, jpeg } = findings;
  return [
    detailFinding(detail),
    {
      name: 'Blocks',
      figure: String(blocking.strength),
      map: 'blocks',
      matters: blocking.ratio >= VISIBLE,
      sentence: blockSentence(findings),
    },
    {
      name: 'Noise',
      figure: `${formatNumber(noise.luma, 1)} · ${formatNumber(noise.colour, 1)}`,
      matters: noise.luma >= 2 || noise.colour >= 2.5,
      sentence:
        noise.luma < 0.8 && noise.colour < 0.8
          ? 'Levels of grain in brightness and in colour: clean.'
          : `Levels of grain in brightness and in colour: ${noise.luma < 2 ? 'faint' : noise.luma < 5 ? 'seen when enlarged' : 'strong'}.`,
    },
    {
      name: 'Ringing',
      figure: formatNumber(ringing, 1),
      matters: ringing >= 2.5,
      sentence:
        ringing < 2.5
          ? 'Levels of ripple beside hard edges: hardly any.'
          : `Levels of ripple beside hard edges, from ${jpeg ? 'compression' : 'compression or sharpening'}; enlarging would spread them.`,
    },
    {
      name: 'Fringes',
      figure: formatNumber(fringes, 1),
      matters: fringes >= 6,
      sentence:
        fringes < 6
          ? 'Levels of stray colour on hard edges: hardly any.'
          : 'Levels of stray colour on hard edges, as lenses and coarse colour samples leave it.',
    },
    {
      name: 'Banding',
      figure: percent(banding),
      matters: banding >= 0.05,
      sentence:
        banding < 0.05
          ? 'Of the smooth parts climb in steps.'
          : 'Of the smooth parts climb in steps that will show in print.',
    },
    {
      name: 'Clipped',
      figure: `${percent(clipped.dark)} · ${percent(clipped.bright)}`,
      matters: clipped.dark > 0.02 || clipped.bright > 0.02,
      sentence:
        clipped.dark > 0.02 || clipped.bright > 0.02
          ? 'Plain black and plain white: nothing can be brought back there.'
          : 'Plain black and plain white: next to none.',
    },
  ];
}

function detailFinding(detail: number | null): Finding {
  if (detail === null) {
    return {
      name: 'Detail',
      figure: '–',
      matters: false,
      sentence: 'Too even to be judged.',
    };
  }
  return {
    name: 'Detail',
    figure: percent(detail),
    map: 'sharpness',
    matters: detail < 0.6,
    sentence:
      detail >= 0.85
        ? 'It carries detail in nearly all of its pixels.'
        : `It carries detail for about ${percent(detail)} of its pixels${detail < 0.45 ? ': it was enlarged before, or is out of focus' : ''}.`,
  };
}

function blockSentence({ blocking, jpeg }: Findings): string {
  if (blocking.ratio < VISIBLE) return 'Of 100: no grid of compression shows.';
  const at = `The grid begins at ${blocking.offsetX}, ${blocking.offsetY}`;
  const shifted =
    jpeg &&
    (((jpeg.gridX % 8) + 8) % 8 !== blocking.offsetX ||
      ((jpeg.gridY % 8) + 8) % 8 !== blocking.offsetY);
  if (shifted) {
    return `Of 100. ${at}, not where this file's own does: it was compressed before and cropped.`;
  }
  return jpeg
    ? `Of 100. Neighbours differ ${formatNumber(blocking.ratio, 1)} times as much across block borders.`
    : `Of 100. ${at}: it was a JPEG before.`;
}
