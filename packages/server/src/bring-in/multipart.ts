import { refuse } from '@tolvik/core';
import busboy from 'busboy';
import type { Request } from 'express';

export const UPLOAD_LIMITS = { files: 2000, fileBytes: 200 * 1_048_576, totalBytes: 512 * 1_048_576 };

export type Upload = { name: string; bytes: Buffer };

/** The files of a multipart/form-data request (RFC 7578), in order; refuses more than `UPLOAD_LIMITS`. */
export function readUploads(req: Request): Promise<Upload[]> {
  return new Promise((resolve, reject) => {
    const fail = (code: string, message: string, accepted?: string) => {
      try {
        refuse(code, message, { accepted });
      } catch (error) {
        req.unpipe(form);
        req.resume();
        reject(error);
      }
    };
    let form: busboy.Busboy;
    try {
      form = busboy({ headers: req.headers, preservePath: false, defParamCharset: 'utf8', limits: { files: UPLOAD_LIMITS.files, fileSize: UPLOAD_LIMITS.fileBytes, fields: 10, fieldSize: 1000 } });
    } catch {
      try {
        refuse('upload.form', 'the request is not a multipart form with files', { accepted: 'multipart/form-data' });
      } catch (error) {
        reject(error);
      }
      return;
    }
    const uploads: Upload[] = [];
    let total = 0;
    form.on('file', (_field, stream, { filename }) => {
      const at = uploads.push({ name: filename ?? 'unnamed', bytes: Buffer.alloc(0) }) - 1;
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => {
        total += chunk.length;
        if (total > UPLOAD_LIMITS.totalBytes) fail('upload.size', `more than ${UPLOAD_LIMITS.totalBytes / 1_048_576} MB at once`, 'fewer files at a time');
        else chunks.push(chunk);
      });
      stream.on('limit', () => fail('upload.size', `${filename} is larger than ${UPLOAD_LIMITS.fileBytes / 1_048_576} MB`));
      stream.on('end', () => void (uploads[at].bytes = Buffer.concat(chunks)));
    });
    form.on('filesLimit', () => fail('upload.files', `more than ${UPLOAD_LIMITS.files} files at once`, 'a zip, or fewer files at a time'));
    form.on('error', () => fail('upload.broken', 'the upload broke off'));
    form.on('close', () => resolve(uploads));
    req.on('aborted', () => fail('upload.broken', 'the upload broke off'));
    req.pipe(form);
  });
}
