import type { AnyRoute } from '@nockwright/contract/shape';
import type { Observable } from 'rxjs';
import type { RecordField } from './record-field';

/** A form as data: the fields of a body of the contract, what stands in them, and how it is sent. */
export interface RecordOf<Body extends object, Reply> {
  readonly heading: string;
  readonly act: string;
  /** Begins the ids of its fields. */
  readonly name: string;
  /** What it is about, where one form may follow another of its name: another subject is another form. */
  readonly subject?: string | number;
  readonly fields: readonly RecordField<keyof Body & string>[];
  /** Whose body it fills: what is typed is checked by it before anything is sent. */
  readonly route: AnyRoute;
  /** What stands there as it is opened. */
  readonly value: Partial<Record<keyof Body & string, unknown>>;
  /** Of what is changed. The one it is opened on is sent: who changes it meanwhile is not overwritten. */
  readonly version?: number;
  /** A sentence below the fields. */
  readonly hint?: string;
  readonly send: (body: Body, version: number) => Observable<Reply>;
  /** How what it is about is removed, where it may be. */
  readonly remove?: { readonly act: string; readonly send: () => Observable<Reply> };
}

/** The same where its body is of no matter: whoever shows it. */
export type RecordSpec<Reply> = RecordOf<Record<string, unknown>, Reply>;

/** A form whose fields and values are checked against the body it fills. */
export function recordOf<Body extends object, Reply>(spec: RecordOf<Body, Reply>): RecordSpec<Reply> {
  return spec as unknown as RecordSpec<Reply>;
}
