import { unseenRim } from '../../evidence/finishing';
import { USUAL_GUARDS, type Guards } from '../../guard/guards';
import type { Findings } from '../../inspect/findings';
import { SHARPENED, TEXTURED } from '../../inspect/words';
import { formatNumber } from '../../measure/format';
import { MM_PER_INCH } from '../../measure/units';
import { steps } from '../../steps';
import { spreadAndEye, surfaceOf } from '../../steps/paper/surfaces';
import { newStep } from '../order';
import { FACES_ZONE } from './faces';
import { isHarsh } from '../plan';
import type { Proposed } from './proposed';
import { say } from '../../words/say';

/** What finishing goes by besides what was found. */
export interface Finishing {
  /** pixels of the original an inch of paper; null where the size is not known yet */
  ppiBefore: number | null;
  /** whether a network enlarges: its edges are crisp already */
  learned: boolean;
  /** whether its edges are drawn fresh */
  traced: boolean;
  /** metres from which the print is looked at */
  distance: number;
  material: string | null;
}

/** An original pixel's side on paper, in mm, where the size is not known yet. */
const USUAL_PIXEL = 0.6;
/** Rims of so much of an edge are enough: nothing is added to them. */
const RIMS_ENOUGH = 0.35;
/** Ink spread matters from so much of an original pixel on: finer there is no detail. */
const MATTERS = 0.35;

/** Rims are up to so many times as wide as the radius of what makes them. */
const WIDER = 2.5;

/**
 * The overshoot limit of a proposal: rims about as wide as its sharpening looks stay below what is seen, all steps
 * together.
 */
export function proposeGuards(proposed: readonly Proposed[], { distance }: Finishing): Guards {
  const radii = proposed.flatMap(({ step }) =>
    step.kind === 'unsharp' && step.on ? [step.settings.radius] : [],
  );
  const width = WIDER * Math.max(...radii, 0.1);
  const most = unseenRim(width, distance) / Math.max(1, proposed.length);
  const whole = Math.max(1, Math.ceil(most) - 1);
  const { light, dark } = USUAL_GUARDS;
  return { ...USUAL_GUARDS, light: Math.min(light, whole), dark: Math.min(dark, whole) };
}

/** What is done at the print's size: sharpening by half an original pixel, and for what ink and eye take away. */
export function proposeFinishing(findings: Findings, finishing: Finishing): Proposed[] {
  const pixel = finishing.ppiBefore ? MM_PER_INCH / finishing.ppiBefore : USUAL_PIXEL;
  const forPaper = proposePaper(findings, finishing, pixel);
  return [
    ...proposeCrisp(findings, finishing),
    proposeUnsharp(findings, finishing, pixel, forPaper.length > 0),
    ...forPaper,
  ];
}

/** From compression harder than this textures are as much its own as the picture's. */
const LEAST_QUALITY = 60;
/** Noise of so many levels would be taken for texture. */
const NOISY = 3;

/** Textures are made crisper where there is enough of them, and a network that leaves them smooth. */
function proposeCrisp(findings: Findings, { learned, ppiBefore }: Finishing): Proposed[] {
  const { textured, kind, jpeg, formerQuality, compressedBefore, history, noise, faces } = findings;
  const own = jpeg?.quality ?? history?.quality.value ?? formerQuality ?? 100;
  const quality = Math.min(own, compressedBefore?.quality ?? 100);
  const clean = quality >= LEAST_QUALITY && noise.luma < NOISY;
  if (textured < TEXTURED || kind !== 'photograph' || !learned || !ppiBefore || !clean) return [];
  const beside = faces.length > 0;
  return [
    {
      step: {
        ...newStep('crisp'),
        ...(beside && { zone: FACES_ZONE.id, elsewhere: true }),
      },
      sentence: say`${Math.round(textured * 100)} % of it is texture, which a network leaves too smooth: strengthened half of the way to what the next coarser detail lets expect${beside ? say`, but for faces` : ''}. What is added is made up.`,
    },
  ];
}

function proposeUnsharp(
  findings: Findings,
  { learned, traced }: Finishing,
  pixel: number,
  paperFollows: boolean,
): Proposed {
  const { kind, noise, vector } = findings;
  // Half a pixel of the original as it lies on the paper: finer holds no detail to sharpen.
  const radius = Number(Math.min(3, Math.max(0.1, pixel * 0.5)).toFixed(2));
  const harsh = isHarsh(findings.jpeg, findings.compressedBefore);
  const noisy = noise.luma > 2;
  const threshold = harsh ? 3 : noisy ? Math.min(8, Math.ceil(noise.luma)) : 1;
  const drawn = kind === 'line art' || kind === 'flat artwork';
  const rims = findings.rims ?? 0;
  const least = rims < SHARPENED ? 1 : Math.max(0, 1 - rims / RIMS_ENOUGH);
  const whole = (drawn ? 40 : learned ? 35 : 50) * (paperFollows ? 0.6 : 1);
  const amount = Math.round(whole * least);
  const settings = {
    ...steps.unsharp.defaults,
    ...{ radius, unit: 'mm' as const, amount: Math.max(amount, 10), threshold },
  };
  const said = (on: boolean, sentence: string): Proposed => ({
    step: { kind: 'unsharp', on, strength: 100, settings },
    sentence,
  });
  if (vector) return said(false, say`Off: shapes are as sharp as the device.`);
  if (traced) return said(false, say`Off: edges that are drawn fresh are as sharp as the device.`);
  if (kind === 'pixel squares') {
    return said(false, say`Off: the edges of squares are hard already.`);
  }
  const share = `${Math.round(rims * 100)} %`;
  if (amount < 10) {
    return said(false, say`Off: halos of ${share} lie along its edges; it was sharpened before.`);
  }
  const why = harsh
    ? say` to leave the remains of compression alone`
    : noisy
      ? say` to leave its noise alone`
      : '';
  const less =
    least < 1
      ? say`; amount ${amount} %, since it was sharpened before: halos of ${share} lie along its edges`
      : drawn
        ? say`; amount ${amount} %, so that edges of ${kind} get no halos`
        : learned
          ? say`; amount ${amount} %, since the network's edges are crisp`
          : '';
  // The guards leave tones of skin alone, but for the edges in them.
  const skin = findings.faces.length > 0 ? say`; of faces the eyes and mouths, not the skin` : '';
  return said(
    true,
    say`Radius ${radius} mm, half an original pixel on this paper; threshold ${threshold}${why}${less}${skin}.`,
  );
}

function proposePaper(
  { vector, kind, rims }: Findings,
  { ppiBefore, distance, material }: Finishing,
  pixel: number,
): Proposed[] {
  if (vector || kind === 'pixel squares' || !ppiBefore) return [];
  if ((rims ?? 0) >= RIMS_ENOUGH) return [];
  const surface = surfaceOf(material);
  const { ink } = spreadAndEye(surface, distance);
  if (ink < MATTERS * pixel) return [];
  const share = formatNumber(ink / pixel, 1);
  return [
    {
      step: newStep('paper'),
      sentence: say`On ${surface} ink spreads by ${formatNumber(ink, 2)} mm, ${share} of an original pixel there: enough to take detail away.`,
    },
  ];
}
