export { Api, newKey, ProblemError } from './api';
