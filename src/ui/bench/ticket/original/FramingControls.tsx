import { Crop, RotateCcw, RotateCw } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { frameSize, pictureRect, STRAIGHTEN_LIMIT, Turn } from '@/core/frame/framing';
import { formatNumber } from '@/core/measure/format';
import { framingOf } from '@/core/recipe/plan';
import { Choices } from '../../../parts/Choices';
import { FigureField } from '../../../parts/FigureField';
import { Fold } from '../../../parts/Fold';
import { Slider } from '../../../parts/Slider';
import { shapeOfPaper } from '../../stage/modes/crop/CropOnPicture';
import type { WorkBench } from '../../use-work';
import { lookIn, useLooking } from '../../stage/modes/mode';

/** Turning, straightening, and taking a part; the original itself stays whole. */
export function FramingControls({ bench }: { bench: WorkBench }) {
  const { work, change, sketch, original } = bench;
  const special = useLooking((looking) => looking.special);
  const crop = special?.way === 'crop' ? special : null;
  const { framing } = work;
  const frame = frameSize(original.size, framingOf(original, work));
  const rect = pictureRect(original.size, framingOf(original, work));

  const turnBy = (degrees: number, label: string) =>
    change(label, (next) => {
      next.framing.turn = Turn.parse((next.framing.turn + degrees + 360) % 360);
      // A part that was taken turns with the picture.
      const taken = next.framing.crop;
      if (!taken) return;
      next.framing.crop =
        degrees > 0
          ? {
              x: frame.height - taken.y - taken.height,
              y: taken.x,
              width: taken.height,
              height: taken.width,
            }
          : {
              x: taken.y,
              y: frame.width - taken.x - taken.width,
              width: taken.height,
              height: taken.width,
            };
    });

  const side = (name: 'x' | 'y' | 'width' | 'height', label: string) => (
    <FigureField
      label={label}
      text={String(rect[name])}
      onEnter={(text) => {
        const value = Number(text);
        const along = name === 'x' || name === 'width' ? 'width' : 'height';
        const start = along === 'width' ? 'x' : 'y';
        const least = name === start ? 0 : 1;
        const most = name === start ? frame[along] - 1 : frame[along] - rect[start];
        if (!Number.isInteger(value) || value < least || value > most) {
          return `${least} to ${most}`;
        }
        change('Part of the picture', (next) => {
          const crop = { ...rect, [name]: value };
          if (name === start) crop[along] = Math.min(crop[along], frame[along] - value);
          next.framing.crop = crop;
        });
        return null;
      }}
    />
  );

  // Of shapes, hundredths of points.
  const unit = original.vector ? 'pt/100' : 'px';
  const straightenTo = (value: number) => (next: WorkBench['work']) => {
    next.framing.straighten = value;
  };
  const parts = [
    framing.turn ? `turned ${framing.turn}°` : '',
    framing.straighten ? `${formatNumber(framing.straighten)}°` : '',
    framing.crop ? (original.vector ? 'a part' : `${rect.width} × ${rect.height}`) : '',
  ].filter(Boolean);
  const paper = shapeOfPaper(bench);
  return (
    <Fold title="Turn, straighten, take a part" line={parts.join(' · ') || 'as it came'}>
      <div className="d-flex gap-2">
        <Button variant="quiet" size="sm" onClick={() => turnBy(-90, 'Turned left')}>
          <RotateCcw size={14} aria-hidden /> Left
        </Button>
        <Button variant="quiet" size="sm" onClick={() => turnBy(90, 'Turned right')}>
          <RotateCw size={14} aria-hidden /> Right
        </Button>
        <Button
          variant={crop ? 'primary' : 'quiet'}
          size="sm"
          className="ms-auto"
          aria-pressed={crop !== null}
          onClick={() => lookIn(crop ? null : { way: 'crop', shape: 'free' })}
        >
          <Crop size={14} aria-hidden /> {crop ? 'Done' : 'Take a part'}
        </Button>
      </div>
      {!original.vector && (
        <Slider
          label="Straighten"
          value={framing.straighten}
          min={-STRAIGHTEN_LIMIT}
          max={STRAIGHTEN_LIMIT}
          step={0.1}
          usual={0}
          unit="°"
          onDrag={(value) => sketch(straightenTo(value))}
          onSet={(value) => change(`Straightened ${formatNumber(value)}°`, straightenTo(value))}
        />
      )}
      {crop && paper !== null && (
        <Choices
          name="crop-shape"
          label="Shape of the part"
          value={crop.shape}
          onChange={(value) => lookIn({ way: 'crop', shape: value })}
          options={[
            { value: 'free', label: 'Free' },
            { value: 'paper', label: 'In the paper’s shape' },
          ]}
        />
      )}
      {(crop || framing.crop) && (
        <>
          <div className="length-fields quarters">
            {side('x', `Left, ${unit}`)}
            {side('y', `Top, ${unit}`)}
            {side('width', `Width, ${unit}`)}
            {side('height', `Height, ${unit}`)}
          </div>
          {framing.crop && (
            <Button
              variant="quiet"
              size="sm"
              className="align-self-start"
              onClick={() => change('The whole picture', (next) => (next.framing.crop = null))}
            >
              Take the whole picture
            </Button>
          )}
        </>
      )}
    </Fold>
  );
}
