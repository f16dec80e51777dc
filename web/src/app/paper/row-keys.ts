/** Arrow keys go from row to row of a list; `enter` does what a click on the row does. Gives whether the key was one of these. */
export function rowKey(event: KeyboardEvent, enter: () => void): boolean {
  const row = event.currentTarget as HTMLElement;
  if (event.target !== row || event.ctrlKey) return false;
  if (event.key === 'Enter') enter();
  else if (event.key === 'ArrowDown') (row.nextElementSibling as HTMLElement | null)?.focus();
  else if (event.key === 'ArrowUp') (row.previousElementSibling as HTMLElement | null)?.focus();
  else return false;
  event.preventDefault();
  return true;
}
