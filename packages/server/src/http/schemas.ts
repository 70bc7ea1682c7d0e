import { ACTS, actRequest, edit, MAX_VERSION, outputSettings, recordId, recordName, specFile } from '@tolvik/core';
import { z } from 'zod';

export const newProject = z.object({ name: recordName, copyOf: recordId.optional() });
export const projectPatch = z.object({ name: recordName.optional(), deleted: z.boolean().optional() });
export const newDelivery = z.object({
  pieceIds: z.array(recordId).max(20_000).optional(),
  outputIds: z.array(recordId).max(1000).optional(),
});
/** One file with other settings than its output has, to look at. */
export const trial = z.object({ pieceId: recordId, outputId: recordId, settings: outputSettings });
export const sinceVersion = z.object({ since: z.coerce.number().int().min(0).max(MAX_VERSION).default(0) });
/** How files are brought in; see `BringInOptions`. */
export const bringInQuery = z.object({
  as: z.enum(['artboards', 'artwork', 'replace']).default('artboards'),
  x: z.coerce.number().min(-1_000_000).max(1_000_000).default(0),
  y: z.coerce.number().min(-1_000_000).max(1_000_000).default(0),
});
/** The place of a file in its delivery. */
export const position = z.coerce.number().int().min(0).max(MAX_VERSION);
/** Places of files, with commas between. */
export const positions = z
  .string()
  .max(20_000)
  .transform((text): unknown[] => text.split(','))
  .pipe(z.array(position).min(1).max(2000));
export const blobHash = z.string().regex(/^[0-9a-f]{64}$/);

/** Every act with what it needs selected and its settings as JSON Schema. */
export const listOfActs = () =>
  ACTS.map(({ name, title, group, needs, settings }) => ({
    name,
    title,
    group,
    needs,
    settings: z.toJSONSchema(settings, { io: 'input', unrepresentable: 'any' }),
  }));

const path = (name: string) => ({ name, in: 'path', required: true, schema: { type: 'string' } });
const json = (schema: z.ZodType) => ({
  content: { 'application/json': { schema: z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) } },
});
const answers = (words: string) => ({
  '200': { description: words },
  default: { description: 'Problem details (RFC 9457)', content: { 'application/problem+json': {} } },
});

