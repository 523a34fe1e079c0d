import { lettered } from './lettering';

const PROGRAMME: [string, string, string][] = [
  ['18.00', 'Doors, and a walk round the terrace', 'the wardens'],
  ['18.30', 'A hundred years on one mountain', 'the director'],
  ['19.15', 'How the long telescope was carried up', 'the archive'],
  ['20.00', 'Soup, bread and cheese in the workshop', 'all'],
  ['20.45', 'Brass, glass and patience', 'the instrument makers'],
  ['21.30', 'First light: the ring, seen by everybody', 'the night staff'],
  ['22.45', 'Questions, in the dark', 'all'],
  ['23.30', 'The last bus goes down', 'the driver'],
];

const SMALL = [
  'Please leave lamps at the gate. The terrace has no railing to the north; keep within the white stones.',
  'Warm clothes are worn in the dome, where nothing is heated. Children see first. In cloud the evening is held',
  'in the reading room, with the engraved chart and the first plates. The track is closed to cars from noon.',
  'Edition of two hundred and forty, set and printed for the hundredth year. Not for sale.',
];

/** A programme leaf with lettering down to six points, as SVG. 1240 x 1754. */
export function leaf(): string {
  const lines = PROGRAMME.map(([time, what, who], i) => {
    const y = 770 + i * 88;
    return `<path d="M110 ${y - 52}H1130" stroke="#1d2321" stroke-width="${i ? 1 : 3}"/>
      ${lettered(time, { x: 110, y, size: 34, weight: 600 }, '#8d2a23')}
      ${lettered(what, { x: 240, y, size: 32 })}
      ${lettered(who, { x: 1130, y, size: 21, align: 'right' }, '#5a564e')}`;
  }).join('');
  const small = SMALL.map((text, i) =>
    lettered(text, { x: 110, y: 1556 + i * 28, size: 19.5 }, '#3b3933'),
  ).join('');
  const rays = Array.from({ length: 48 }, (_, i) => {
    const turn = (i / 48) * Math.PI;
    const far = i % 4 === 0 ? 420 : 372;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return `<path d="M${620 - 330 * c} ${560 - 330 * s}L${620 - far * c} ${560 - far * s}"/>`;
  }).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1240 1754">
    <rect width="1240" height="1754" fill="#f6f1e3"/>
    <g stroke="#8d2a23" stroke-width="3">${rays}</g>
    <path d="M320 560a300 300 0 0 1 600 0z" fill="#20376b"/>
    <path d="M600 262h40v298h-40z" fill="#f6f1e3"/><path d="M280 560h680v26H280z" fill="#1d2321"/>
    ${lettered('One hundred years', { x: 620, y: 128, size: 92, weight: 800, align: 'middle' })}
    ${lettered('Colle Vespra Observatory · an evening for everybody', { x: 620, y: 668, size: 34, weight: 600, align: 'middle' })}
    ${lines}<path d="M110 1510H1130" stroke="#1d2321" stroke-width="3"/>${small}
    ${lettered('Colle Vespra, upper station', { x: 110, y: 1700, size: 19.5, weight: 600 })}
    ${lettered('leaf 3 of 4', { x: 1130, y: 1700, size: 19.5, align: 'right' })}
  </svg>`;
}
