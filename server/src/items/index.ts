export { findItems } from './find-items';
export { mountItems } from './routes';
