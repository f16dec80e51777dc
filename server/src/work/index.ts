export { inThreads } from './threads';
export { inThisThread, takingTurns, type Task, type Work } from './work';
