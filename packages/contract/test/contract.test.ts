import {
  documentSchema,
  draftSchema,
  ENDPOINTS,
  type Endpoint,
  etagOf,
  openApiDocument,
  problemSchema,
} from '@glenmark/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';

type Operation = {
  operationId: string;
  parameters: { name: string; in: string }[];
  requestBody?: object;
  responses: Record<string, { content?: Record<string, { schema: object }> }>;
};
const document = openApiDocument('1.2.3') as {
  openapi: string;
  info: { version: string };
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Record<string, object> };
};
const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
  Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
);

describe('the OpenAPI document', () => {
  it('has one operation an endpoint, each with an id of its own', () => {
    expect(operations.map((o) => o.operation.operationId).sort()).toEqual(Object.keys(ENDPOINTS).sort());
    expect(document).toMatchObject({ openapi: '3.1.0', info: { version: '1.2.3' } });
  });

  it('declares every parameter that stands in a path, and If-Match where it is asked for', () => {
    for (const { path, operation } of operations) {
      const inPath = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
      expect(operation.parameters.filter((p) => p.in === 'path').map((p) => p.name)).toEqual(inPath);
      const endpoint: Endpoint = ENDPOINTS[operation.operationId as keyof typeof ENDPOINTS];
      expect(operation.parameters.some((p) => p.name === 'If-Match')).toBe(endpoint.ifMatch === true);
      expect(operation.requestBody !== undefined).toBe((endpoint.body ?? endpoint.upload) !== undefined);
    }
  });

  it('describes replies by schemas that a reply meets', () => {
    const ajv = new Ajv2020({ strict: false, validateFormats: false });
    const reply = {
      kind: 'moveset',
      id: 'courier',
      name: 'Courier',
      revision: 3,
      updatedAt: '2026-01-01T00:00:00.000Z',
      text: 'glenmark: 1',
      hash: 'abc',
      message: '',
    };
    const read =
      document.paths['/api/{collection}/{id}']!['get']!.responses['200']!.content!['application/json']!
        .schema;
    expect(documentSchema.parse(reply)).toEqual(reply);
    expect(ajv.compile(read)(reply)).toBe(true);
    expect(ajv.compile(read)({ ...reply, revision: 0 })).toBe(false);
    const problem = {
      type: 'about:blank',
      title: 'Not Found',
      status: 404,
      detail: 'There is nothing here.',
    };
    expect(problemSchema.parse(problem)).toEqual(problem);
    expect(ajv.compile(document.components.schemas['Problem']!)(problem)).toBe(true);
  });

  it('stands alone: no reference leads out of it', () => {
    for (const [, ref] of JSON.stringify(document).matchAll(/"\$ref":"([^"]+)"/g))
      expect(ref).toBe('#/components/schemas/Problem');
  });
});

describe('what travels', () => {
  it('an entity tag differs between revisions and between texts', () => {
    const tags = [
      etagOf({ revision: 1, hash: 'a'.repeat(64) }),
      etagOf({ revision: 2, hash: 'a'.repeat(64) }),
      etagOf({ revision: 1, hash: 'b'.repeat(64) }),
    ];
    expect(new Set(tags).size).toBe(3);
    for (const tag of tags) expect(tag).toMatch(/^"[\w-]+"$/);
  });

  it.each([
    [{}],
    [{ text: '' }],
    [{ text: 'a', other: 1 }],
    [{ text: 'a'.repeat(2_000_001) }],
    [{ text: 'a', message: 'm'.repeat(501) }],
  ])('a draft such as %j is refused', (draft) => {
    expect(draftSchema.safeParse(draft).success).toBe(false);
  });
});
