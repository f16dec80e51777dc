export { JobQueue, type Jobs, type Worker } from './job-queue';
export { QUEUE_SCHEMA, QUEUES, type QueueName } from './queues';
export { sweep } from './sweep';
