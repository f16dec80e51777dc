import pino, { type DestinationStream, type Logger } from 'pino';

/** What an error says beside its kind, its stack and where it was caused: names of the schema, and no value of a row. */
const NAMES = ['code', 'severity', 'constraint', 'schema', 'table', 'column', 'routine'] as const;

interface Described {
  readonly type: string;
  readonly message: string;
  readonly stack?: string;
  readonly cause?: Described;
  readonly [name: string]: unknown;
}

/**
 * An error as it is logged: with its stack, and without what people have typed. PostgreSQL quotes the value at fault behind
 * a colon, and adds the whole row as a detail.
 */
export function describeError(error: unknown): Described {
  if (!(error instanceof Error)) return { type: typeof error, message: 'not an error' };
  const fields = error as unknown as Record<string, unknown>;
  const message = error.message.replace(/: "[^]*"$/, ': …');
  const stack = error.stack?.replace(error.message, message);
  return {
    type: error.name === 'Error' ? error.constructor.name : error.name,
    message,
    ...(stack === undefined ? {} : { stack }),
    ...Object.fromEntries(NAMES.flatMap((name) => (typeof fields[name] === 'string' ? [[name, fields[name]]] : []))),
    ...(error.cause instanceof Error ? { cause: describeError(error.cause) } : {}),
  };
}

/** The log: a line of JSON for each thing. Texts under `error` are taken as they are. */
export function createLog(level: string, destination?: DestinationStream): Logger {
  const serializers = { error: (error: unknown) => (typeof error === 'string' ? error : describeError(error)) };
  return destination ? pino({ level, serializers }, destination) : pino({ level, serializers });
}
