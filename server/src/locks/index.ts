export { poolName } from './lock-pools';
export { savepoint, type Savepoint } from './savepoint';
export { touchOrders } from './touch-orders';
export { noteLock, noteOwn, takeLocks, type LockKind, type Touched } from './take-locks';
