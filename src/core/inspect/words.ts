import { facesFound } from '../faces/words';
import { formatNumber } from '../measure/format';
import { VISIBLE } from './blocking';
import type { CompressedBefore } from './compressed-before';
import type { Findings } from './findings';
import { happenedTo, kindOfNoise } from './happened';
import type { History, Measured } from './history';
import { ownGrid, type JpegFacts } from './jpeg';
import type { LocalBlur } from './local-blur';

/** One finding: its figure, and what it means in one plain sentence. */
export interface Finding {
  name: string;
  figure: string;
  sentence: string;
  /** whether it is something to do about, or to know */
  matters: boolean;
  /** what shows it on the picture */
  map?: 'sharpness' | 'blocks' | 'faces';
}

const percent = (share: number): string => `${formatNumber(share * 100, share < 0.1 ? 1 : 0)} %`;

/** All findings in pixels, in the order in which they matter. */
export function findingsInWords(findings: Findings): Finding[] {
  const { blocking, detail, blur, banding, clipped, ringing, fringes, jpeg, history } = findings;
  const happened = history && happenedTo(history, findings).map(({ of }) => of);
  const plainly = (of: keyof History) => happened?.includes(of) ?? false;
  return [
    detailFinding(detail),
    ...(findings.enlarged
      ? [enlargedFinding(`× ${formatNumber(findings.enlarged, 2)}`)]
      : history && plainly('enlarged')
        ? [enlargedFinding(`about × ${formatNumber(2 ** history.enlarged.value, 1)}`)]
        : []),
    history && !blur?.motion && !blur?.disc
      ? softFinding(history.blur, plainly('blur'))
      : blurFinding(blur),
    ...(findings.localBlur ? [localBlurFinding(findings.localBlur)] : []),
    {
      name: 'Blocks',
      figure: `${blocking.strength} of 100`,
      map: 'blocks',
      matters: blocking.ratio >= VISIBLE,
      sentence: blockSentence(findings),
    },
    ...(findings.compressedBefore ? [compressedFinding(findings.compressedBefore, jpeg)] : []),
    history ? grainFinding(history, plainly('noise')) : noiseFinding(findings.noise),
    {
      name: 'Ringing',
      figure: `${formatNumber(ringing, 1)} levels`,
      matters: ringing >= 2.5,
      sentence:
        ringing < 2.5
          ? 'Hardly any ripple beside hard edges.'
          : `Ripple beside hard edges, from ${jpeg ? 'compression' : 'compression or sharpening'}; enlarging would spread them.`,
    },
    ...(history
      ? [sharpenedFinding(history, plainly('sharpening'), rimsAt(findings))]
      : [rimsFinding(findings.rims, rimsAt(findings))]),
    ...(plainly('resized') ? [resizedFinding(history!.resized)] : []),
    ...(findings.textured >= TEXTURED ? [texturedFinding(findings.textured)] : []),
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
    ...(findings.faces.length > 0 ? [facesFinding(findings.faces)] : []),
  ];
}

const facesFinding = (faces: Findings['faces']): Finding => ({
  name: 'Faces',
  figure: String(faces.length),
  map: 'faces',
  matters: false,
  sentence: facesFound(faces),
});

