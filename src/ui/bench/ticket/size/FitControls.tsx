import { formatNumber } from '@/core/measure/format';
import { BLEED_LIMIT, type BleedFill, type Fit } from '@/core/measure/paper';
import type { PrintPlan } from '@/core/measure/plan';
import { parseMm } from '@/core/measure/units';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { sameShape } from './PaperFields';

const FITS: { value: Fit; label: string }[] = [
  { value: 'crop', label: 'Fill and crop' },
  { value: 'margin', label: 'Margins' },
  { value: 'stretch', label: 'Stretch' },
];
const FILLS: { value: BleedFill; label: string }[] = [
  { value: 'picture', label: 'Picture' },
  { value: 'mirror', label: 'Mirror' },
  { value: 'rim', label: 'Rim' },
  { value: 'colour', label: 'Colour' },
];
const FILL_NOTES: Record<BleedFill, string> = {
  picture: 'More of the picture; where it ends, its mirror image.',
  mirror: 'The rim of the print, mirrored. Nothing of the picture is lost.',
  rim: 'The outermost pixels, drawn out.',
  colour: 'The paper’s colour.',
};

/** Reads millimetres; null where they are none, or beyond `most`. */
function readMm(text: string, most: number): number | null {
  const mm = parseMm(text);
  return mm !== null && mm <= most ? mm : null;
}

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
            label="How the picture meets the paper"
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
      <Fold title="Bleed, safe margin, colour" line={bleedLine(bench)}>
        <div className="length-fields even">
          <FigureField
            label="Bleed"
            text={formatNumber(paper.bleed.mm)}
            unit="mm"
            onEnter={(text) => {
              const mm = readMm(text, BLEED_LIMIT);
              if (mm === null) return `0 to ${BLEED_LIMIT} mm`;
              change(`Bleed ${formatNumber(mm)} mm`, (next) => (next.paper.bleed.mm = mm));
              return null;
            }}
          />
          <FigureField
            label="Safe margin"
            text={formatNumber(paper.safe)}
            unit="mm"
            onEnter={(text) => {
              const mm = readMm(text, 500);
              if (mm === null) return '0 to 500 mm';
              change(`Safe margin ${formatNumber(mm)} mm`, (next) => (next.paper.safe = mm));
              return null;
            }}
          />
          <label className="colour">
            <span className="field-label">Paper colour</span>
            <input
              type="color"
              value={paper.colour}
              onChange={(event) => {
                const { value } = event.target;
                change(`Paper colour ${value}`, (next) => (next.paper.colour = value));
              }}
            />
          </label>
        </div>
        {paper.bleed.mm > 0 && (
          <>
            <Choices
              name="bleed"
              label="What the bleed is filled with"
              value={paper.bleed.fill}
              options={FILLS}
              onChange={(fill) =>
                change(`Bleed: ${fill}`, (next) => (next.paper.bleed.fill = fill))
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
    paper.bleed.mm > 0 ? `bleed ${formatNumber(paper.bleed.mm)} mm` : 'no bleed',
    paper.safe > 0 ? `safe ${formatNumber(paper.safe)} mm` : '',
  ];
  return parts.filter(Boolean).join(' · ');
}

function fitWords({ croppedAway, margins, distortion }: PrintPlan): string {
  const percent = (share: number) => formatNumber(Math.abs(share) * 100, 1);
  if (distortion !== 0) {
    return `Stretching makes everything ${percent(distortion)} % ${distortion > 0 ? 'wider' : 'narrower'} than it is.`;
  }
  const parts = [
    croppedAway > 0.0005 ? `${percent(croppedAway)} % of the picture is left out.` : '',
    margins > 0.0005 ? `${percent(margins)} % of the paper stays empty.` : '',
    croppedAway > 0.0005 || margins > 0.0005 ? 'Drag the paper on the picture to choose.' : '',
  ].filter(Boolean);
  return parts.join(' ') || 'The whole picture fills the paper.';
}
