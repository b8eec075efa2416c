import { z } from 'zod';
import { Problem } from './schemas.ts';
import type { Route } from './route.ts';
import { routes } from './routes.ts';

const schema = (type: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _, ...rest } = z.toJSONSchema(type, { io, unrepresentable: 'any' }) as Record<
    string,
    unknown
  >;
  return rest;
};

function parameters(type: z.ZodType, place: 'path' | 'query') {
  const object = schema(type, 'input') as { properties?: Record<string, unknown>; required?: string[] };
  return Object.entries(object.properties ?? {}).map(([name, s]) => ({
    name,
    in: place,
    required: place === 'path' || (object.required ?? []).includes(name),
    schema: s,
  }));
}

function operation(name: string, route: Route) {
  const json = { 'application/json': { schema: route.raw ? {} : schema(route.body, 'input') } };
  const hasBody =
    route.raw ||
    Object.keys((schema(route.body, 'input') as { properties?: object }).properties ?? {}).length > 0;
  return {
    operationId: name,
    summary: route.summary,
    parameters: [...parameters(route.params, 'path'), ...parameters(route.query, 'query')],
    ...(hasBody
      ? { requestBody: { required: true, content: route.raw ? { 'application/octet-stream': {} } : json } }
      : {}),
    responses: {
      200: {
        description: 'As asked',
        content: { 'application/json': { schema: schema(route.reply, 'output') } },
      },
      default: {
        description: 'What went wrong, and what to do (RFC 9457)',
        content: { 'application/problem+json': { schema: schema(Problem, 'output') } },
      },
    },
    ...(route.open ? { security: [] } : {}),
  };
}

/** The contract as an OpenAPI 3.1 document, made from the route table. */
export function openApi(version: string): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [name, route] of Object.entries(routes) as [string, Route][]) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method.toLowerCase()] = operation(name, route);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Zephyrfield', version, description: 'Course calendars gathered into one view.' },
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'better-auth.session_token' } },
    },
    security: [{ session: [] }],
    paths,
  };
}
