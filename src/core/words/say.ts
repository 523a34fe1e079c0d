/** What a shop says in place of the English of this code, by that. */
export type Words = Readonly<Record<string, string>>;

/** Set before anything is said: by the page, or by the process that serves it. */
const words: Words = (globalThis as { lontanoWords?: Words }).lontanoWords ?? {};

/** A template as the list of words has it: “{0} of {1} seen”. */
export const keyOf = (parts: readonly string[]): string =>
  parts.reduce((key, part, i) => `${key}{${i - 1}}${part}`);

/** A translation with its values, in whichever order it names them. */
export const filled = (translation: string, values: readonly unknown[]): string =>
  translation.replace(/\{(\d+)\}/g, (place, i: string) =>
    Number(i) < values.length ? String(values[Number(i)]) : place,
  );

/** Says something in the shop's language: in English, as it stands where it is said, unless the shop has other words. */
export function say(parts: TemplateStringsArray, ...values: unknown[]): string {
  const translation = words[keyOf(parts)];
  return translation === undefined
    ? String.raw({ raw: parts }, ...values)
    : filled(translation, values);
}
