import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { say } from '@/core/words/say';
import { SITTING, useScreen } from '../../data/screen';
import { MeasureScreen } from '../../parts/MeasureScreen';

/** How large this screen shows things: what a print’s size on it goes by. */
export function ThisScreen() {
  const { ppi, sitting } = useScreen();
  const [measuring, setMeasuring] = useState(false);
  return (
    <section aria-labelledby="setting-screen" className="setting">
      <h2 id="setting-screen">{say`This screen`}</h2>
      <p>
        {ppi === null ? (
          say`Not measured yet: a print can’t be shown as large as it hangs.`
        ) : (
          <span className="figure">
            {say`${formatNumber(ppi, 1)} ppi, seen from ${Math.round(sitting * 100)} cm`}
          </span>
        )}
      </p>
      <div className="setting-acts">
        <Button variant="outline-primary" size="sm" onClick={() => setMeasuring(true)}>
          {ppi === null ? say`Measure it …` : say`Measure anew …`}
        </Button>
        {ppi !== null && (
          <Button
            variant="quiet"
            size="sm"
            onClick={() => useScreen.setState({ ppi: null, sitting: SITTING.usual })}
          >
            {say`Forget it`}
          </Button>
        )}
      </div>
      <p className="soft">{say`It belongs to the screen, and is kept in this browser alone.`}</p>
      <MeasureScreen show={measuring} onClose={() => setMeasuring(false)} />
    </section>
  );
}
