import { fromRgba } from '@/core/picture';
import { partOffset, partShown, type TitleDescription, type TitlePart, type TitleSource, titleParts } from '@/core/sources';
import { say } from '@/core/words';
import { openMedia } from './files';
import type { Reduced } from './pictures';

/** The parts of the fonts that ship, each with the letters it holds (unicode ranges of the packages). */
const RANGES = {
  latin:
    'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD',
  'latin-ext':
    'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF',
};

const fonts = (globalThis as unknown as { fonts: FontFaceSet }).fonts;
const ready = new Map<string, Promise<string>>();

async function shipped(name: string): Promise<string> {
  await Promise.all(
    Object.entries(RANGES).map(async ([part, unicodeRange]) => {
      const file = await fetch(`/fonts/${name.toLowerCase()}-${part}.woff2`);
      if (!file.ok) throw new Error(say`The font ${name} could not be loaded.`);
      const face = new FontFace(name, await file.arrayBuffer(), { weight: '100 900', unicodeRange });
      fonts.add(await face.load());
    }),
  );
  return name;
}

async function ofFile(mediaId: string): Promise<string> {
  const family = `font-${mediaId}`;
  const face = new FontFace(family, await (await openMedia(mediaId)).arrayBuffer(), { weight: '100 900' });
  fonts.add(await face.load());
  return family;
}

/** A font made ready in this worker; the name it is drawn by. */
function fontFamily({ font, fontId }: TitleSource): Promise<string> {
  const name = fontId ?? font;
  const loading = ready.get(name) ?? (fontId ? ofFile(fontId) : shipped(font));
  ready.set(name, loading);
  loading.catch(() => ready.delete(name));
  return loading;
}

const css = (r: number, g: number, b: number) => `rgb(${[r, g, b].map((v) => Math.round(255 * v)).join(' ')})`;

/** Titles drawn last, by what they say of themselves. */
const drawn = new Map<string, Reduced>();
const KEPT = 6;

/** A title as a picture that is clear where there are no letters. Throws a sentence where its font cannot be read. */
export async function titlePicture(description: TitleDescription): Promise<Reduced> {
  const parts = titleParts(description.title.text, description.title.by);
  const shown = parts.map(({ order }) => {
    const { every, lasts } = description.title;
    return description.run < order * every ? -1 : partShown(order, description.run, every, lasts);
  });
  // While nothing comes it is the same picture from frame to frame.
  const key = JSON.stringify([description.title, description.width, description.height, shown]);
  const known = drawn.get(key);
  if (known) return known;
  const made = await draw(description, parts, shown);
  drawn.set(key, made);
  if (drawn.size > KEPT) drawn.delete(drawn.keys().next().value as string);
  return made;
}

/** `shown` says how far each part has come, -1 where it has not begun. */
async function draw({ title, width, height }: TitleDescription, parts: readonly TitlePart[], shown: readonly number[]): Promise<Reduced> {
  const family = await fontFamily(title);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(say`A title could not be drawn: this browser gives no canvas to a worker.`);
  const size = (title.size / 100) * height;
  context.font = `${title.weight} ${size}px "${family}", sans-serif`;
  context.letterSpacing = `${(title.tracking / 100) * size}px`;
  context.textBaseline = 'alphabetic';
  context.lineJoin = 'round';
  const lines = title.text.split('\n');
  const step = (title.line / 100) * size;
  const widths = lines.map((line) => context.measureText(line).width);
  // Capitals and small letters of all lines together stand in the middle.
  const top = height / 2 - ((lines.length - 1) * step) / 2 + 0.35 * size;
  const left = (line: number) => {
    const widest = Math.max(...widths);
    const from = (width - widest) / 2;
    return title.align === 'left' ? from : title.align === 'right' ? from + widest - widths[line] : (width - widths[line]) / 2;
  };
  if (title.bar > 0 && shown.some((share) => share >= 0)) {
    context.filter = `blur(${size / 6}px)`;
    context.fillStyle = `rgb(0 0 0 / ${title.bar}%)`;
    const widest = Math.max(...widths);
    context.fillRect((width - widest) / 2 - 0.4 * size, top - size, widest + 0.8 * size, (lines.length - 1) * step + 1.4 * size);
    context.filter = 'none';
  }
  for (const [i, part] of parts.entries()) {
    if (shown[i] < 0) continue;
    const { dx, dy, opacity } = partOffset(title.comes, part.order, shown[i], title.seed);
    const x = left(part.line) + context.measureText(lines[part.line].slice(0, part.from)).width + dx * size;
    const y = top + part.line * step + dy * size;
    context.globalAlpha = opacity;
    if (title.outline > 0) {
      context.strokeStyle = css(title.outlineR, title.outlineG, title.outlineB);
      context.lineWidth = (2 * title.outline * size) / 100;
      context.strokeText(part.text, x, y);
    }
    context.fillStyle = css(title.r, title.g, title.b);
    context.fillText(part.text, x, y);
  }
  const { data } = context.getImageData(0, 0, width, height);
  const alpha = new Uint8Array(width * height);
  // Where it is clear it has the colour of its edge, so that nothing dark is mixed in there.
  const edge = (title.outline > 0 ? [title.outlineR, title.outlineG, title.outlineB] : [title.r, title.g, title.b]).map((v) => 255 * v);
  for (let i = 0, k = 0; i < alpha.length; i++, k += 4) {
    alpha[i] = data[k + 3];
    if (alpha[i] === 0) [data[k], data[k + 1], data[k + 2]] = edge;
  }
  return { planes: fromRgba(new Uint8Array(data.buffer), width, height), reduce: 1, alpha: { width, height, alpha } };
}
