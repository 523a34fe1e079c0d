import { earlierBlocks } from '../../inspect/earlier-blocks';
import type { Findings } from '../../inspect/findings';
import { happenedTo, sentenceOf } from '../../inspect/happened';
import { formatNumber } from '../../measure/format';
import { newStep } from '../order';
import type { Proposed } from './proposed';
import { say } from '../../words/say';

/** What is cleaned before enlarging, where there is cause. */
export const proposeCleaning = (findings: Findings): Proposed[] => [
  ...proposeFirst(findings),
  ...proposeMore(findings),
];

/** What takes damage back: all of it at once where it is known what happened, or kind by kind. */
function proposeFirst(findings: Findings): Proposed[] {
  // The network hears how unsure each figure is, so that what is not plain is told as well. Of what form a blur has it hears
  // nothing: where that is known, it is taken back truer by deblurring.
  // What two compressions leave looks like other damage as well: then only what is plain counts.
  const { history, compressedBefore } = findings;
  const happened = history && happenedTo(history, findings, !compressedBefore);
  if (!happened || findings.grid || findings.blur?.motion || findings.blur?.disc) {
    return [proposeCompression(findings), ...proposeNoise(findings), ...proposeDeblur(findings)];
  }
  // Of compression alone the file's own tables tell more. Where nothing else happened, what looks like grain or blur is
  // the picture's own.
  if (happened.every(({ of }) => of === 'quality')) return [proposeCompression(findings)];
  const sentence = say`${sentenceOf(happened)}: taken back at once, by a network that is told so.`;
  return [{ step: newStep('restore'), sentence }];
}

function proposeCompression(findings: Findings): Proposed {
  const { jpeg, compressedBefore, vector, kind } = findings;
  const off = (sentence: string): Proposed => ({
    step: { ...newStep('compression'), on: false },
    sentence,
  });
  const on = (sentence: string, strength = 100): Proposed => ({
    step: { ...newStep('compression'), strength },
    sentence,
  });
  if (vector) return off(say`Nothing to clean: shapes carry no compression.`);
  if (kind === 'pixel squares' && findings.grid) {
    return off(say`Nothing to clean: squares are taken from their middles.`);
  }
  if (!jpeg) {
    return earlierBlocks(findings) === null
      ? off(say`No trace of block compression.`)
      : findings.formerQuality === null
        ? on(say`Not a JPEG, but a block grid shows: it was one before.`, 70)
        : on(
            say`Not a JPEG, but it was one before, of about quality ${findings.formerQuality}: a block grid shows.`,
          );
  }
  if (compressedBefore) {
    return on(
      say`By the tables of a JPEG of quality ${compressedBefore.quality}, which it was before it was saved as it is now: they left more.`,
    );
  }
  return jpeg.quality === null
    ? on(say`By the file's own quantisation tables.`)
    : on(say`By the file's own tables, of JPEG quality ${jpeg.quality}.`);
}

/** From so many levels on noise is seen when a picture is enlarged. */
const SEEN_NOISE = 2;
/** A picture has faded where its darkest tone is so light and its lightest so dark: either alone may be the scene's own. */
const FADED = { black: 0.06, white: 0.92 } as const;
/**
 * Dyes that faded apart leave a cast: the colours' darkest tones differ by so much, the lightest by as much, and none of
 * them is black or white any more. A scene's own colours leave one black.
 */
const CAST = { spread: 0.08, black: 0.03, white: 0.98 } as const;

/** What else is cleaned, where there is cause. */
function proposeMore(findings: Findings): Proposed[] {
  const { vector, grid, kind, fringes, tones, banding } = findings;
  if (vector || grid) return [];
  const more = proposeGround(findings);
  if (fringes >= 6 && kind === 'photograph') {
    more.push({
      step: newStep('fringes'),
      sentence: say`Stray colour of ${formatNumber(fringes, 1)} levels on hard edges.`,
    });
  }
  if (banding >= 0.15 && kind === 'photograph') {
    more.push({ step: newStep('banding'), sentence: say`Its smooth parts climb in steps.` });
  }
  if (kind === 'photograph') more.push(...proposeTones(tones));
  return more;
}

function proposeNoise({ vector, grid, noise }: Findings): Proposed[] {
  if (vector || grid) return [];
  if (noise.luma < SEEN_NOISE && noise.colour < 1.5 * SEEN_NOISE) return [];
  const sentence = say`Grain of ${formatNumber(noise.luma, 1)} levels, ${formatNumber(noise.colour, 1)} in colour, would grow with the picture.`;
  return [{ step: newStep('noise'), sentence }];
}

function proposeGround({ grounds, jpeg, formerQuality }: Findings): Proposed[] {
  if (grounds.length === 0 || (!jpeg && formerQuality === null)) return [];
  const on = grounds.length === 1 ? say`one flat colour` : say`${grounds.length} flat colours`;
  const sentence = say`It lies on ${on}: what compression left there goes wholly.`;
  return [{ step: newStep('ground'), sentence }];
}

function proposeTones({ black, white }: Findings['tones']): Proposed[] {
  const spread = (points: readonly number[]) => Math.max(...points) - Math.min(...points);
  const [darkest, lightest] = [Math.min(...black), Math.max(...white)];
  const apart = Math.min(spread(black), spread(white)) >= CAST.spread;
  const cast = apart && darkest >= CAST.black && lightest <= CAST.white;
  const faded = darkest >= FADED.black && lightest <= FADED.white;
  if (!cast && !faded) return [];
  const range = Math.round((lightest - darkest) * 100);
  const sentence = cast
    ? say`Its colours have faded apart: neither its darkest nor its lightest tones are grey.`
    : say`Faded: neither black nor white is left, its tones use ${range} % of the range.`;
  // Without a cast the colour of the light is the picture's own.
  return [{ step: { ...newStep('tones', { cast: cast ? 100 : 0 }), strength: 80 }, sentence }];
}

/** Blur from so many pixels on is taken back before enlarging: what is found below is mostly none. */
const SOFT = 0.3;

function proposeDeblur({ blur, kind, vector, grid }: Findings): Proposed[] {
  if (vector || grid || !blur || (kind !== 'photograph' && kind !== 'mixed')) return [];
  const step = newStep('deblur');
  if (blur.motion) {
    const { length, angle } = blur.motion;
    const sentence = say`It moved by ${formatNumber(length, 1)} px at ${formatNumber(angle, 0)}°: taken back here, where its pixels are.`;
    return [{ step, sentence }];
  }
  if (blur.disc) {
    const sentence = say`Out of focus, each point a disc of ${formatNumber(blur.disc.radius, 1)} px radius: taken back here, where its pixels are.`;
    return [{ step, sentence }];
  }
  if (blur.sigma < SOFT) return [];
  const sentence = say`Its sharpest parts are soft by ${formatNumber(blur.sigma, 1)} px: taken back here, before it is enlarged, rather than sharpened afterwards.`;
  return [{ step, sentence }];
}
