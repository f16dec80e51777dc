export { computeBoards, type Boards } from './compute-boards';
export { freshenBoards, freshenTask, refreshBoards } from './keep-boards';
export { mountBoards } from './routes';
