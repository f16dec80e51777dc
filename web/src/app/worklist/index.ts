export { OpenCalls } from './open-calls';
