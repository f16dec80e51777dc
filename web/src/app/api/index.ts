export { Api, ProblemError } from './api';
