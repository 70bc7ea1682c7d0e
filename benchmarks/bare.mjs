/** The six files of one source by the libraries alone, as one would write it by hand; each loads what it needs. */
const draw = async (text, width, background) => {
  const { Resvg } = await import('@resvg/resvg-js');
  return new Resvg(text, {
    fitTo: { mode: 'width', value: width },
    background,
    font: { loadSystemFonts: false },
  }).render();
};

const pdf = async (text) => {
  const [{ default: PDFDocument }, { default: svgToPdf }] = await Promise.all([
    import('pdfkit'),
    import('svg-to-pdfkit'),
  ]);
  return new Promise((resolve, reject) => {
    const doc = new PDFDocument({ size: [18, 18], margin: 0 });
    const chunks = [];
    doc.on('data', (chunk) => chunks.push(chunk));
    doc.on('end', () => resolve(Buffer.concat(chunks)));
    doc.on('error', reject);
    svgToPdf(doc, text, 0, 0, { width: 18, height: 18 });
    doc.end();
  });
};

const png = (width) => async (text) => (await draw(text, width)).asPng();

export const KINDS = {
  svg: async (text) => Buffer.from((await import('svgo')).optimize(text).data),
  pdf,
  png64: png(64),
  png128: png(128),
  png192: png(192),
  jpeg192: async (text) => {
    const image = await draw(text, 192, '#ffffff');
    const { default: sharp } = await import('sharp');
    return sharp(image.pixels, { raw: { width: image.width, height: image.height, channels: 4 } })
      .jpeg({ quality: 85 })
      .toBuffer();
  },
};
