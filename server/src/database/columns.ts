import type pg from 'pg';

/** How a column of a result is named, and what makes a value of its text. */
export interface Column {
  readonly name: string;
  readonly read: (text: string) => unknown;
}

type TypeParsers = Pick<pg.CustomTypesConfig, 'getTypeParser'>;

const BOOLEAN = 16;

/** What statements give, by their text: the same for every connection, so it is learned once. */
const known = new Map<string, readonly Column[]>();
const wanted = new Set<string>();

/** The columns that a statement gives; undefined until it has been sent once after it was first asked about. */
export function columnsOf(text: string): readonly Column[] | undefined {
  wanted.add(text);
  return known.get(text);
}

/** Notes the columns that a statement gave, where somebody has asked: called by every connection for every result. */
export function noteColumns(text: string, fields: readonly pg.FieldDef[], types: TypeParsers): void {
  if (!wanted.has(text) || known.has(text)) return;
  known.set(
    text,
    fields.map(({ name, dataTypeID }) => ({ name, read: readerOf(dataTypeID, types) })),
  );
}

/** `true` is the text of a boolean that is cast, `t` of one that is sent. */
function readerOf(type: number, types: TypeParsers): Column['read'] {
  return type === BOOLEAN ? (text) => text === 'true' : (types.getTypeParser(type, 'text') as Column['read']);
}
