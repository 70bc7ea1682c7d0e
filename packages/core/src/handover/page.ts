import { escapeAttribute, escapeText } from '../artwork/markup/xml';
import { count, weight } from '../basics/words';

/** The page beside the files of a delivery. */
export const PAGE_NAME = 'delivery.html';

export type PageFile = { path: string; bytes: number; size: string };
/** A piece with the files of it; `picture` is a PNG in base64 (RFC 4648). */
/** `ground` is what the picture lies on, in hexadecimal; null for any. */
export type PagePiece = {
  name: string;
  number: number;
  picture: string | null;
  ground: string | null;
  files: readonly PageFile[];
};
export type PageFacts = {
  project: string;
  number: number;
  /** ISO 8601. */
  at: string;
  title: string;
  note: string;
  pieces: readonly PagePiece[];
};

const STYLE = `
:root{color-scheme:light;--ink:#171b1c;--quiet:#5c6466;--line:#d9dcd8;--paper:#f8f9f5;--go:#0c6a53}
*{box-sizing:border-box}
body{margin:0;background:var(--paper);color:var(--ink);font:14px/1.45 "Schibsted Grotesk",system-ui,sans-serif}
header{padding:28px 32px 18px;border-bottom:2px solid var(--ink)}
h1{margin:0;font-size:26px;letter-spacing:-.02em}
header p{margin:.35em 0 0;max-width:70ch;white-space:pre-line}
.quiet{color:var(--quiet)}
form{position:sticky;top:0;padding:10px 32px;background:var(--paper);border-bottom:1px solid var(--line)}
input{width:min(340px,100%);height:32px;padding:0 10px;border:1px solid #8b918e;border-radius:6px;background:#fff;font:inherit}
input:focus-visible,a:focus-visible{outline:2px solid var(--go);outline-offset:1px}
main{display:grid;grid-template-columns:repeat(auto-fill,minmax(min(100%,560px),1fr));gap:0;border-left:1px solid var(--line)}
article{display:grid;grid-template-columns:112px 1fr;gap:16px;padding:16px 20px 16px 32px;border-right:1px solid var(--line);border-bottom:1px solid var(--line);break-inside:avoid}
article[hidden]{display:none}
figure{margin:0;height:112px;display:grid;place-items:center;background:repeating-conic-gradient(#ececea 0 25%,#fff 0 50%) 0 0/16px 16px}
img{max-width:100%;max-height:112px;display:block}
h2{margin:0 0 4px;font-size:15px}
ul{margin:0;padding:0;list-style:none}
li{display:flex;flex-wrap:wrap;justify-content:space-between;gap:0 12px;padding:2px 0;font-size:12.5px}
a{flex:1 1 220px;min-width:0;color:var(--go);overflow-wrap:break-word}
li span{color:var(--quiet);white-space:nowrap;font-variant-numeric:tabular-nums}
@media print{form{display:none}body{background:#fff}a{color:inherit;text-decoration:none}main{grid-template-columns:1fr 1fr}}
`;

/** Shows what has every word that is typed; without it all is there. */
const SCRIPT = `
const find=document.querySelector('input'),told=document.querySelector('output'),all=[...document.querySelectorAll('article')];
find.addEventListener('input',()=>{
  const words=find.value.toLowerCase().split(/\\s+/).filter(Boolean);let shown=0;
  for(const each of all){const has=words.every((word)=>each.dataset.words.includes(word));each.hidden=!has;shown+=has?1:0}
  told.value=words.length?shown+' of '+all.length:'';
});
document.querySelector('form').addEventListener('submit',(event)=>event.preventDefault());
`;

const day = (at: string): string =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });

const href = (path: string): string => path.split('/').map(encodeURIComponent).join('/');

/**
 * A delivery as one page of HTML that lies beside its files: every piece with its picture, every file with its size, its
 * weight and a link. Nothing in it is fetched from anywhere but what its links go to; it opens from a disk, is searched
 * by typing, and prints.
 */
export function handoverPage({ project, number, at, title, note, pieces }: PageFacts): string {
  const files = pieces.flatMap((piece) => piece.files);
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
  const articles = pieces.map((piece) => {
    const words = [piece.name, `${piece.number}`, ...piece.files.map(({ path }) => path)].join(' ').toLowerCase();
    const picture = piece.picture
      ? `<img alt="" src="data:image/png;base64,${escapeAttribute(piece.picture)}">`
      : '<span class="quiet">no picture</span>';
    const list = piece.files.map(
      ({ path, size, bytes: own }) =>
        `<li><a href="${escapeAttribute(href(path))}">${escapeText(path)}</a><span>${escapeText(size)} · ${weight(own)}</span></li>`,
    );
    return `<article data-words="${escapeAttribute(words)}"><figure${piece.ground ? ` style="background:${escapeAttribute(piece.ground)}"` : ''}>${picture}</figure><div><h2>${escapeText(piece.name)} <span class="quiet">${piece.number}</span></h2><ul>${list.join('')}</ul></div></article>`;
  });
  const heading = title || `Delivery ${number}`;
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'; base-uri 'none'; form-action 'none'">
<title>${escapeText(project)}: ${escapeText(heading)}</title><style>${STYLE}</style></head><body>
<header><h1>${escapeText(project)}</h1>
<p><strong>${escapeText(heading)}</strong><span class="quiet">, ${day(at)}: ${count(pieces.length, 'piece')}, ${count(files.length, 'file')}, ${weight(bytes)}</span></p>
${note ? `<p>${escapeText(note)}</p>` : ''}</header>
<form role="search"><input type="search" aria-label="Find a piece or a file" placeholder="Find a piece or a file"> <output class="quiet" aria-live="polite"></output></form>
<main>${articles.join('')}</main>
<script>${SCRIPT}</script></body></html>
`;
}
