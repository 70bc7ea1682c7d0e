declare module 'svg-to-pdfkit' {
  type Options = { width?: number; height?: number; assumePt?: boolean; preserveAspectRatio?: string; warningCallback?(message: string): void };
  export default function svgToPdf(doc: PDFKit.PDFDocument, svg: string, x: number, y: number, options?: Options): void;
}
