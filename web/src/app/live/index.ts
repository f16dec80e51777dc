export { Live } from './live';
