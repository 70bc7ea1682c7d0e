/** What programs call a thing that nobody named, in the languages in which they are sold; folded, without marks. */
const NEVER_CHOSEN = words(`
  artboard artboards slice slices untitled unnamed noname rect rectangle polygon polyline polyshape compoundpath clippath
  linearlayer svgid xmlid bitmap pathgroup shapelayer vectorobject
  zeichenflache ebene gruppe pfad rechteck vieleck unbenannt namenlos objekt
  calque groupe trace sanstitre plandetravail rectangulo capa grupo trazado sintitulo mesadetrabajo
  livello gruppo tracciato rettangolo senzatitolo camada caminho retangulo semtitulo prancheta
  laag groep rechthoek naamloos warstwa grupa sciezka beznazwy prostokat
  слои слой группа контур прямоугольник безымянныи безымянный монтажнаяобласть
  レイヤー グループ ハス パス アートホート アートボード 名称未設定 長方形 图层 图層 圖層 组 群组 画板 未命名 矩形 路径 레이어 그룹 아트보드 무제 사각형
`);
/** Parts of a document: a name as long as neither a count nor a word of haste stands with it. */
const STRUCTURE = words(`
  layer group path shape vector object element item frame page canvas board use mask clip tspan compound component instance
  variant section ebenen form forme forma
`);
/** What can be drawn, or be a picture: a name as long as no count stands with it, as with an icon called “circle”. */
const DEPICTED = words(`
  symbol text image img picture pic photo screenshot screen scan dsc figure fig drawing sketch design asset graphic icon
  icons svg png pdf ellipse circle oval line star curve stroke fill outline node sheet tile
  bild seite kreis linie ellipse zeichnung grafik image cercle ligne pagina imagen circulo linea immagine cerchio imagem
  afbeelding cirkel lijn obraz изображение 图像 图片 画像 이미지
`);
/** What somebody in a hurry adds. */
const HASTE = words(`
  copy copies new old final finals last latest draft version ver v rev revision edited exported test tmp temp backup bak
  orig original fixed fix kopie kopia copie copia neu neue alt nouveau nuevo nuovo novo nieuw finale endgultig of von de
  копия コピー 副本 복사본 g p r s id no nr
`);
/** Sides in px that icons are drawn at: behind a hyphen they tell a size of what is shown, not a count. */
const DRAWN_AT = /-(?:12|16|18|20|24|28|32|36|40|48|56|64|72|96|128|256|512|1024)$/u;

function words(list: string): ReadonlySet<string> {
  return new Set(list.split(/\s+/).map(folded).filter(Boolean));
}

function folded(word: string): string {
  return word
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase();
}

/** A name as its words and numbers: parted at marks, between letters and digits, and where capitals begin a word. */
const parts = (name: string): string[] =>
  name
    .replace(/_x[0-9A-Fa-f]{2,4}_/g, ' ')
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .split(/[^\p{L}\p{M}\p{N}]+|(?<=\p{N})(?=\p{L})|(?<=\p{L})(?=\p{N})/u)
    .map(folded)
    .filter(Boolean);

const isNumber = (part: string): boolean => /^\p{N}+$/u.test(part);

/** Names that only a machine makes: an id by itself, or letters and digits mixed as in a hash. */
const MACHINE_MADE =
  /^(?:[0-9a-f]{8}-?(?:[0-9a-f]{4}-?){3}[0-9a-f]{12}|(?=[^a-z]*[a-z])(?=(?:\D*\d){3})[0-9a-f]{10,}|[A-Za-z_]{1,3}\d{5,})$/i;

/** Whether a name is made of what programs and hurried hands write, so that it says nothing of what is drawn. */
export function meansNothing(name: string): boolean {
  const trimmed = name.trim();
  if (trimmed === '') return true;
  if (MACHINE_MADE.test(trimmed)) return true;
  const all = parts(trimmed);
  if (all.length === 0) return true;
  const letters = all.filter((part) => !isNumber(part));
  if (letters.length === 0) return false;
  // Said in several words by some: "plan de travail", "compound path".
  if (NEVER_CHOSEN.has(letters.join('')) || letters.every((part) => NEVER_CHOSEN.has(part))) return true;
  if (letters.some((part) => ![NEVER_CHOSEN, STRUCTURE, DEPICTED, HASTE].some((list) => list.has(part)))) return false;
  const canBeDrawn = letters.every((part) => DEPICTED.has(part)) || (letters.length === 1 && letters[0] === 'copy');
  const tellsSize = canBeDrawn && DRAWN_AT.test(trimmed);
  const isCounted = !isNumber(all[0]) && all.some(isNumber) && !tellsSize;
  if (isCounted) return true;
  return letters.length > 1 && letters.some((part) => HASTE.has(part)) && !letters.some((part) => DEPICTED.has(part));
}

/** Whether a name is one word for a kind of thing, as programs call a layer: “group”, “circle”, “picture”. */
export function isKindOfThing(name: string): boolean {
  const [only, ...more] = parts(name);
  return more.length === 0 && (STRUCTURE.has(only) || DEPICTED.has(only) || only === 'g');
}
