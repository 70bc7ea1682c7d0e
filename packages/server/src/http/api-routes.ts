import {
  actAnswer,
  actRequest,
  actsAnswer,
  bringInAnswer,
  changesAnswer,
  deliveriesAnswer,
  deliveryAnswer,
  deliveryDetail,
  deliveryPathsAnswer,
  deliveryRowsAnswer,
  edit,
  editAnswer,
  findingsAnswer,
  fontsAnswer,
  freesAnswer,
  healthAnswer,
  intakeAnswers,
  keptSpecAnswer,
  keptSpecFields,
  keptSpecsAnswer,
  madeAnswer,
  newReceiver,
  openedAnswer,
  planAnswer,
  projectAnswer,
  projectsAnswer,
  receipt,
  receiverAnswer,
  receiverFields,
  receiversAnswer,
  specFile,
  stepsAnswer,
  writeOrder,
} from '@tolvik/core';
import { z } from 'zod';
import { archiveQuery, bringInQuery, newDelivery, newProject, projectPatch, sinceVersion, trial } from './schemas';

/** One route of the API: what it takes and what it answers, a schema for JSON and a media type for bytes. */
export type ApiRoute = {
  method: 'get' | 'post' | 'patch' | 'delete';
  /** As OpenAPI writes it. */
  path: string;
  summary: string;
  body?: z.ZodType | 'files';
  query?: z.ZodType;
  /** Null for an answer without a body (204). */
  answer: z.ZodType | string | null;
};

const PROJECT = '/api/projects/{id}';
const DELIVERY = '/api/deliveries/{id}';

