/** Gathers the licence texts of all that ships, from the lock file and the packages it names, into `public/licences.txt`. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

interface Locked {
  version?: string;
  license?: string;
  dev?: boolean;
  devOptional?: boolean;
}
interface Licence {
  name: string;
  version: string;
  licence: string;
  text: string;
}

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8')) as { packages: Record<string, Locked> };

function textIn(folder: string): string {
  const files = readdirSync(folder).filter((f) => /^(licen[cs]e|copying|notice|ofl)([.-].*)?$/i.test(f));
  return files
    .sort()
    .map((f) => readFileSync(join(folder, f), 'utf8').trim())
    .join('\n\n');
}

const found: Licence[] = [];
for (const [folder, { version = '', license = '', dev, devOptional }] of Object.entries(packages)) {
  // Packages of other platforms are in the lock file and not on this machine, nor do they ship.
  if (!folder || dev || devOptional || !existsSync(folder)) continue;
  const name = folder.replace(/^.*node_modules\//, '');
  found.push({ name, version, licence: license, text: textIn(folder) });
}
/** The words of licences that say the same for everybody, from a package that carries them. */
const common = new Map(found.filter((f) => f.text && /^(Apache-2\.0|MPL-2\.0|OFL-1\.1)$/.test(f.licence)).map((f) => [f.licence, f.text]));
const mit = (author: string) =>
  `MIT License\n\nCopyright (c) ${author}\n\nPermission is hereby granted, free of charge, to any person obtaining a copy of this software and associated documentation files (the "Software"), to deal in the Software without restriction, including without limitation the rights to use, copy, modify, merge, publish, distribute, sublicense, and/or sell copies of the Software, and to permit persons to whom the Software is furnished to do so, subject to the following conditions:\n\nThe above copyright notice and this permission notice shall be included in all copies or substantial portions of the Software.\n\nTHE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND, EXPRESS OR IMPLIED, INCLUDING BUT NOT LIMITED TO THE WARRANTIES OF MERCHANTABILITY, FITNESS FOR A PARTICULAR PURPOSE AND NONINFRINGEMENT. IN NO EVENT SHALL THE AUTHORS OR COPYRIGHT HOLDERS BE LIABLE FOR ANY CLAIM, DAMAGES OR OTHER LIABILITY, WHETHER IN AN ACTION OF CONTRACT, TORT OR OTHERWISE, ARISING FROM, OUT OF OR IN CONNECTION WITH THE SOFTWARE OR THE USE OR OTHER DEALINGS IN THE SOFTWARE.`;
for (const item of found) {
  if (item.text) continue;
  const author = item.licence === 'MIT' ? mit(`the authors of ${item.name}`) : '';
  item.text = common.get(item.licence) ?? (author || `Licence: ${item.licence || 'see the package'}. The package carries no text of it.`);
}
found.sort((a, b) => a.name.localeCompare(b.name));

const head = `NOTICE

Fickle Ribbon ships the packages below, each under the licence that follows its name. The AAC encoder (@mediabunny/aac-encoder, MPL-2.0)
holds a build of FFmpeg's AAC encoder (LGPL-2.1-or-later, its source at the FFmpeg project); the container library (mediabunny) is under
MPL-2.0; the person segmentation (@mediapipe/selfie_segmentation) and OpenCV are under Apache-2.0; the typefaces under the SIL Open Font
License 1.1. Files under MPL-2.0 are used unchanged; their source is what the package registry holds under the name and version given.
`;
const rule = '='.repeat(78);
const body = found.map((f) => `${rule}\n${f.name} ${f.version}\n${f.licence}\n${rule}\n\n${f.text}\n`);
writeFileSync('public/licences.txt', `${head}\n${found.length} packages.\n\n${body.join('\n')}`);
