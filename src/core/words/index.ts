/** A language: its texts by the English ones, with `{0}`, `{1}`… where values stand, in any order. What it lacks stays English. */
export type Catalogue = Readonly<Record<string, string>>;

/** The languages beside English, by their two letters. A new one is a copy of `english.json`, translated, and a line here. */
const CATALOGUES: Readonly<Record<string, Catalogue>> = {};

/** A text's name in the catalogues: its English, `{0}`, `{1}`… for the values. */
export function messageOf(parts: readonly string[]): string {
  return parts.reduce((text, part, i) => `${text}{${i - 1}}${part}`);
}

/** A tag that says templates in the words of a catalogue. */
export function sayIn(catalogue: Catalogue) {
  return (parts: TemplateStringsArray, ...values: readonly (string | number)[]): string => {
    const other = catalogue[messageOf(parts)];
    if (other !== undefined) return other.replace(/\{(\d+)\}/g, (whole, n) => String(values[Number(n)] ?? whole));
    return parts.reduce((text, part, i) => `${text}${values[i - 1]}${part}`);
  };
}

/** Every text that is shown is said by this: say`Take ${n} is too short.` in the browser's language, as far as there is a catalogue of it. */
export const say = sayIn(CATALOGUES[((globalThis as { navigator?: { language?: string } }).navigator?.language ?? 'en').slice(0, 2)] ?? {});
