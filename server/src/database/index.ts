export { anyOf } from './any-of';
export { connect, type Db, type Trx } from './connect';
export { correctSearch, isSomewhere, meantWords } from './correct-words';
export { escapeLike, hasWord, searchWords } from './like';
export { migrate } from './migrate';
export type { Database, SubjectKind } from './tables';
export { keepPlans } from './keep-plans';
export { readTogether } from './read-together';
export { together } from './together';
