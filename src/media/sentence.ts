import { say } from '@/core/words';

/** Words for errors that the browser or a library gives raw, by what they are called or say. */
const WORDS: readonly [RegExp, string][] = [
  [/quota|storage is full/i, say`The browser’s storage is full. Nothing else was lost. Free some space, then do it again.`],
  [
    /NotReadableError|NotFoundError/,
    say`The file could not be read to its end: it was moved, changed or taken out meanwhile. Choose it again.`,
  ],
  [
    /decod|EncodingError|codec|bitstream|OperationError/i,
    say`What is in it could not be decoded: the file is damaged, or of a kind this browser only seems to know.`,
  ],
  [
    /memory|allocation|array length|buffer/i,
    say`It asks for more memory than this device gives: the file is damaged, or too large for it.`,
  ],
];

/** True for a sentence of our own: it begins like one, ends like one, and says more than a code. */
const isSentence = (text: string) => /^[\p{Lu}“].{25,}\.$/su.test(text);

/** What went wrong as a sentence for the user, whatever was thrown; a raw text is said to be one. */
export function sentenceOf(error: unknown): string {
  const { name, message } = error instanceof Error ? error : { name: '', message: String(error) };
  if (name !== 'QuotaExceededError' && isSentence(message)) return message;
  const known = WORDS.find(([pattern]) => pattern.test(`${name} ${message}`));
  return known
    ? known[1]
    : say`It could not be read to its end: the file is damaged or of an unknown kind (${message.slice(0, 120) || name || say`no reason given`}).`;
}
