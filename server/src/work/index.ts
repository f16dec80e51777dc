export { mapInTurns } from './in-turns';
export { inThreads } from './threads';
export { inThisThread, takingTurns, type Task, type Work } from './work';
