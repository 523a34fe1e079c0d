import { createReadStream, createWriteStream, openSync, closeSync, fstatSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { readWhole } from '../files/whole-io';

/** A segment before a JPEG's pixels: its marker, and what it holds after its length (ITU-T T.81, B.1.1.4). */
interface Segment {
  marker: number;
  data: Buffer;
}

const APP0 = 0xe0;
const APP1 = 0xe1;
const APP2 = 0xe2;
const START_OF_SCAN = 0xda;
/** What a header may be long at most: sixteen segments of profiles, and others. */
const LONGEST = 16 << 20;

/** What a JPEG's tag is set to. */
export interface JpegTag {
  ppi: number;
  /** added where the file has none */
  profile: Uint8Array | null;
}

/**
 * Writes a JPEG anew with another resolution; everything but its headers is copied byte for byte, so that no pixel
 * changes.
 * @returns whether the profile was added
 * @throws Error where the file is no JPEG, or ends within its headers
 */
export async function retagJpeg(
  from: string,
  to: string,
  { ppi, profile }: JpegTag,
): Promise<boolean> {
  const { segments, scan } = readHeader(from);
  const rest = segments.filter(({ marker, data }) => !(marker === APP0 && isNamed(data, 'JFIF\0')));
  const exif = rest.find((one) => one.marker === APP1 && isNamed(one.data, 'Exif\0\0'));
  if (exif) setResolution(exif.data.subarray(6), ppi);
  const hasProfile = rest.some((one) => one.marker === APP2 && isNamed(one.data, 'ICC_PROFILE\0'));
  const added = profile !== null && !hasProfile;
  const written: Segment[] = [
    jfif(ppi),
    ...(exif ? [] : [exifOf(ppi)]),
    ...(added ? profileSegments(profile) : []),
    ...rest,
  ];
  const file = await open(to, 'w');
  try {
    await file.writeFile(Buffer.from([0xff, 0xd8]));
    for (const { marker, data } of written) {
      const head = Buffer.from([0xff, marker, 0, 0]);
      head.writeUInt16BE(data.length + 2, 2);
      await file.writeFile(head);
      await file.writeFile(data);
    }
  } finally {
    await file.close();
  }
  await pipeline(createReadStream(from, { start: scan }), createWriteStream(to, { flags: 'a' }));
  return added;
}

/** The headers of a JPEG, and where its first scan begins. */
function readHeader(path: string): { segments: Segment[]; scan: number } {
  const file = openSync(path, 'r');
  try {
    const bytes = Buffer.alloc(Math.min(LONGEST, fstatSync(file).size));
    readWhole(file, bytes, 0);
    if (bytes.readUInt16BE(0) !== 0xffd8) throw new Error('no JPEG');
    const segments: Segment[] = [];
    for (let at = 2; ;) {
      if (bytes[at] !== 0xff) throw new Error('a JPEG whose headers are damaged');
      // Any number of fill bytes may stand before a marker.
      if (bytes[at + 1] === 0xff) {
        at++;
        continue;
      }
      const marker = bytes[at + 1]!;
      if (marker === START_OF_SCAN) return { segments, scan: at };
      const length = bytes.readUInt16BE(at + 2);
      if (at + 2 + length > bytes.length) throw new Error('a JPEG that ends in its headers');
      segments.push({ marker, data: bytes.subarray(at + 4, at + 2 + length) });
      at += 2 + length;
    }
  } finally {
    closeSync(file);
  }
}

const isNamed = (data: Buffer, name: string): boolean =>
  data.toString('latin1', 0, name.length) === name;

/** The header that many programs look in first (JFIF 1.02): whole pixels an inch. */
function jfif(ppi: number): Segment {
  const data = Buffer.from([0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 1, 0, 0, 0, 0, 0, 0]);
  const density = Math.min(65_535, Math.max(1, Math.round(ppi)));
  data.writeUInt16BE(density, 8);
  data.writeUInt16BE(density, 10);
  return { marker: APP0, data };
}

const [X_RESOLUTION, Y_RESOLUTION, UNIT] = [0x011a, 0x011b, 0x0128];
const SHORT = 3;
const RATIONAL = 5;
/** The number of the unit that is pixels an inch. */
const INCH = 2;
/** Resolutions are told in thousandths. */
const PARTS = 1000;

/** EXIF of nothing but the resolution, where a file has none (EXIF 2.32, 4.6). */
function exifOf(ppi: number): Segment {
  const tiff = Buffer.alloc(8 + 2 + 3 * 12 + 4 + 16);
  tiff.write('II*\0', 0, 'latin1');
  tiff.writeUInt32LE(8, 4);
  tiff.writeUInt16LE(3, 8);
  const entry = (i: number, tag: number, type: number, value: number) => {
    const at = 10 + 12 * i;
    tiff.writeUInt16LE(tag, at);
    tiff.writeUInt16LE(type, at + 2);
    tiff.writeUInt32LE(1, at + 4);
    tiff.writeUInt32LE(value, at + 8);
  };
  entry(0, X_RESOLUTION, RATIONAL, 50);
  entry(1, Y_RESOLUTION, RATIONAL, 58);
  entry(2, UNIT, SHORT, INCH);
  setResolution(tiff, ppi);
  return { marker: APP1, data: Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff]) };
}

/** Sets the resolution in EXIF that has one, in its place; what can't be followed stays as it is. */
function setResolution(tiff: Buffer, ppi: number): void {
  const little = tiff.toString('latin1', 0, 2) === 'II';
  const short = (at: number) => (little ? tiff.readUInt16LE(at) : tiff.readUInt16BE(at));
  const long = (at: number) => (little ? tiff.readUInt32LE(at) : tiff.readUInt32BE(at));
  const putLong = (value: number, at: number) =>
    void (little ? tiff.writeUInt32LE(value, at) : tiff.writeUInt32BE(value, at));
  const putShort = (value: number, at: number) =>
    void (little ? tiff.writeUInt16LE(value, at) : tiff.writeUInt16BE(value, at));
  try {
    const directory = long(4);
    for (let i = 0; i < short(directory); i++) {
      const at = directory + 2 + 12 * i;
      const tag = short(at);
      const type = short(at + 2);
      if ((tag === X_RESOLUTION || tag === Y_RESOLUTION) && type === RATIONAL) {
        putLong(Math.round(ppi * PARTS), long(at + 8));
        putLong(PARTS, long(at + 8) + 4);
      } else if (tag === UNIT && type === SHORT) putShort(INCH, at + 8);
    }
  } catch (error) {
    // A directory that leaves its segment: the JFIF header alone says it then.
    if (!(error instanceof RangeError)) throw error;
  }
}

/** What a segment of a profile holds beside its number, at most. */
const PROFILE_PART = 65_533 - 14;

/** A profile in as many segments as it takes (ICC.1, B.4). */
function profileSegments(profile: Uint8Array): Segment[] {
  const count = Math.ceil(profile.length / PROFILE_PART);
  return Array.from({ length: count }, (_, i) => ({
    marker: APP2,
    data: Buffer.concat([
      Buffer.from('ICC_PROFILE\0', 'latin1'),
      Buffer.from([i + 1, count]),
      profile.subarray(i * PROFILE_PART, (i + 1) * PROFILE_PART),
    ]),
  }));
}
