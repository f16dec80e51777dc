/** What the bench is told by who runs it. */
export function setting(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; npm run bench sets it`);
  return value;
}
