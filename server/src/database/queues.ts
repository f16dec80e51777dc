/** The schema the queue keeps its tables in, apart from ours. */
export const QUEUE_SCHEMA = 'job_queue';

/** What may wait to be done. A job that fails is tried again after `retryDelay` seconds, then after twice as long each time. */
export const QUEUES = [
  { name: 'mail', policy: 'standard', retryLimit: 6, retryDelay: 30, retryBackoff: true, expireInSeconds: 120 },
  { name: 'carrier', policy: 'standard', retryLimit: 4, retryDelay: 2, retryBackoff: true, expireInSeconds: 60 },
] as const;

export type QueueName = (typeof QUEUES)[number]['name'];
