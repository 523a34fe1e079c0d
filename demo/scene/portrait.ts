import { hash } from './noise';

const range = (count: number): number[] => Array.from({ length: count }, (_, i) => i);

/** Strands of hair, from a crown outward. */
const strands = (): string =>
  range(170)
    .map((i) => {
      const turn = -Math.PI * (0.06 + 0.88 * hash(i, 51));
      const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
      const from = 0.74 + 0.1 * hash(i, 52);
      const [x0, y0] = [450 + 168 * from * dx, 430 + 218 * from * dy];
      const [x1, y1] = [450 + 196 * dx, 430 + 250 * dy - 8 + 16 * hash(i, 53)];
      const light = hash(i, 54) > 0.62 ? '#8d867d' : '#4b443e';
      return `<path d="M${x0.toFixed(1)} ${y0.toFixed(1)}Q${(x0 * 0.4 + x1 * 0.6 - 14 * dy).toFixed(1)} ${(y0 * 0.4 + y1 * 0.6 + 10 * dx).toFixed(1)} ${x1.toFixed(1)} ${y1.toFixed(1)}" stroke="${light}" stroke-width="${(1 + 2 * hash(i, 55)).toFixed(1)}" opacity=".7"/>`;
    })
    .join('');

/** Threads of a woven jacket. */
const weave = (): string =>
  range(90)
    .map(
      (i) =>
        `<path d="M${i * 12 - 60} 760l-60 380" stroke="#ffffff" opacity=".05" stroke-width="3"/>`,
    )
    .join('');

const eye = (x: number, side: 1 | -1): string => `
  <ellipse cx="${x}" cy="436" rx="46" ry="30" fill="#7a4a35" opacity=".42" filter="url(#soft10)"/>
  <path d="M${x - 30} 438Q${x} 416 ${x + 30} 438Q${x} 456 ${x - 30} 438Z" fill="#e8e2da"/>
  <circle cx="${x + 2}" cy="436" r="13" fill="#4c5f55"/><circle cx="${x + 2}" cy="436" r="6" fill="#14100e"/>
  <circle cx="${x - 3}" cy="431" r="3" fill="#fff"/>
  <path d="M${x - 32} 438Q${x} 412 ${x + 32} 437" stroke="#2e1d16" stroke-width="5" fill="none"/>
  <path d="M${x - 26} 446Q${x} 460 ${x + 27} 444" stroke="#8a5a46" stroke-width="2.5" fill="none" opacity=".8"/>
  <path d="M${x - 42 * side} 402Q${x} 384 ${x + 40 * side} 396" stroke="#4a3a30" stroke-width="11" fill="none" stroke-linecap="round" opacity=".9" filter="url(#soft2)"/>`;

