import { useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { formatFactor, formatSeconds } from '@/core/measure/format';
import { Method, methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/recipe/work';
import type { Spotted } from '@/preview/client';
import { ofStep, type WorkBench } from '../../../use-work';
import { lookIn } from '../mode';
import { useSelfTest, type Test } from './use-self-test';
import { Progress } from '../../../../parts/Progress';
import { say } from '@/core/words/say';

/** This very picture, reduced and enlarged back by every method, beside itself. */
export function SelfTest({ bench }: { bench: WorkBench }) {
  const test = useSelfTest(bench);
  const [looked, setLooked] = useState<string | null>(null);
  if (!test || test.trouble) {
    return (
      <div className="self-test" role="region" aria-label={say`Test on this picture`}>
        <p className={test ? 'trouble' : 'soft'}>{test?.trouble ?? say`Reducing the picture …`}</p>
      </div>
    );
  }
  const best = Math.max(...test.rows.map(({ psnr }) => psnr));
  const row =
    test.rows.find(({ method }) => method === looked) ??
    test.rows.find(({ psnr }) => psnr === best);
  const take = (method: Method) => {
    bench.change(
      methodNotes[method].title,
      ofStep('enlarge', (next) => (next.settings.method = method)),
    );
    lookIn(null);
  };
  return (
    <div className="self-test" role="region" aria-label={say`Test on this picture`}>
      <header>
        <h2>{say`Tested on this very picture`}</h2>
        <p className="soft">
          {test.truth
            ? say`Reduced to 1 : ${formatFactor(test.truth.factor)}, enlarged back by every method, and compared with itself.`
            : say`Reduced, enlarged back by every method, and compared with itself.`}
        </p>
        {!test.truth && (
          <Progress share={test.rows.length / test.expected} label={say`Progress of the test`} />
        )}
      </header>
      <Table {...{ test, best, bench }} looked={row?.method ?? null} onLook={setLooked} />
      <div className="tested-spots">
        <figure>
          <Spot spot={test.truth?.spot ?? null} />
          <figcaption>{say`The picture itself`}</figcaption>
        </figure>
        {row && (
          <figure>
            <Spot spot={row.spot} />
            <figcaption>
              {methodNotes[Method.parse(row.method)].title}
              <Button size="sm" onClick={() => take(Method.parse(row.method))}>
                {say`Take it`}
              </Button>
            </figcaption>
          </figure>
        )}
      </div>
    </div>
  );
}

interface TableProps {
  bench: WorkBench;
  test: Test;
  best: number;
  looked: string | null;
  onLook(method: string): void;
}

function Table({ bench, test, best, looked, onLook }: TableProps) {
  const taken = stepOf(bench.trial.treatment, 'enlarge')!.settings.method;
  const plain = test.rows.find(({ method }) => method === 'bicubic')?.psnr;
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">{say`Method`}</th>
          <th scope="col">{say`PSNR dB`}</th>
          <th scope="col">{say`to bicubic`}</th>
          <th scope="col">{say`SSIM`}</th>
          <th scope="col" title={say`As in the picture itself is best: less is crisper than it`}>
            {say`edge px`}
          </th>
          <th scope="col">{say`time`}</th>
        </tr>
      </thead>
      <tbody>
        {test.rows.map(({ method, psnr, ssim, edgePixels, milliseconds }) => (
          <tr key={method} className={method === looked ? 'looked' : undefined}>
            <th scope="row">
              <button type="button" aria-pressed={method === looked} onClick={() => onLook(method)}>
                {methodNotes[Method.parse(method)].title}
                {method === taken && <span className="soft"> {say`· taken`}</span>}
              </button>
            </th>
            <td className={psnr === best ? 'best' : undefined}>{psnr.toFixed(2)}</td>
            <td>{plain === undefined ? '' : signed(psnr - plain)}</td>
            <td>{ssim.toFixed(4)}</td>
            <td>{pixels(edgePixels)}</td>
            <td>
              {milliseconds < 10_000
                ? `${(milliseconds / 1000).toFixed(2)} s`
                : formatSeconds(milliseconds / 1000)}
            </td>
          </tr>
        ))}
        {test.truth && (
          <tr className="soft">
            <th scope="row">{say`The picture itself`}</th>
            <td />
            <td />
            <td>{(1).toFixed(4)}</td>
            <td>{pixels(test.truth.edgePixels)}</td>
            <td />
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** With as many digits in every row. */
const pixels = (edgePixels: number): string =>
  Number.isFinite(edgePixels) ? edgePixels.toFixed(2) : '–';

export const signed = (value: number): string =>
  `${value < -0.005 ? '−' : value > 0.005 ? '+' : '±'}${Math.abs(value).toFixed(2)}`;

/** A spot, its pixels as large squares. */
function Spot({ spot }: { spot: Spotted | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!spot) return;
    canvas.current!.width = spot.width;
    canvas.current!.height = spot.height;
    const image = new ImageData(spot.rgba, spot.width, spot.height);
    canvas.current!.getContext('2d')!.putImageData(image, 0, 0);
  }, [spot]);
  return <canvas ref={canvas} role="img" aria-label={say`Spot of the picture`} />;
}
