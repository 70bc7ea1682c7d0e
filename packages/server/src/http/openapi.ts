import * as z from 'zod';
import { API_ROUTES, type ApiRoute } from './api-routes';

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as Record<string, unknown>;
const json = (schema: z.ZodType, io: 'input' | 'output') => ({
  content: { 'application/json': { schema: schemaOf(schema, io) } },
});

const FILES = {
  content: {
    'multipart/form-data': {
      schema: {
        type: 'object',
        properties: { files: { type: 'array', items: { type: 'string', format: 'binary' } } },
      },
    },
  },
};
const PROBLEM = { description: 'Problem details (RFC 9457)', content: { 'application/problem+json': {} } };

function answered(answer: ApiRoute['answer']) {
  if (answer === null) return { '204': { description: 'Done' }, default: PROBLEM };
  const content = typeof answer === 'string' ? { content: { [answer]: {} } } : json(answer, 'output');
  return { '200': { description: 'Done', ...content }, default: PROBLEM };
}

function operation({ path, summary, body, query, answer }: ApiRoute) {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = query && (schemaOf(query, 'input').properties as Record<string, unknown> | undefined);
  const inQuery = Object.entries(asked ?? {}).map(([name, schema]) => ({ name, in: 'query', schema }));
  return {
    summary,
    ...(inPath.length + inQuery.length > 0 && { parameters: [...inPath, ...inQuery] }),
    ...(body && { requestBody: body === 'files' ? FILES : json(body, 'input') }),
    responses: answered(answer),
  };
}

let made: ReturnType<typeof make> | undefined;

/** The API as OpenAPI 3.1, made from the schemas that requests and answers are held against. */
export const openApi = () => (made ??= make());

function make() {
  const paths: Record<string, Record<string, ReturnType<typeof operation>>> = {};
  for (const route of API_ROUTES) (paths[route.path] ??= {})[route.method] = operation(route);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tolvik',
      version: '0.1.0',
      description: 'Projects, plans, files and deliveries. Requests and answers are held against the schemas below.',
    },
    paths,
  };
}