/** Every route there is; a test calls each and holds its answer against this. */
export const API_ROUTES: readonly ApiRoute[] = [
  { method: 'get', path: '/api/health', summary: 'Whether the server and its database answer', answer: healthAnswer },
  { method: 'get', path: '/api/openapi.json', summary: 'This document', answer: z.record(z.string(), z.unknown()) },
  { method: 'get', path: '/api/projects', summary: 'All projects with their counts', answer: projectsAnswer },
  {
    method: 'post',
    path: '/api/projects',
    summary: 'A new project: empty, a copy, or as one was when a delivery of it was made',
    body: newProject,
    answer: projectAnswer,
  },
  {
    method: 'post',
    path: '/api/projects/open',
    summary: 'A new project from a project file',
    body: 'files',
    answer: openedAnswer,
  },
  { method: 'get', path: PROJECT, summary: 'One project', answer: projectAnswer },
  {
    method: 'patch',
    path: PROJECT,
    summary: 'Rename, delete or bring back',
    body: projectPatch,
    answer: projectAnswer,
  },
  { method: 'delete', path: PROJECT, summary: 'Delete; PATCH with deleted: false brings it back', answer: null },
  {
    method: 'get',
    path: `${PROJECT}/records`,
    summary: 'Records changed after a version',
    query: sinceVersion,
    answer: changesAnswer,
  },
  {
    method: 'post',
    path: `${PROJECT}/edits`,
    summary: 'One edit, whole or not at all',
    body: edit,
    answer: editAnswer,
  },
  { method: 'get', path: '/api/acts', summary: 'Everything that can be done to a project', answer: actsAnswer },
  {
    method: 'post',
    path: `${PROJECT}/acts/{name}`,
    summary: 'An act, done to what is named',
    body: actRequest,
    answer: actAnswer,
  },
  {
    method: 'post',
    path: `${PROJECT}/bring-in`,
    summary:
      'SVG files, pictures and zips: an artboard each, as artwork alone, or in place of artwork of the same name. With Accept: application/x-ndjson, progress comes line by line before the answer',
    body: 'files',
    query: bringInQuery,
    answer: bringInAnswer,
  },
  {
    method: 'post',
    path: `${PROJECT}/fonts`,
    summary: 'Fonts for the text of this project',
    body: 'files',
    answer: fontsAnswer,
  },
  { method: 'get', path: `${PROJECT}/project.svg`, summary: 'The project file', answer: 'image/svg+xml' },
  { method: 'get', path: `${PROJECT}/cover.png`, summary: 'A contact sheet of its pieces', answer: 'image/png' },
  {
    method: 'get',
    path: `${PROJECT}/plan`,
    summary: 'Every file that will be made, with weights as far as known',
    answer: planAnswer,
  },
  {
    method: 'get',
    path: `${PROJECT}/made`,
    summary: 'What was made of every planned file, in short',
    answer: madeAnswer,
  },
  { method: 'get', path: `${PROJECT}/findings`, summary: 'What the checks find', answer: findingsAnswer },
  {
    method: 'get',
    path: `${PROJECT}/files/{pieceId}/{outputId}`,
    summary: 'The very bytes of one file; the ETag is its render key',
    answer: '*/*',
  },
  {
    method: 'get',
    path: `${PROJECT}/files/{pieceId}/{outputId}/picture.png`,
    summary: 'What a PDF looks like, for places that cannot show one',
    answer: 'image/png',
  },
  {
    method: 'post',
    path: `${PROJECT}/trial`,
    summary: 'One file with other settings of its format, for comparing; the bytes',
    body: trial,
    answer: '*/*',
  },
  { method: 'get', path: `${PROJECT}/deliveries`, summary: 'Deliveries, the newest first', answer: deliveriesAnswer },
  {
    method: 'post',
    path: `${PROJECT}/deliveries`,
    summary: 'Export: all files, or some',
    body: newDelivery,
    answer: deliveryAnswer,
  },
  {
    method: 'get',
    path: `${PROJECT}/events`,
    summary: 'Server-sent events: edits, progress',
    answer: 'text/event-stream',
  },
  {
    method: 'get',
    path: `${PROJECT}/receivers`,
    summary: 'Who takes its deliveries, and the folders of the server that may be written to',
    answer: receiversAnswer,
  },
  {
    method: 'post',
    path: `${PROJECT}/receivers`,
    summary: 'A new receiver',
    body: newReceiver,
    answer: receiverAnswer,
  },
  {
    method: 'patch',
    path: '/api/receivers/{id}',
    summary: 'Name it, switch it on or off, say what it may do',
    body: receiverFields,
    answer: receiverAnswer,
  },
  { method: 'delete', path: '/api/receivers/{id}', summary: 'Have it no longer; its files stay', answer: null },
  {
    method: 'get',
    path: '/api/receivers/{id}/steps',
    summary: 'What would be done so that it holds the newest delivery',
    answer: stepsAnswer,
  },
  {
    method: 'post',
    path: '/api/receivers/{id}/write',
    summary: 'Bring it to the newest delivery',
    body: writeOrder,
    answer: receiverAnswer,
  },
  { method: 'get', path: '/api/blobs/{hash}', summary: 'A picture or font that records refer to', answer: '*/*' },
  { method: 'get', path: '/api/specs', summary: 'Specs kept for all projects', answer: keptSpecsAnswer },
  { method: 'post', path: '/api/specs', summary: 'Keep a spec', body: specFile, answer: keptSpecAnswer },
  {
    method: 'patch',
    path: '/api/specs/{id}',
    summary: 'Begin new projects with it, or no longer',
    body: keptSpecFields,
    answer: keptSpecAnswer,
  },
  { method: 'delete', path: '/api/specs/{id}', summary: 'Keep a spec no longer', answer: null },
  { method: 'get', path: DELIVERY, summary: 'One delivery, compared with the one before', answer: deliveryDetail },
  { method: 'delete', path: DELIVERY, summary: 'Delete it, and what only it holds', answer: null },
  { method: 'get', path: `${DELIVERY}/paths`, summary: 'Its paths', answer: deliveryPathsAnswer },
  {
    method: 'get',
    path: `${DELIVERY}/rows`,
    summary: 'Some of its rows, by position',
    query: z.object({ positions: z.string() }),
    answer: deliveryRowsAnswer,
  },
  {
    method: 'get',
    path: `${DELIVERY}/answers`,
    summary: 'What intakes answered for the files that it sent them',
    answer: intakeAnswers,
  },
  { method: 'get', path: `${DELIVERY}/receipt.json`, summary: 'What it holds, as a receipt says it', answer: receipt },
  {
    method: 'get',
    path: `${DELIVERY}/archive.zip`,
    summary: 'All its files, or those that differ',
    query: archiveQuery,
    answer: 'application/zip',
  },
  { method: 'get', path: `${DELIVERY}/files/{position}`, summary: 'One of its files', answer: '*/*' },
  {
    method: 'get',
    path: `${DELIVERY}/files/{position}/picture.png`,
    summary: 'What one of its files looks like, for formats that cannot be shown',
    answer: 'image/png',
  },
  { method: 'get', path: `${DELIVERY}/frees`, summary: 'What deleting it would free, in bytes', answer: freesAnswer },
  { method: 'post', path: `${DELIVERY}/stop`, summary: 'Stop', answer: deliveryAnswer },
  { method: 'post', path: `${DELIVERY}/go-on`, summary: 'Go on where it stopped', answer: deliveryAnswer },
];
