/** Writes the catalogue of all texts that are shown: `npx tsx scripts/words.ts`. */
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { messageOf } from '../src/core/words/index';

const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
export const CATALOGUE = join(ROOT, 'src/core/words/english.json');

/** Attributes that are read out or shown. */
const SHOWN = new Set(['about', 'alt', 'aria-label', 'caption', 'label', 'name', 'placeholder', 'question', 'text', 'title']);
const isWord = (text: string) => /\p{L}{2,}/u.test(text);

/** The texts of a template's parts, as they are written. */
const partsOf = (template: ts.TemplateLiteral) =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? [template.text]
    : [template.head.text, ...template.templateSpans.map(({ literal }) => literal.text)];

/** The text of an attribute or of what stands between tags that is not said in the language spoken; null where there is none. */
function unsaid(node: ts.Node, source: ts.SourceFile): string | null {
  if (ts.isJsxText(node)) return node.text.trim();
  if (!ts.isJsxAttribute(node) || !SHOWN.has(node.name.getText(source)) || !node.initializer) return null;
  const value = ts.isJsxExpression(node.initializer) ? node.initializer.expression : node.initializer;
  if (!value) return null;
  if (ts.isStringLiteral(value)) return value.text;
  return ts.isTemplateLiteral(value) ? partsOf(value).join(' ') : null;
}

/** Every text the sources say, in order and once, and where a text between tags or in a shown attribute is not said by `say`. */
export function wordsOf(): { said: string[]; unsaid: string[] } {
  const said = new Set<string>();
  const left: string[] = [];
  for (const file of ts.sys.readDirectory(join(ROOT, 'src'), ['.ts', '.tsx'])) {
    if (/\.test\.tsx?$/.test(file)) continue;
    const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
    const visit = (node: ts.Node) => {
      if (ts.isTaggedTemplateExpression(node) && node.tag.getText(source) === 'say') said.add(messageOf(partsOf(node.template)));
      const text = unsaid(node, source);
      if (text && isWord(text)) left.push(`${relative(ROOT, file)}: ${text}`);
      ts.forEachChild(node, visit);
    };
    visit(source);
  }
  return { said: [...said].sort(), unsaid: left };
}

/** The catalogue as it stands in its file: each text by itself, for a translator to copy. */
export const catalogueText = (said: readonly string[]) =>
  `${JSON.stringify(Object.fromEntries(said.map((text) => [text, text])), null, 2)}\n`;

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { said } = wordsOf();
  writeFileSync(CATALOGUE, catalogueText(said));
  process.stdout.write(`${said.length} texts\n`);
}
