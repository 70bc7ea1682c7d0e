import { type Problem, Refusal } from '@tolvik/core';
import busboy from 'busboy';
import type { Request } from 'express';

export const UPLOAD_LIMITS = { files: 2000, fileBytes: 200 * 1_048_576, totalBytes: 512 * 1_048_576, fields: 10 };

/** An upload takes the place of others, so one that hardly moves is given up. */
const PACE_MS = 10_000;
const SLOWEST_BYTES = 8192;

export type Upload = { name: string; bytes: Buffer };

/**
 * The files of a multipart/form-data request (RFC 7578), in order; refuses more than `UPLOAD_LIMITS`, and what breaks
 * off anywhere. After a refusal the rest of the request is neither parsed nor kept.
 */
export function readUploads(req: Request): Promise<Upload[]> {
  return new Promise((resolve, reject) => {
    let heard = 0;
    const pace = setInterval(() => {
      if (heard < SLOWEST_BYTES)
        fail(
          'upload.slow',
          'the upload comes too slowly',
          `at least ${SLOWEST_BYTES / 1024} KB in ${PACE_MS / 1000} s`,
        );
      heard = 0;
    }, PACE_MS);
    pace.unref();
    const fail = (code: string, message: string, accepted?: string) => {
      clearInterval(pace);
      req.off('data', feed);
      // What still comes runs into nothing, so that whoever sends it gets to read the answer.
      req.resume();
      form?.removeAllListeners();
      form?.on('error', () => {});
      reject(new Refusal({ code, message, ...(accepted && { accepted }) } satisfies Problem));
    };
    let form: busboy.Busboy | undefined;
    const feed = (chunk: Buffer) => {
      heard += chunk.length;
      if (form && !form.write(chunk)) {
        req.pause();
        form.once('drain', () => req.resume());
      }
    };
    try {
      form = busboy({
        headers: req.headers,
        preservePath: false,
        defParamCharset: 'utf8',
        limits: {
          files: UPLOAD_LIMITS.files,
          fileSize: UPLOAD_LIMITS.fileBytes,
          fields: UPLOAD_LIMITS.fields,
          fieldSize: 1000,
          parts: UPLOAD_LIMITS.files + UPLOAD_LIMITS.fields,
          headerPairs: 50,
        },
      });
    } catch {
      return fail('upload.form', 'the request is not a multipart form with files', 'multipart/form-data');
    }
    const broken = () => fail('upload.broken', 'the upload broke off', 'the same again, whole');
    const uploads: Upload[] = [];
    let total = 0;
    form.on('file', (_field, stream, { filename }) => {
      const name = filename || 'unnamed';
      const at = uploads.push({ name, bytes: Buffer.alloc(0) }) - 1;
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => {
        total += chunk.length;
        if (total > UPLOAD_LIMITS.totalBytes)
          fail('upload.size', `more than ${UPLOAD_LIMITS.totalBytes / 1_048_576} MB at once`, 'fewer files at a time');
        else chunks.push(chunk);
      });
      stream.on('limit', () =>
        fail(
          'upload.size',
          `${name.slice(0, 100)} is larger than ${UPLOAD_LIMITS.fileBytes / 1_048_576} MB`,
          `files up to ${UPLOAD_LIMITS.fileBytes / 1_048_576} MB`,
        ),
      );
      stream.on('end', () => void (uploads[at].bytes = Buffer.concat(chunks)));
      stream.on('error', broken);
    });
    form.on('filesLimit', () =>
      fail('upload.files', `more than ${UPLOAD_LIMITS.files} files at once`, 'a zip, or fewer files at a time'),
    );
    form.on('partsLimit', () =>
      fail('upload.files', 'more parts than a form of files has', `up to ${UPLOAD_LIMITS.files} files`),
    );
    form.on('fieldsLimit', () =>
      fail('upload.fields', `more than ${UPLOAD_LIMITS.fields} fields beside the files`, 'files only'),
    );
    form.on('error', broken);
    form.on('close', () => {
      clearInterval(pace);
      resolve(uploads);
    });
    req.on('data', feed);
    req.on('end', () => form?.end());
    req.on('aborted', broken);
    req.on('error', broken);
    req.on('close', () => !req.complete && broken());
  });
}
