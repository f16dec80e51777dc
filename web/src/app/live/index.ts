export { Live } from './live';
export { keptList, type ListQuery } from './kept-list';
