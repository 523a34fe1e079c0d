import { facesFound } from '../faces/words';
import { formatNumber } from '../measure/format';
import { VISIBLE } from './blocking';
import type { CompressedBefore } from './compressed-before';
import type { Findings } from './findings';
import { happenedTo, kindOfNoise } from './happened';
import type { History, Measured } from './history';
import { ownGrid, type JpegFacts } from './jpeg';
import type { LocalBlur } from './local-blur';
import { say } from '../words/say';

/** One finding: its figure, and what it means in one plain sentence. */
export interface Finding {
  name: string;
  figure: string;
  sentence: string;
  /** whether it is something to do about, or to know */
  matters: boolean;
  /** what a picture suffers from where it matters; none where it is no harm */
  harm?: string;
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
        ? [enlargedFinding(say`about × ${formatNumber(2 ** history.enlarged.value, 1)}`)]
        : []),
    history && !blur?.motion && !blur?.disc
      ? softFinding(history.blur, plainly('blur'))
      : blurFinding(blur),
    ...(findings.localBlur ? [localBlurFinding(findings.localBlur)] : []),
    {
      name: say`Blocking`,
      harm: say`blocking`,
      figure: `${blocking.strength} %`,
      map: 'blocks',
      matters: blocking.strength >= HARMFUL || isEarlierGrid(findings),
      sentence: blockSentence(findings),
    },
    ...(findings.compressedBefore ? [compressedFinding(findings.compressedBefore, jpeg)] : []),
    history ? grainFinding(history, plainly('noise')) : noiseFinding(findings.noise),
    {
      name: say`Ringing`,
      harm: say`ringing`,
      figure: say`${formatNumber(ringing, 1)} levels`,
      matters: ringing >= 2.5,
      sentence:
        ringing < 2.5
          ? say`Hardly any ripple beside hard edges.`
          : say`Ripple beside hard edges, from ${jpeg ? say`compression` : say`compression or sharpening`}; enlarging would spread them.`,
    },
    ...(history
      ? [sharpenedFinding(history, plainly('sharpening'), rimsAt(findings))]
      : [rimsFinding(findings.rims, rimsAt(findings))]),
    ...(plainly('resized') ? [resizedFinding(history!.resized)] : []),
    ...(findings.textured >= TEXTURED ? [texturedFinding(findings.textured)] : []),
    {
      name: say`Fringes`,
      harm: say`colour fringes`,
      figure: say`${formatNumber(fringes, 1)} levels`,
      matters: fringes >= 6,
      sentence:
        fringes < 6
          ? say`Hardly any stray colour on hard edges.`
          : say`Stray colour on hard edges, as lenses and chroma subsampling leave it.`,
    },
    {
      name: say`Banding`,
      harm: say`banding`,
      figure: percent(banding),
      matters: banding >= 0.05,
      sentence:
        banding < 0.05
          ? say`The smooth parts are smooth.`
          : say`So much of the smooth parts climbs in steps, which print may show.`,
    },
    {
      name: say`Clipped`,
      harm: say`clipped tones`,
      figure: `${percent(clipped.dark)} · ${percent(clipped.bright)}`,
      matters: clipped.dark > 0.02 || clipped.bright > 0.02,
      sentence:
        clipped.dark > 0.02 || clipped.bright > 0.02
          ? say`So much is plain black, and plain white: nothing can be brought back there.`
          : say`Next to nothing is plain black or plain white.`,
    },
    ...(findings.faces.length > 0 ? [facesFinding(findings.faces)] : []),
  ];
}

const facesFinding = (faces: Findings['faces']): Finding => ({
  name: 'Faces',
  figure: String(faces.length),
  map: 'faces',
  matters: true,
  sentence: facesFound(faces),
});

const enlargedFinding = (figure: string): Finding => ({
  name: say`Enlarged`,
  harm: say`an earlier enlargement`,
  figure,
  matters: true,
  sentence: say`So many times as large as it was: what lies between holds nothing. Ask for the file before that.`,
});

