export { worklistRoutes, type CallList, type CallView } from './worklist';
