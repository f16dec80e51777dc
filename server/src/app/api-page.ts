import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Hono } from 'hono';
import { Refusal } from '../http/refusal';

const FILES: Record<string, string> = { 'swagger-ui.css': 'text/css', 'swagger-ui-bundle.js': 'text/javascript' };

const PAGE = `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>Nockwright API</title><link rel="stylesheet" href="/api/docs/swagger-ui.css"></head>
<body><div id="api"></div><script src="/api/docs/swagger-ui-bundle.js"></script><script src="/api/docs/start.js"></script></body>
</html>`;

const START = `SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#api', deepLinking: true, supportedSubmitMethods: [] });`;

/** The OpenAPI document, readable in the browser. */
export function mountApiPage(app: Hono): void {
  const folder = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));
  app.get('/api/docs', (c) => c.html(PAGE));
  app.get('/api/docs/start.js', (c) => c.body(START, 200, { 'Content-Type': 'text/javascript' }));
  app.get('/api/docs/:file', async (c) => {
    const type = FILES[c.req.param('file')];
    if (!type) throw new Refusal('not-found', 'There is no such file.');
    return c.body(await readFile(join(folder, c.req.param('file')), 'utf8'), 200, { 'Content-Type': type });
  });
}