/** The API as OpenAPI 3.1, made from the schemas that validate it. */
export function openApi() {
  const id = path('id');
  const files = {
    content: {
      'multipart/form-data': {
        schema: {
          type: 'object',
          properties: { files: { type: 'array', items: { type: 'string', format: 'binary' } } },
        },
      },
    },
  };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tolvik',
      version: '0.1.0',
      description: 'Projects, plans, files and deliveries. Every request is validated by the schemas below.',
    },
    paths: {
      '/api/health': { get: { summary: 'Whether the server and its database answer', responses: answers('state') } },
      '/api/projects': {
        get: { summary: 'All projects with their counts', responses: answers('projects') },
        post: {
          summary: 'A new project, empty or a copy',
          requestBody: json(newProject),
          responses: answers('the project'),
        },
      },
      '/api/projects/open': {
        post: { summary: 'A new project from a project file', requestBody: files, responses: answers('the project') },
      },
      '/api/projects/{id}': {
        get: { summary: 'One project', parameters: [id], responses: answers('the project') },
        patch: {
          summary: 'Rename, delete or bring back',
          parameters: [id],
          requestBody: json(projectPatch),
          responses: answers('the project'),
        },
        delete: {
          summary: 'Delete; PATCH with deleted: false brings it back',
          parameters: [id],
          responses: answers('nothing'),
        },
      },
      '/api/projects/{id}/records': {
        get: {
          summary: 'Records changed after a version',
          parameters: [id, { name: 'since', in: 'query', schema: { type: 'integer' } }],
          responses: answers('records'),
        },
      },
      '/api/projects/{id}/edits': {
        post: {
          summary: 'One edit, whole or not at all',
          parameters: [id],
          requestBody: json(edit),
          responses: answers('the new version'),
        },
      },
      '/api/acts': {
        get: { summary: 'Everything that can be done to a project, with its settings', responses: answers('acts') },
      },
      '/api/projects/{id}/acts/{name}': {
        post: {
          summary: 'An act, done to what is named',
          parameters: [id, path('name')],
          requestBody: json(actRequest),
          responses: answers('the new version, the change, and what is selected after it'),
        },
      },
      '/api/projects/{id}/bring-in': {
        post: {
          summary:
            'SVG files, pictures and zips: an artboard each, as artwork alone, or in place of artwork of the same name. With Accept: application/x-ndjson, progress comes line by line before the answer',
          parameters: [
            id,
            { name: 'as', in: 'query', schema: { enum: ['artboards', 'artwork', 'replace'] } },
            { name: 'x', in: 'query', schema: { type: 'number' } },
            { name: 'y', in: 'query', schema: { type: 'number' } },
          ],
          requestBody: files,
          responses: answers('a report'),
        },
      },
      '/api/projects/{id}/fonts': {
        post: {
          summary: 'Fonts for the text of this project',
          parameters: [id],
          requestBody: files,
          responses: answers('the change that adds them'),
        },
      },
      '/api/projects/{id}/project.svg': {
        get: { summary: 'The project file', parameters: [id], responses: answers('SVG') },
      },
      '/api/projects/{id}/cover.png': {
        get: { summary: 'A contact sheet of its pieces', parameters: [id], responses: answers('PNG') },
      },
      '/api/projects/{id}/plan': {
        get: {
          summary: 'Every file that will be made, with weights as far as known',
          parameters: [id],
          responses: answers('the plan'),
        },
      },
      '/api/projects/{id}/made': {
        get: { summary: 'What was made of every planned file, in short', parameters: [id], responses: answers('rows') },
      },
      '/api/projects/{id}/findings': {
        get: { summary: 'What the checks find', parameters: [id], responses: answers('findings') },
      },
      '/api/projects/{id}/files/{pieceId}/{outputId}': {
        get: {
          summary: 'The very bytes of one file; the ETag is its render key',
          parameters: [id, path('pieceId'), path('outputId')],
          responses: answers('bytes'),
        },
      },
      '/api/specs': {
        get: { summary: 'Specs kept for all projects', responses: answers('specs') },
        post: { summary: 'Keep a spec', requestBody: json(specFile), responses: answers('the kept spec') },
      },
      '/api/specs/{id}': {
        delete: { summary: 'Keep a spec no longer', parameters: [id], responses: answers('nothing') },
      },
      '/api/deliveries/{id}/paths': {
        get: { summary: 'The paths of a delivery', parameters: [id], responses: answers('paths') },
      },
      '/api/projects/{id}/trial': {
        post: {
          summary: 'One file with other settings of its format, for comparing; the bytes',
          parameters: [id],
          requestBody: json(trial),
          responses: answers('bytes'),
        },
      },
      '/api/projects/{id}/deliveries': {
        get: { summary: 'Deliveries, the newest first', parameters: [id], responses: answers('deliveries') },
        post: {
          summary: 'Export: all files, or some',
          parameters: [id],
          requestBody: json(newDelivery),
          responses: answers('the delivery'),
        },
      },
      '/api/projects/{id}/events': {
        get: {
          summary: 'Server-sent events: edits, progress',
          parameters: [id],
          responses: answers('text/event-stream'),
        },
      },
      '/api/blobs/{hash}': {
        get: { summary: 'A picture that artwork refers to', parameters: [path('hash')], responses: answers('bytes') },
      },
      '/api/deliveries/{id}': {
        get: {
          summary: 'One delivery, compared with the one before',
          parameters: [id],
          responses: answers('the delivery'),
        },
      },
      '/api/deliveries/{id}/archive.zip': {
        get: { summary: 'All its files', parameters: [id], responses: answers('zip') },
      },
      '/api/deliveries/{id}/stop': { post: { summary: 'Stop', parameters: [id], responses: answers('the delivery') } },
      '/api/deliveries/{id}/go-on': {
        post: { summary: 'Go on where it stopped', parameters: [id], responses: answers('the delivery') },
      },
      '/api/deliveries/{id}/files/{position}': {
        get: { summary: 'One file of a delivery', parameters: [id, path('position')], responses: answers('bytes') },
      },
    },
  };
}
