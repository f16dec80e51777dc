export { documentRoutes, MOST_FILE_BYTES } from './documents';
