export { JobQueue, type Jobs, type Worker } from './job-queue';
export { sweep } from './sweep';
