export { poolName } from './lock-pools';
export { savepoint, type Savepoint } from './savepoint';
export { touchOrders } from './touch-orders';
export { noteLock, takeLocks, type LockKind, type Touched } from './take-locks';
