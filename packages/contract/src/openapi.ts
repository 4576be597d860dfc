import * as z from 'zod';
import { type Endpoint, ENDPOINTS } from './endpoints.js';
import { PROBLEM_TYPE, problemSchema } from './problem.js';

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 document of the server, made from the endpoint table and its schemas. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [name, endpoint] of Object.entries<Endpoint>(ENDPOINTS)) {
    (paths[endpoint.path] ??= {})[endpoint.method] = operation(name, endpoint);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Glenmark', version, license: { name: 'MIT', identifier: 'MIT' } },
    paths,
    components: { schemas: { Problem: schemaOf(problemSchema) } },
  };
}

function operation(operationId: string, endpoint: Endpoint): Json {
  const within = (place: 'path' | 'query', schemas: Record<string, z.ZodType>): Json[] =>
    Object.entries(schemas).map(([name, schema]) => ({
      name,
      in: place,
      required: place === 'path',
      schema: schemaOf(schema, 'input'),
    }));
  const header = (name: string, required: boolean): Json => ({
    name,
    in: 'header',
    required,
    schema: { type: 'string' },
  });
  const { reply } = endpoint;
  const success: Json = { description: endpoint.summary };
  if (reply.schema !== undefined)
    success['content'] = { 'application/json': { schema: schemaOf(reply.schema) } };
  if (reply.text !== undefined) success['content'] = { [reply.text]: { schema: { type: 'string' } } };
  const headers = {
    ...(reply.etag === true ? { ETag: { schema: { type: 'string' } } } : {}),
    ...(reply.location === true ? { Location: { schema: { type: 'string' } } } : {}),
    ...(endpoint.query === undefined ? {} : { Link: { schema: { type: 'string' } } }),
  };
  if (Object.keys(headers).length > 0) success['headers'] = headers;
  const problem = {
    description: 'what went wrong',
    content: { [PROBLEM_TYPE]: { schema: { $ref: '#/components/schemas/Problem' } } },
  };
  return {
    operationId,
    summary: endpoint.summary,
    parameters: [
      ...within('path', endpoint.parameters),
      ...within('query', endpoint.query ?? {}),
      ...(endpoint.ifMatch === true ? [header('If-Match', true)] : []),
      ...(endpoint.idempotencyKey === true ? [header('Idempotency-Key', false)] : []),
    ],
    ...bodyOf(endpoint),
    responses: {
      [reply.status]: success,
      ...Object.fromEntries(endpoint.problems.map((status) => [status, problem])),
    },
  };
}

function bodyOf({ body, upload }: Endpoint): Json {
  const content: Json | undefined =
    body !== undefined
      ? { 'application/json': { schema: schemaOf(body, 'input') } }
      : upload !== undefined
        ? { [upload]: {} }
        : undefined;
  return content === undefined ? {} : { requestBody: { required: true, content } };
}

/** A Zod schema as JSON Schema 2020-12, which is what OpenAPI 3.1 takes; kept inline so that the file stands alone. */
function schemaOf(schema: z.ZodType, io: 'input' | 'output' = 'output'): Json {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, {
    io,
    reused: 'inline',
    unrepresentable: 'any',
  }) as Json;
  return rest;
}
