export { Api, bodyFaults, newKey, ProblemError } from './api';
export { Reach } from './reach';
export { SentInTurn } from './sent-in-turn';
