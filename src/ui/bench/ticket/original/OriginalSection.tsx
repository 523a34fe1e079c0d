import { blockingWord, compressionWords } from '@/core/inspect/findings';
import { formatNumber } from '@/core/measure/format';
import type { WorkBench } from '../../use-work';
import { Section } from '../Section';
import { FileFacts } from './FileFacts';
import { OriginalGist } from './OriginalGist';
import { FramingControls } from './FramingControls';
import { KindChoice } from './KindChoice';
import { PageChoice } from './PageChoice';
import { PixelFindings } from './PixelFindings';
import { PlacedPictures } from './PlacedPictures';
import { SuitingRecipe } from './SuitingRecipe';
import { say } from '@/core/words/say';

export function OriginalSection({ bench }: { bench: WorkBench }) {
  const { findings, fileName } = bench.job.piece;
  const { vector, damaged } = findings;
  const mm = (points: number) => formatNumber((points / 72) * 25.4, 0);
  const line = vector
    ? say`${mm(vector.widthPt)} × ${mm(vector.heightPt)} mm · ${compressionWords(findings)}`
    : [
        `${findings.width} × ${findings.height}`,
        compressionWords(findings),
        // What was saved twice leaves no room for it.
        ...(findings.compressedBefore ? [] : [blockingWord(findings)]),
      ].join(' · ');
  return (
    <Section bench={bench} name="original" title={say`Original`} line={line}>
      <p className="file-name">{fileName}</p>
      <OriginalGist bench={bench} />
      {!bench.inside && <SuitingRecipe bench={bench} />}
      {damaged > 0 && (
        <p className="field-trouble" role="alert">
          {say`The file is cut off or damaged. About ${Math.max(1, Math.round(damaged * 100))} % of the picture is missing.`}
        </p>
      )}
      {findings.pages > 1 && <PageChoice bench={bench} />}
      {vector ? <PlacedPictures bench={bench} /> : <PixelFindings bench={bench} />}
      <KindChoice bench={bench} />
      <FileFacts findings={findings} />
      {findings.notes.map((note) => (
        <p className="reason" key={note}>
          {note}
        </p>
      ))}
      {!bench.inside && <FramingControls bench={bench} />}
    </Section>
  );
}
