/** A number with at most `digits` decimals and no trailing zeros. */
export const formatNumber = (value: number, digits = 2): string =>
  Number.isFinite(value) ? String(Number(value.toFixed(digits))) : '–';

/** Bytes as a person reads them: 997 B, 38 kB, 114 MB, 4.2 GB (powers of ten, as discs are sold). */
export function formatBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const units = ['kB', 'MB', 'GB', 'TB'];
  let value = bytes;
  let unit = -1;
  do {
    value /= 1000;
    unit++;
  } while (value >= 999.5 && unit < units.length - 1);
  return `${value < 10 ? value.toFixed(1) : value.toFixed(0)} ${units[unit]}`;
}

/** Megapixels with as many decimals as are worth reading: 0.35, 2.4, 38. */
export const formatMegapixels = (megapixels: number): string =>
  megapixels < 1
    ? megapixels.toFixed(2)
    : megapixels < 10
      ? megapixels.toFixed(1)
      : megapixels.toFixed(0);

/** A resolution: whole numbers, one decimal below ten. */
export const formatPpi = (ppi: number): string => (ppi < 9.95 ? ppi.toFixed(1) : ppi.toFixed(0));

/** An enlargement factor: 10.5, 4, 0.25. */
export const formatFactor = (factor: number): string =>
  formatNumber(factor, factor < 1 ? 3 : factor < 10 ? 2 : 1);

/** Of a time that is only expected nobody wants the last digit: rounded to so many seconds, by how long it is. */
const roundedTo = (seconds: number): number =>
  [
    [20, 1],
    [90, 5],
    [600, 30],
    [5400, 60],
  ].find(([below]) => seconds < below!)?.[1] ?? 600;

/** A time that is expected, as a range: 6–10 s, 45 s – 2 min, 1.5–2 h; one figure where both ends are the same. */
export function formatTimes(least: number, most: number): string {
  const part = (seconds: number): [string, string] => {
    const to = roundedTo(seconds);
    const rounded = Math.max(1, Math.round(seconds / to) * to);
    if (rounded < 90) return [String(rounded), 's'];
    return rounded < 5400
      ? [formatNumber(rounded / 60, 1), 'min']
      : [formatNumber(rounded / 3600, 1), 'h'];
  };
  const [from, unit] = part(least);
  const [to, last] = part(most);
  if (unit !== last) return `${from} ${unit} – ${to} ${last}`;
  return from === to ? `${to} ${last}` : `${from}–${to} ${last}`;
}

/** Seconds left or taken: 0:14, 3:05, 1:02:00. */
export function formatSeconds(seconds: number): string {
  const all = Math.max(0, Math.round(seconds));
  const two = (value: number) => String(value).padStart(2, '0');
  const hours = Math.floor(all / 3600);
  const minutes = Math.floor(all / 60) % 60;
  return hours > 0 ? `${hours}:${two(minutes)}:${two(all % 60)}` : `${minutes}:${two(all % 60)}`;
}