function detailFinding(detail: number | null): Finding {
  if (detail === null) {
    return {
      name: say`Detail`,
      figure: '–',
      matters: false,
      sentence: say`Too even to be judged.`,
    };
  }
  return {
    name: say`Detail`,
    harm: say`missing detail`,
    figure: percent(detail),
    map: 'sharpness',
    matters: detail < 0.6,
    sentence:
      detail >= 0.85
        ? say`Nearly all of its pixels hold detail.`
        : say`About ${percent(detail)} of its pixels hold detail${detail < 0.45 ? say`: it was enlarged before, or is out of focus` : ''}.`,
  };
}

function blurFinding(blur: Findings['blur']): Finding {
  const name = 'Blur';
  if (!blur)
    return { name, figure: '–', matters: false, sentence: say`Nothing tells how sharp it is.` };
  if (blur.motion) {
    const { length, angle } = blur.motion;
    return {
      ...{
        name,
        harm: say`motion blur`,
        figure: say`${formatNumber(length, 1)} px`,
        matters: true,
      },
      sentence: say`It moved by so much, at ${formatNumber(angle, 0)}°; Deblur in Clean takes that back.`,
    };
  }
  if (blur.disc) {
    return {
      ...{ name, harm: say`wrong focus`, figure: say`${formatNumber(blur.disc.radius, 1)} px` },
      matters: true,
      sentence: say`Out of focus: every point became a disc of that radius; Deblur in Clean takes that back.`,
    };
  }
  const matters = blur.sigma >= SOFT;
  return {
    ...{ name, harm: say`blur`, figure: say`${formatNumber(blur.sigma, 1)} px`, matters },
    sentence: matters
      ? say`Its sharpest parts are as soft as that; Deblur in Clean takes it back.`
      : say`Its sharpest parts are sharp.`,
  };
}

function compressedFinding(before: CompressedBefore, jpeg: JpegFacts | null): Finding {
  const own = ownGrid(jpeg);
  const cropped = own !== null && (own.x !== before.x || own.y !== before.y);
  return {
    ...{ name: say`Re-saved`, figure: say`quality ${before.quality}`, matters: true },
    harm: say`repeated compression`,
    sentence: say`It was saved as a JPEG of that quality${cropped ? say`, then cropped,` : ''} and saved again finer: cleaning goes by the coarser.`,
  };
}

const localBlurFinding = ({ sharpest, softest }: LocalBlur): Finding => ({
  ...{ name: say`Focus`, map: 'sharpness', matters: false },
  figure: say`${formatNumber(sharpest.width, 1)} – ${formatNumber(softest.width, 1)} px`,
  sentence: say`Edges rise over the fewest pixels at the ${sharpest.part}, over the most at the ${softest.part}: a zone keeps a step to either.`,
});

function noiseFinding({ luma, colour }: Findings['noise']): Finding {
  return {
    name: say`Noise`,
    harm: say`noise`,
    figure: say`${formatNumber(luma, 1)} · ${formatNumber(colour, 1)} levels`,
    matters: luma >= 2 || colour >= 2.5,
    sentence:
      luma < 0.8 && colour < 0.8
        ? say`Grain in brightness and in colour: clean.`
        : say`Grain in brightness and in colour: ${luma < 2 ? say`faint` : luma < 5 ? say`seen when enlarged` : say`strong`}.`,
  };
}

/** A measured figure and how far off it may be. */
const within = ({ value, off }: Measured, unit: string, digits = 1): string =>
  `${formatNumber(value, digits)} ± ${formatNumber(off, digits)} ${unit}`;

function softFinding(blur: Measured, matters: boolean): Finding {
  return {
    ...{ name: say`Blur`, harm: say`blur`, figure: within(blur, 'px'), matters },
    sentence: matters
      ? say`It lost its finest detail by so much of blur; Restore in Clean takes that back.`
      : say`No blur that is sure.`,
  };
}

