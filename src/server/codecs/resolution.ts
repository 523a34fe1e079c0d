import type { Metadata } from 'sharp';
import type { InputFormat } from './format';

/** Pixels per inch along both sides, or null where a file carries none. */
export type PpiTag = { x: number; y: number } | null;

/** The resolution tag as the file carries it; a missing one is missing, whatever a library assumes. */
export function ppiOf(header: Uint8Array, format: InputFormat, metadata: Metadata): PpiTag {
  const bytes = Buffer.from(header.buffer, header.byteOffset, header.length);
  if (format === 'png') return ofPng(bytes);
  if (format === 'jpeg') return ofJfif(bytes) ?? ofExif(metadata);
  if (format === 'tiff') return ofTiff(metadata);
  return ofExif(metadata);
}

function ofPng(bytes: Buffer): PpiTag {
  const at = bytes.indexOf('pHYs');
  if (at < 0 || at + 13 > bytes.length || bytes[at + 12] !== 1) return null;
  return { x: bytes.readUInt32BE(at + 4) * 0.0254, y: bytes.readUInt32BE(at + 8) * 0.0254 };
}

function ofJfif(bytes: Buffer): PpiTag {
  const unit = bytes.indexOf('JFIF\0') === 6 ? bytes[13] : 0;
  if (unit !== 1 && unit !== 2) return null;
  const scale = unit === 1 ? 1 : 2.54;
  const ppi = { x: bytes.readUInt16BE(14) * scale, y: bytes.readUInt16BE(16) * scale };
  return ppi.x > 1 && ppi.y > 1 ? ppi : null;
}

const ofExif = ({ exif, density }: Metadata): PpiTag =>
  exif && density ? { x: density, y: density } : null;

/** A TIFF without the tag, or with the 1 that stands for none, comes as 25.4 or less. */
const ofTiff = ({ density }: Metadata): PpiTag =>
  density && density > 26 ? { x: density, y: density } : null;
