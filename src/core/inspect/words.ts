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
  const { blocking, noise, detail, blur, banding, clipped, ringing, fringes, jpeg } = findings;
  return [
    detailFinding(detail),
    blurFinding(blur),
    {
      name: 'Blocks',
      figure: `${blocking.strength} of 100`,
      map: 'blocks',
      matters: blocking.ratio >= VISIBLE,
      sentence: blockSentence(findings),
    },
    {
      name: 'Noise',
      figure: `${formatNumber(noise.luma, 1)} · ${formatNumber(noise.colour, 1)} levels`,
      matters: noise.luma >= 2 || noise.colour >= 2.5,
      sentence:
        noise.luma < 0.8 && noise.colour < 0.8
          ? 'Grain in brightness and in colour: clean.'
          : `Grain in brightness and in colour: ${noise.luma < 2 ? 'faint' : noise.luma < 5 ? 'seen when enlarged' : 'strong'}.`,
    },
    {
      name: 'Ringing',
      figure: `${formatNumber(ringing, 1)} levels`,
      matters: ringing >= 2.5,
      sentence:
        ringing < 2.5
          ? 'Hardly any ripple beside hard edges.'
          : `Ripple beside hard edges, from ${jpeg ? 'compression' : 'compression or sharpening'}; enlarging would spread them.`,
    },
    rimsFinding(findings.rims),
    {
      name: 'Fringes',
      figure: `${formatNumber(fringes, 1)} levels`,
      matters: fringes >= 6,
      sentence:
        fringes < 6
          ? 'Hardly any stray colour on hard edges.'
          : 'Stray colour on hard edges, as lenses and coarse colour samples leave it.',
    },
    {
      name: 'Banding',
      figure: percent(banding),
      matters: banding >= 0.05,
      sentence:
        banding < 0.05
          ? 'The smooth parts are smooth.'
          : 'So much of the smooth parts climbs in steps, which print may show.',
    },
    {
      name: 'Clipped',
      figure: `${percent(clipped.dark)} · ${percent(clipped.bright)}`,
      matters: clipped.dark > 0.02 || clipped.bright > 0.02,
      sentence:
        clipped.dark > 0.02 || clipped.bright > 0.02
          ? 'So much is plain black, and plain white: nothing can be brought back there.'
          : 'Next to nothing is plain black or plain white.',
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

function blurFinding(blur: Findings['blur']): Finding {
  const name = 'Blur';
  if (!blur)
    return { name, figure: '–', matters: false, sentence: 'Nothing tells how sharp it is.' };
  if (blur.motion) {
    const { length, angle } = blur.motion;
    return {
      ...{ name, figure: `${formatNumber(length, 1)} px`, matters: true },
      sentence: `It moved by so much, at ${formatNumber(angle, 0)}°; Deblur in Clean takes that back.`,
    };
  }
  const matters = blur.sigma >= SOFT;
  return {
    ...{ name, figure: `${formatNumber(blur.sigma, 1)} px`, matters },
    sentence: matters
      ? 'Its sharpest parts are as soft as that; Deblur in Clean takes it back.'
      : 'Its sharpest parts are sharp.',
  };
}

function rimsFinding(rims: number | null): Finding {
  const name = 'Rims';
  if (rims === null)
    return { name, figure: '–', matters: false, sentence: 'Too few hard edges to tell.' };
  const matters = rims >= SHARPENED;
  return {
    ...{ name, figure: percent(rims), matters },
    sentence: matters
      ? 'Hard edges go so far beyond both their sides: it was sharpened before, and wants less of it now.'
      : 'Hard edges stop at both their sides.',
  };
}

/** Rims of so much of an edge tell of earlier sharpening. */
export const SHARPENED = 0.12;

/** From so many pixels on blur shows when a picture is enlarged. */
const SOFT = 0.6;

function blockSentence({ blocking, jpeg, formerQuality }: Findings): string {
  if (blocking.ratio < VISIBLE) return 'No grid of compression shows.';
  const at = `The grid begins at ${blocking.offsetX}, ${blocking.offsetY}`;
  const shifted =
    jpeg &&
    (((jpeg.gridX % 8) + 8) % 8 !== blocking.offsetX ||
      ((jpeg.gridY % 8) + 8) % 8 !== blocking.offsetY);
  if (shifted) {
    return `${at}, not where this file's own does: it was compressed before and cropped.`;
  }
  return jpeg
    ? `Neighbours differ ${formatNumber(blocking.ratio, 1)} times as much across block borders.`
    : `${at}: it was a JPEG before${formerQuality === null ? '' : `, of about quality ${formerQuality}`}.`;
}
