import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** The texts that people read, each with the files it stands in. */
async function readTexts(): Promise<ReadonlyMap<string, readonly string[]>> {
  const script = (await import(new URL('../../scripts/lib/texts.mjs', import.meta.url).href)) as {
    readTexts: (root: string) => Promise<ReadonlyMap<string, readonly string[]>>;
  };
  return script.readTexts(ROOT);
}

test('no text has a phrase that the page of words has done away with', async () => {
  const page = readFileSync(`${ROOT}/docs/words.md`, 'utf8');
  const gone = [...page.slice(page.indexOf('## Phrases that are gone')).matchAll(/`([^`\n]+)`/g)].map(([, phrase]) => phrase!.toLowerCase()).slice(1);
  expect(gone.length).toBeGreaterThan(15);
  const texts = await readTexts();
  // It reads templates and sentences alike, or it reads nothing.
  expect([...texts.keys()].filter((text) => ['Released as order …. Its goods are committed.', 'Options for the'].includes(text))).toHaveLength(2);
  const found = [...texts].flatMap(([text, files]) =>
    gone.filter((phrase) => text.toLowerCase().includes(phrase)).map((phrase) => `${phrase}: “${text}” in ${files.join(', ')}`),
  );
  expect(found).toEqual([]);
});