const enlargedFinding = (figure: string): Finding => ({
  name: 'Enlarged',
  figure,
  matters: true,
  sentence:
    'So many times as large as it was: what lies between carries nothing. Ask for the file before that.',
});

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
  if (blur.disc) {
    return {
      ...{ name, figure: `${formatNumber(blur.disc.radius, 1)} px`, matters: true },
      sentence:
        'Out of focus: every point became a disc of that radius; Deblur in Clean takes that back.',
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

function compressedFinding(before: CompressedBefore, jpeg: JpegFacts | null): Finding {
  const own = ownGrid(jpeg);
  const cropped = own !== null && (own.x !== before.x || own.y !== before.y);
  return {
    ...{ name: 'Re-saved', figure: `quality ${before.quality}`, matters: true },
    sentence: `It was saved as a JPEG of that quality${cropped ? ', then cropped,' : ''} and saved again finer: cleaning goes by the coarser.`,
  };
}

const localBlurFinding = ({ sharpest, softest }: LocalBlur): Finding => ({
  ...{ name: 'Focus', map: 'sharpness', matters: false },
  figure: `${formatNumber(sharpest.width, 1)} – ${formatNumber(softest.width, 1)} px`,
  sentence: `Edges rise over the fewest pixels at the ${sharpest.part}, over the most at the ${softest.part}: a zone keeps a step to either.`,
});

function noiseFinding({ luma, colour }: Findings['noise']): Finding {
  return {
    name: 'Noise',
    figure: `${formatNumber(luma, 1)} · ${formatNumber(colour, 1)} levels`,
    matters: luma >= 2 || colour >= 2.5,
    sentence:
      luma < 0.8 && colour < 0.8
        ? 'Grain in brightness and in colour: clean.'
        : `Grain in brightness and in colour: ${luma < 2 ? 'faint' : luma < 5 ? 'seen when enlarged' : 'strong'}.`,
  };
}

/** A measured figure and how far off it may be. */
const within = ({ value, off }: Measured, unit: string, digits = 1): string =>
  `${formatNumber(value, digits)} ± ${formatNumber(off, digits)} ${unit}`;

function softFinding(blur: Measured, matters: boolean): Finding {
  return {
    ...{ name: 'Blur', figure: within(blur, 'px'), matters },
    sentence: matters
      ? 'It lost its finest detail by so much of blur; Restore in Clean takes that back.'
      : 'No blur that is sure.',
  };
}

function grainFinding(history: History, matters: boolean): Finding {
  const kind = kindOfNoise(history).join(', ');
  return {
    ...{ name: 'Noise', figure: within(history.noise, 'levels'), matters },
    sentence: matters
      ? `It had so much before it was compressed${kind && `, ${kind}`}; enlarging would show it.`
      : 'No noise that is sure.',
  };
}

/** Where rims lie that are to be seen, as the end of a sentence. */
const rimsAt = ({ rims, rimReach }: Findings): string =>
  (rims ?? 0) >= SHARPENED && rimReach !== null
    ? `; its rims lie about ${formatNumber(rimReach, 1)} px off hard edges`
    : '';

/** A radius that may be so many pixels off is not told. */
const UNTOLD = 1;

function sharpenedFinding(
  { sharpening, radius }: History,
  matters: boolean,
  where: string,
): Finding {
  const by = radius.off < UNTOLD ? `, by a radius of ${within(radius, 'px')}` : '';
  return {
    ...{ name: 'Sharpened', figure: within(sharpening, '%', 0), matters },
    sentence: matters
      ? `It was sharpened before, about so much${by}${where}. Restore in Clean takes that back.`
      : 'No earlier sharpening that is sure.',
  };
}

const resizedFinding = (resized: Measured): Finding => ({
  ...{ name: 'Resized', figure: percent(Math.min(1, resized.value)), matters: true },
  sentence: 'So sure it is that it was resized after it had been compressed once.',
});

function rimsFinding(rims: number | null, where: string): Finding {
  const name = 'Rims';
  if (rims === null)
    return { name, figure: '–', matters: false, sentence: 'Too few hard edges to tell.' };
  const matters = rims >= SHARPENED;
  return {
    ...{ name, figure: percent(rims), matters },
    sentence: matters
      ? `Hard edges go so far beyond both their sides: it was sharpened before, and wants less of it now${where}.`
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

/** Share of a picture from which on its textures are told of, and made crisper by proposal. */
export const TEXTURED = 0.25;

const texturedFinding = (textured: number): Finding => ({
  name: 'Texture',
  figure: percent(textured),
  matters: true,
  sentence: 'Cloth, leaves, stone or the like; an enlargement leaves it smoother than it was.',
});
