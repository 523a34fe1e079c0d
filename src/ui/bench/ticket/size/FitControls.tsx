import { formatNumber } from '@/core/measure/format';
import { BLEED_LIMIT, type BleedFill, type Fit } from '@/core/measure/paper';
import type { PrintPlan } from '@/core/measure/plan';
import { typedMm } from '@/core/measure/typed';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { sameShape } from './PaperFields';
import { say } from '@/core/words/say';

const FITS: { value: Fit; label: string }[] = [
  { value: 'crop', label: say`Fill and crop` },
  { value: 'margin', label: say`Margins` },
  { value: 'stretch', label: say`Stretch` },
];
const FILLS: { value: BleedFill; label: string }[] = [
  { value: 'picture', label: say`Picture` },
  { value: 'mirror', label: say`Mirror` },
  { value: 'rim', label: say`Repeat edge` },
  { value: 'colour', label: say`Colour` },
];
const FILL_NOTES: Record<BleedFill, string> = {
  picture: say`More of the picture; where it ends, its mirror image.`,
  mirror: say`The edge of the print, mirrored. Nothing of the picture is lost.`,
  rim: say`The outermost pixels, drawn out.`,
  colour: say`The paper’s colour.`,
};

/** How the picture meets the paper: where shapes differ, and beyond the trim. */
export function FitControls({ bench, plan }: { bench: WorkBench; plan: PrintPlan }) {
  const { work, change } = bench;
  const { paper } = work;
  const bothGiven = paper.width !== null && paper.height !== null;
  const plain = sameShape(plan);
  const moved = paper.place.zoom !== 1 || paper.place.x !== 0.5 || paper.place.y !== 0.5;
  return (
    <>
      {bothGiven && (!plain || paper.fit !== 'crop' || moved) && (
        <>
          <Choices
            name="fit"
            label={say`How the picture meets the paper`}
            value={paper.fit}
            onChange={(fit) =>
              change(FITS.find((one) => one.value === fit)!.label, ({ paper: next }) => {
                next.fit = fit;
                next.place = { x: 0.5, y: 0.5, zoom: 1 };
              })
            }
            options={FITS}
          />
          <p className="reason">{fitWords(plan)}</p>
        </>
      )}
      <Fold title={say`Bleed, safe margin, colour`} line={bleedLine(bench)}>
        <div className="length-fields even">
          <FigureField
            label={say`Bleed`}
            text={formatNumber(paper.bleed.mm)}
            unit="mm"
            read={(text) => typedMm(text, { most: BLEED_LIMIT })}
            onEnter={(mm) =>
              change(say`Bleed ${formatNumber(mm)} mm`, (next) => (next.paper.bleed.mm = mm))
            }
          />
          <FigureField
            label={say`Safe margin`}
            text={formatNumber(paper.safe)}
            unit="mm"
            read={(text) => typedMm(text, { most: 500 })}
            onEnter={(mm) =>
              change(say`Safe margin ${formatNumber(mm)} mm`, (next) => (next.paper.safe = mm))
            }
          />
          <label className="colour">
            <span className="field-label">{say`Paper colour`}</span>
            <input
              type="color"
              value={paper.colour}
              onChange={(event) => {
                const { value } = event.target;
                change(say`Paper colour ${value}`, (next) => (next.paper.colour = value));
              }}
            />
          </label>
        </div>
        {paper.bleed.mm > 0 && (
          <>
            <Choices
              name="bleed"
              label={say`What the bleed is filled with`}
              value={paper.bleed.fill}
              options={FILLS}
              onChange={(fill) =>
                change(
                  say`Bleed: ${FILLS.find((one) => one.value === fill)!.label.toLowerCase()}`,
                  (next) => (next.paper.bleed.fill = fill),
                )
              }
            />
            <p className="reason">{FILL_NOTES[paper.bleed.fill]}</p>
          </>
        )}
      </Fold>
    </>
  );
}

function bleedLine({ work: { paper } }: WorkBench): string {
  const parts = [
    paper.bleed.mm > 0 ? say`bleed ${formatNumber(paper.bleed.mm)} mm` : say`no bleed`,
    paper.safe > 0 ? say`safe ${formatNumber(paper.safe)} mm` : '',
  ];
  return parts.filter(Boolean).join(' · ');
}

function fitWords({ croppedAway, margins, distortion }: PrintPlan): string {
  const percent = (share: number) => formatNumber(Math.abs(share) * 100, 1);
  if (distortion !== 0) {
    return say`Stretching makes everything ${percent(distortion)} % ${distortion > 0 ? say`wider` : say`narrower`} than it is.`;
  }
  const parts = [
    croppedAway > 0.0005 ? say`${percent(croppedAway)} % of the picture is left out.` : '',
    margins > 0.0005 ? say`${percent(margins)} % of the paper stays empty.` : '',
    croppedAway > 0.0005 || margins > 0.0005 ? say`Drag the paper on the picture to choose.` : '',
  ].filter(Boolean);
  return parts.join(' ') || say`The whole picture fills the paper.`;
}
