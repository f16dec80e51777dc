import { Turns } from '../src/http/turns';

/** Work that ends when it is told to. */
function job() {
  let end: () => void = () => undefined;
  const done = new Promise<void>((resolve) => (end = resolve));
  return { done, end };
}
const settle = () => new Promise((resolve) => setImmediate(resolve));

test('one user’s many texts wait in turn; another is served meanwhile', async () => {
  const turns = new Turns(2, 3);
  const started: string[] = [];
  const jobs = new Map(['a1', 'a2', 'a3', 'a4', 'b1', 'c1'].map((name) => [name, job()]));
  const run = (user: number, name: string) =>
    turns.take(user, () => {
      started.push(name);
      return jobs.get(name)!.done;
    });
  const all = [run(1, 'a1'), run(1, 'a2'), run(1, 'a3'), run(1, 'a4'), run(2, 'b1'), run(3, 'c1')];
  await settle();
  expect(started).toEqual(['a1', 'a2', 'b1']);
  // Three in all: the third user waits, and goes before the first one's third.
  jobs.get('b1')!.end();
  await settle();
  expect(started.slice(3)).toEqual(['c1']);
  jobs.get('a1')!.end();
  await settle();
  expect(started.slice(4)).toEqual(['a3']);
  for (const one of jobs.values()) one.end();
  await Promise.all(all);
  expect(started).toEqual(['a1', 'a2', 'b1', 'c1', 'a3', 'a4']);
});

test('what fails gives its turn back; too many waiting are refused', async () => {
  const turns = new Turns(1, 5, 2);
  await expect(turns.take(1, () => Promise.reject(new Error('no')))).rejects.toThrow('no');
  const held = job();
  const waiting = [1, 2, 3].map(() => turns.take(1, () => held.done));
  await expect(turns.take(1, () => held.done)).rejects.toMatchObject({ kind: 'busy' });
  held.end();
  await Promise.all(waiting);
});