function grainFinding(history: History, matters: boolean): Finding {
  const kind = kindOfNoise(history).join(', ');
  return {
    ...{ name: say`Noise`, harm: say`noise`, figure: within(history.noise, 'levels'), matters },
    sentence: matters
      ? say`It had so much before it was compressed${kind && `, ${kind}`}; enlarging would show it.`
      : say`No noise that is sure.`,
  };
}

/** Where rims lie that are to be seen, as the end of a sentence. */
const rimsAt = ({ rims, rimReach }: Findings): string =>
  (rims ?? 0) >= SHARPENED && rimReach !== null
    ? say`; its halos lie about ${formatNumber(rimReach, 1)} px off hard edges`
    : '';

/** A radius that may be so many pixels off is not told. */
const UNTOLD = 1;

function sharpenedFinding(
  { sharpening, radius }: History,
  matters: boolean,
  where: string,
): Finding {
  const by = radius.off < UNTOLD ? say`, by a radius of ${within(radius, 'px')}` : '';
  return {
    ...{ name: say`Sharpened`, harm: say`earlier sharpening`, figure: within(sharpening, '%', 0) },
    matters,
    sentence: matters
      ? say`It was sharpened before, about so much${by}${where}. Restore in Clean takes that back.`
      : say`No earlier sharpening that is sure.`,
  };
}

const resizedFinding = (resized: Measured): Finding => ({
  ...{
    name: say`Resized`,
    harm: say`an earlier resize`,
    figure: percent(Math.min(1, resized.value)),
  },
  matters: true,
  sentence: say`So sure it is that it was resized after it had been compressed once.`,
});

function rimsFinding(rims: number | null, where: string): Finding {
  const name = 'Halos';
  if (rims === null)
    return { name, figure: '–', matters: false, sentence: say`Too few hard edges to tell.` };
  const matters = rims >= SHARPENED;
  return {
    ...{ name, harm: say`earlier sharpening`, figure: percent(rims), matters },
    sentence: matters
      ? say`Hard edges go so far beyond both their sides: it was sharpened before, and wants less of it now${where}.`
      : say`Hard edges stop at both their sides.`,
  };
}

/** Rims of so much of an edge tell of earlier sharpening. */
export const SHARPENED = 0.12;

/** From so many pixels on blur shows when a picture is enlarged. */
const SOFT = 0.6;

/** Whether a grid shows that is not where the file's own compression has it: an earlier one. */
function isEarlierGrid({ blocking, jpeg }: Findings): boolean {
  if (blocking.ratio < VISIBLE) return false;
  const at = (offset: number) => ((offset % 8) + 8) % 8;
  return !jpeg || at(jpeg.gridX) !== blocking.offsetX || at(jpeg.gridY) !== blocking.offsetY;
}

function blockSentence(findings: Findings): string {
  const { blocking, jpeg, formerQuality } = findings;
  if (blocking.ratio < VISIBLE) return say`No grid of compression shows.`;
  const at = say`The grid begins at ${blocking.offsetX}, ${blocking.offsetY}`;
  if (!isEarlierGrid(findings)) {
    return blocking.strength < HARMFUL
      ? say`The grid of its compression is there, too faint to be seen.`
      : say`Neighbours differ ${formatNumber(blocking.ratio, 1)} times as much across block borders.`;
  }
  if (jpeg) {
    return say`${at}, not where this file's own does: it was compressed before and cropped.`;
  }
  return formerQuality === null
    ? say`${at}: it was a JPEG before.`
    : say`${at}: it was a JPEG before, of about quality ${formerQuality}.`;
}

/** Blocking of less, in %, is measured and not seen. */
const HARMFUL = 8;

/** Share of a picture from which on its textures are told of, and made crisper by proposal. */
export const TEXTURED = 0.25;

const texturedFinding = (textured: number): Finding => ({
  name: say`Texture`,
  figure: percent(textured),
  matters: true,
  sentence: say`Cloth, leaves, stone or the like; an enlargement leaves it smoother than it was.`,
});
