/** What the colours of a file are amounts of. */
export type DeviceSpace = 'rgb' | 'grey' | 'cmyk';

/** What they are called in a sentence. */
export const SPACE_WORDS = { rgb: 'RGB', grey: 'grey', cmyk: 'CMYK' } as const;

/** How many of them a pixel has. */
export const COLOURS = { rgb: 3, grey: 1, cmyk: 4 } as const satisfies Record<DeviceSpace, number>;
