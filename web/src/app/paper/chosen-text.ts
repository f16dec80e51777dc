import { Observable } from 'rxjs';

export interface ChosenText {
  readonly name: string;
  readonly content: string;
}

/** The file that was chosen, read as text; fails where it is too large or cannot be read. Nothing where none was chosen. */
export function chosenText(field: HTMLInputElement, mostBytes: number): Observable<ChosenText> {
  const file = field.files?.[0];
  // The same file may be chosen again after it was refused.
  field.value = '';
  return new Observable((out) => {
    if (!file) return out.complete();
    if (file.size > mostBytes)
      return out.error(new Error(`${file.name} has ${(file.size / 1024 / 1024).toFixed(1)} MB; at most ${Math.round(mostBytes / 1_000_000)} MB are taken.`));
    const reader = new FileReader();
    reader.onload = () => {
      out.next({ name: file.name, content: String(reader.result) });
      out.complete();
    };
    reader.onerror = () => out.error(new Error(`${file.name} cannot be read.`));
    reader.readAsText(file);
  });
}
