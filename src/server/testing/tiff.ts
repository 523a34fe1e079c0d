import type { Size } from '@/core/raster/region';

/** A TIFF of one strip, as plain as the standard allows (TIFF 6.0). */
export interface PlainTiff {
  size: Size;
  /** 1 grey, 2 RGB, 5 CMYK */
  photometric: number;
  channels: number;
  /** what the channels beside the colours are: 0 unspecified, 1 and 2 transparency; none leaves the tag out */
  extra: number[];
  bits?: 8 | 16 | 32;
  signed?: boolean;
  /** the sample of a channel, everywhere */
  value(channel: number): number;
}

const SHORT = 3;
const LONG = 4;

export function plainTiff({
  size,
  photometric,
  channels,
  extra,
  bits = 8,
  signed,
  value,
}: PlainTiff): Buffer {
  const { width, height } = size;
  const bytes = bits / 8;
  const pixels = Buffer.alloc(width * height * channels * bytes);
  for (let i = 0; i < width * height * channels; i++) {
    pixels.writeUIntLE(value(i % channels), i * bytes, bytes);
  }
  const same = (one: number): number[] => Array.from({ length: channels }, () => one);
  const tags: [tag: number, type: number, values: number[]][] = [
    [256, LONG, [width]],
    [257, LONG, [height]],
    [258, SHORT, same(bits)],
    [259, SHORT, [1]],
    [262, SHORT, [photometric]],
    [273, LONG, [8]],
    [277, SHORT, [channels]],
    [278, LONG, [height]],
    [279, LONG, [pixels.length]],
    [284, SHORT, [1]],
    ...(extra.length > 0 ? [[338, SHORT, extra] as [number, number, number[]]] : []),
    [339, SHORT, same(signed ? 2 : 1)],
  ];
  const directoryAt = 8 + pixels.length;
  const directory = Buffer.alloc(2 + tags.length * 12 + 4);
  directory.writeUInt16LE(tags.length, 0);
  const long: Buffer[] = [];
  let longAt = directoryAt + directory.length;
  tags.forEach(([tag, type, values], i) => {
    const at = 2 + i * 12;
    const data = Buffer.alloc(Math.max(4, values.length * (type === SHORT ? 2 : 4)));
    values.forEach((one, j) =>
      type === SHORT ? data.writeUInt16LE(one, j * 2) : data.writeUInt32LE(one, j * 4),
    );
    directory.writeUInt16LE(tag, at);
    directory.writeUInt16LE(type, at + 2);
    directory.writeUInt32LE(values.length, at + 4);
    if (data.length === 4) data.copy(directory, at + 8);
    else {
      directory.writeUInt32LE(longAt, at + 8);
      long.push(data);
      longAt += data.length;
    }
  });
  const header = Buffer.from([0x49, 0x49, 42, 0, 0, 0, 0, 0]);
  header.writeUInt32LE(directoryAt, 4);
  return Buffer.concat([header, pixels, directory, ...long]);
}
