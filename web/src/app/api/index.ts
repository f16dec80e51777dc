export { Api, newKey, ProblemError } from './api';
export { Reach } from './reach';
