export { allocate, compareOnWalk, type Allocated, type Allocation, type FreePlace, type PickWant } from './allocate';
