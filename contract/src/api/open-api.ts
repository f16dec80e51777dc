import { problem, type AnyRoute, type Shape } from '../shape';
import { allRoutes } from './all-routes';

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 document of every route, made from the contract. Source of the form: OpenAPI Specification 3.1.0. */
export function openApi(): Json {
  const paths: Record<string, Json> = {};
  for (const { area, name, route } of allRoutes()) (paths[`/api${route.path}`] ??= {})[route.method.toLowerCase()] = operation(area, name, route);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Nockwright',
      version: '1',
      description: 'Quantities, prices and amounts are decimal text. Days are YYYY-MM-DD. Every request that changes something carries an Idempotency-Key.',
    },
    paths,
    components: {
      schemas: { Problem: toJsonSchema(problem, 'output') },
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: '__Host-nock_session', description: 'Without TLS, on loopback, it is called nock_session.' },
      },
      responses: {
        Problem: {
          description: 'What is wrong, with the fields at fault (RFC 9457)',
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      },
    },
    security: [{ session: [] }],
  };
}

function operation(area: string, name: string, route: AnyRoute): Json {
  const refusals = [...(route.roles === 'public' ? [] : ['401', '403']), '404', '409', '422', '429'];
  const content =
    route.media && !route.reply ? { [route.media]: {} } : { 'application/json': { schema: route.reply ? toJsonSchema(route.reply, 'output') : {} } };
  return {
    operationId: name,
    tags: [area],
    summary: route.summary,
    ...(route.roles === 'public' ? { security: [] } : { 'x-roles': route.roles }),
    parameters: [
      ...parameters(route.params, 'path'),
      ...parameters(route.query, 'query'),
      ...(route.method === 'GET' || route.roles === 'public' ? [] : [IDEMPOTENCY_KEY]),
    ],
    ...(route.body ? { requestBody: { required: true, content: { 'application/json': { schema: toJsonSchema(route.body, 'input') } } } } : {}),
    responses: {
      '200': { description: 'Done', content },
      ...Object.fromEntries(refusals.map((status) => [status, { $ref: '#/components/responses/Problem' }])),
    },
  };
}

const IDEMPOTENCY_KEY = {
  name: 'Idempotency-Key',
  in: 'header',
  required: true,
  description: 'A UUID of your own for this change; sent again, it is answered again and not done again',
  schema: { type: 'string', format: 'uuid' },
};

function parameters(shape: Shape<unknown>, place: 'path' | 'query'): Json[] {
  const { properties = {}, required = [] } = toJsonSchema(shape, 'input') as { properties?: Record<string, Json>; required?: string[] };
  return Object.entries(properties).map(([name, schema]) => ({ name, in: place, required: place === 'path' || required.includes(name), schema }));
}

interface JsonSchemaSource {
  readonly jsonSchema: Record<'input' | 'output', (options: { target: string }) => Json>;
}

/** Joi writes JSON Schema itself (Standard Schema's `~standard` property, which its types do not name yet). */
function toJsonSchema(shape: Shape<unknown>, side: 'input' | 'output'): Json {
  const standard = (shape.schema as unknown as { '~standard': JsonSchemaSource })['~standard'];
  return standard.jsonSchema[side]({ target: 'draft-2020-12' });
}
