/** What others wrote and is shipped with ours: which packages, under which licences, with their texts. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './machine.mjs';

const PACKAGE = /^(.*\/node_modules\/)((?:@[^/]+\/)?[^/]+)(?:\/|$)/;
const LICENCE = /^(licen[cs]e|copying|ofl|notice|patents)([._-].*)?$/i;

/** The folders of the packages that files come from, each once; files of ours are left out. */
export function packageFolders(files) {
  const folders = new Set();
  for (const file of files) {
    const path = file.replace(/^\0+/, '').split('?')[0];
    const found = PACKAGE.exec(path.startsWith('/') ? path : join(root, path));
    if (found) folders.add(found[1] + found[2]);
  }
  return [...folders].sort();
}

/** The folder of a package as one of ours asks for it. */
export function folderOfPackage(name, workspace) {
  const own = join(root, 'packages', workspace, 'node_modules', name);
  return existsSync(own) ? own : join(root, 'node_modules', name);
}

const AS_IS =
  'THE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND, EXPRESS OR IMPLIED, INCLUDING BUT NOT LIMITED TO THE WARRANTIES OF MERCHANTABILITY, FITNESS FOR A PARTICULAR PURPOSE AND NONINFRINGEMENT. IN NO EVENT SHALL THE AUTHORS OR COPYRIGHT HOLDERS BE LIABLE FOR ANY CLAIM, DAMAGES OR OTHER LIABILITY, WHETHER IN AN ACTION OF CONTRACT, TORT OR OTHERWISE, ARISING FROM, OUT OF OR IN CONNECTION WITH THE SOFTWARE OR THE USE OR OTHER DEALINGS IN THE SOFTWARE.';
/** Texts of licences that packages name and do not bring (SPDX licence list). */
const TEXTS = {
  MIT: `Permission is hereby granted, free of charge, to any person obtaining a copy of this software and associated documentation files (the "Software"), to deal in the Software without restriction, including without limitation the rights to use, copy, modify, merge, publish, distribute, sublicense, and/or sell copies of the Software, and to permit persons to whom the Software is furnished to do so, subject to the following conditions:\n\nThe above copyright notice and this permission notice shall be included in all copies or substantial portions of the Software.\n\n${AS_IS}`,
  ISC: 'Permission to use, copy, modify, and/or distribute this software for any purpose with or without fee is hereby granted, provided that the above copyright notice and this permission notice appear in all copies.\n\nTHE SOFTWARE IS PROVIDED "AS IS" AND THE AUTHOR DISCLAIMS ALL WARRANTIES WITH REGARD TO THIS SOFTWARE INCLUDING ALL IMPLIED WARRANTIES OF MERCHANTABILITY AND FITNESS. IN NO EVENT SHALL THE AUTHOR BE LIABLE FOR ANY SPECIAL, DIRECT, INDIRECT, OR CONSEQUENTIAL DAMAGES OR ANY DAMAGES WHATSOEVER RESULTING FROM LOSS OF USE, DATA OR PROFITS, WHETHER IN AN ACTION OF CONTRACT, NEGLIGENCE OR OTHER TORTIOUS ACTION, ARISING OUT OF OR IN CONNECTION WITH THE USE OR PERFORMANCE OF THIS SOFTWARE.',
};

function noticeOf(folder) {
  const { name, version, license, author, homepage } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
  const texts = readdirSync(folder, { withFileTypes: true })
    .filter((entry) => entry.isFile() && LICENCE.test(entry.name))
    .map((entry) => readFileSync(join(folder, entry.name), 'utf8').trim());
  const who = typeof author === 'string' ? author : author?.name;
  const said = [
    `${name} ${version}`,
    `Licence: ${typeof license === 'string' ? license : (license?.type ?? 'see below')}`,
  ];
  if (who) said.push(`By: ${who}`);
  if (homepage) said.push(homepage);
  return {
    name,
    version,
    text: [
      ...said,
      '',
      ...(texts.length > 0 ? texts : [TEXTS[license] ?? '(The package holds no text of its licence.)']),
    ].join('\n'),
  };
}

/** Writes the notices of packages, by their folders, into a file. Answers their names. */
export function writeNotices(path, folders) {
  const notices = new Map(
    folders.map((folder) => noticeOf(folder)).map((each) => [`${each.name} ${each.version}`, each]),
  );
  const line = '-'.repeat(78);
  const text = [
    'Tolvik is shipped with work of others, under these licences.',
    ...[...notices.values()].map((each) => each.text),
  ].join(`\n\n${line}\n\n`);
  writeFileSync(path, `${text}\n`);
  return [...notices.values()].map(({ name }) => name);
}
