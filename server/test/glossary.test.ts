import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const read = (path: string) => readFileSync(fileURLToPath(new URL(`../../${path}`, import.meta.url)), 'utf8');

/** `name` in `path`, as the glossary says where a rule stands. */
const PLACE = /`(\w+)` in `([^`]+)`/g;

test('the glossary names functions that are there', () => {
  const places = [...read('docs/glossary.md').matchAll(PLACE)].map(([, name, path]) => ({ name: name!, path: path! }));
  expect(places.length).toBeGreaterThan(25);
  const missing = places.filter(({ name, path }) => !new RegExp(`(?:function|const|class|interface) ${name}\\b`).test(read(path)));
  expect(missing).toEqual([]);
});