/** The observatory's founder by the window of the reading room. 900 x 1125, in warm light from the left. */
export function portrait(): string {
  const soft = (radius: number) =>
    `<filter id="soft${radius}" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur stdDeviation="${radius}"/></filter>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 1125">
    <defs>
      ${[2, 5, 10, 22, 40].map(soft).join('')}
      <linearGradient id="wall" x1="0" x2="1" y2=".3"><stop offset="0" stop-color="#8d8268"/><stop offset=".5" stop-color="#5a5446"/><stop offset="1" stop-color="#26251f"/></linearGradient>
      <radialGradient id="skin" cx=".36" cy=".36" r=".78"><stop offset="0" stop-color="#f0c9a6"/><stop offset=".45" stop-color="#d9a17d"/><stop offset=".8" stop-color="#a9714f"/><stop offset="1" stop-color="#6f442f"/></radialGradient>
      <linearGradient id="coat" x1="0" x2="1"><stop offset="0" stop-color="#4c5560"/><stop offset=".5" stop-color="#2c333c"/><stop offset="1" stop-color="#14181d"/></linearGradient>
      <clipPath id="cloth"><path d="M90 1125q10-250 250-310l220 0q240 56 262 310z"/></clipPath>
      <linearGradient id="neck" x1="0" x2="1"><stop offset="0" stop-color="#c48c68"/><stop offset="1" stop-color="#5d3a28"/></linearGradient>
    </defs>
    <rect width="900" height="1125" fill="url(#wall)"/>
    <g filter="url(#soft10)"><path d="M60 90h190v420H60z" fill="#d8cfa8"/><path d="M150 90v420M60 300h190" stroke="#6b6350" stroke-width="14"/>
      <g fill="#3a2b20"><path d="M640 120h220v26H640zM640 330h220v26H640z"/></g>
      <g>${range(11)
        .map(
          (i) =>
            `<path d="M${650 + i * 18} ${330 - 120 - 40 * hash(i, 61)}h14V330h-14z" fill="${['#6d3b2c', '#2f4a44', '#7b6a3a', '#403a55'][i % 4]}"/>`,
        )
        .join('')}</g></g>
    <path d="M90 1125q10-250 250-310l220 0q240 56 262 310z" fill="url(#coat)"/><g clip-path="url(#cloth)">${weave()}</g>
    <path d="M374 660h152v150q-76 70-152 0z" fill="url(#neck)"/>
    <path d="M340 800l110 90 110-90 26 40-136 160-136-160z" fill="#ece6d8"/><path d="M436 880l14-12 14 12 26 245h-80z" fill="#5b1f24"/>
    <path d="M300 815l150 310H190z" fill="#333b45"/><path d="M600 815l-150 310h260z" fill="#1b2026"/>
    <path d="M262 430q-30-40-6 60q12 54 34 50z" fill="#c98f6c"/><path d="M638 430q30-40 6 60q-12 54-34 50z" fill="#7d4f38"/>
    <path d="M252 420Q250 190 450 186Q650 190 648 420L628 330Q560 262 450 268Q340 262 272 330z" fill="#57504a"/>
    <path d="M268 400Q262 262 450 254Q638 262 632 400Q640 560 580 650Q520 726 450 728Q380 726 320 650Q260 560 268 400z" fill="url(#skin)"/>
    <path d="M262 400Q262 214 450 210Q638 214 638 400Q618 318 560 290Q450 262 340 290Q282 318 262 400z" fill="#5a534c"/>
    <g fill="none">${strands()}</g>
    <path d="M560 330Q640 470 560 660Q520 716 470 726Q620 640 600 420z" fill="#4a2a1c" opacity=".38" filter="url(#soft22)"/>
    ${eye(370, 1)}${eye(530, -1)}
    <path d="M462 420Q486 520 494 548Q478 574 446 570" stroke="#8f5a41" stroke-width="10" fill="none" opacity=".6" filter="url(#soft5)"/>
    <path d="M410 552Q420 582 450 574Q482 584 494 552" stroke="#7d4a36" stroke-width="6" fill="none" opacity=".75" filter="url(#soft2)"/>
    <ellipse cx="436" cy="500" rx="12" ry="60" fill="#ffe3c4" opacity=".5" filter="url(#soft10)"/>
    <path d="M352 596Q400 574 450 592Q500 574 552 598Q500 622 450 612Q400 622 352 596z" fill="#6e665d"/>
    ${range(60)
      .map((i) => {
        const x = 356 + 192 * hash(i, 71);
        return `<path d="M${x.toFixed(1)} ${(590 + 4 * hash(i, 72)).toFixed(1)}l${((x - 450) * 0.09).toFixed(1)} ${(14 + 8 * hash(i, 73)).toFixed(1)}" stroke="${hash(i, 74) > 0.5 ? '#a49c92' : '#4d463f'}" stroke-width="2"/>`;
      })
      .join('')}
    <path d="M392 634Q450 622 508 634Q450 662 392 634z" fill="#a5584c"/><path d="M388 634Q450 640 512 634" stroke="#5d2b25" stroke-width="4" fill="none"/>
    <path d="M400 676Q450 694 500 676" stroke="#8f5a41" stroke-width="9" fill="none" opacity=".45" filter="url(#soft5)"/>
    <path d="M306 520Q330 570 324 620M594 520Q570 570 576 620" stroke="#8f5a41" stroke-width="8" fill="none" opacity=".4" filter="url(#soft5)"/>
    <path d="M330 350Q450 326 570 352M338 320Q450 300 560 322" stroke="#a06a4d" stroke-width="4" fill="none" opacity=".4" filter="url(#soft2)"/>
    <g fill="none" stroke="#b08d46" stroke-width="4"><circle cx="370" cy="440" r="52"/><circle cx="530" cy="440" r="52"/><path d="M422 434Q450 420 478 434M318 432L266 420M582 432L634 420"/></g>
    <ellipse cx="352" cy="470" rx="60" ry="90" fill="#fff0d8" opacity=".22" filter="url(#soft22)"/>
  </svg>`;
}
