export { anything, code, day, decimal, flag, id, integer, list, moment, note, nullable, object, oneOf, optional, quantity, secret, text, unitPrice, uuid, type Of, type Shape } from './shape';
export { get, post, put, remove, ROLES, type AnyRoute, type BodyOf, type Method, type ParamsOf, type QueryOf, type ReplyOf, type Role, type Route } from './route';
export { problem, type FieldFault, type Problem } from './problem';
export { history, type Happened } from './happened';
