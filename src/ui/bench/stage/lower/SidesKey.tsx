import type { Inked } from './sides';

interface Props {
  sides: readonly Inked[];
  /** a figure beside each */
  notes?: readonly string[];
  words: string;
}

/** Which curve is which, beside a chart. */
export const SidesKey = ({ sides, notes, words }: Props) => (
  <div className="beside-chart">
    <ul>
      {sides.map(({ side, ink }, i) => (
        <li key={side.name}>
          <i className="ink" style={{ background: ink.colour }} aria-hidden /> {side.caption.name}
          {notes && <span className="figure"> {notes[i]}</span>}
        </li>
      ))}
    </ul>
    <p className="soft mb-0">{words}</p>
  </div>
);
