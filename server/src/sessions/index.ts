export { currentUser } from './current-user';
export { closeSession, openSession, SESSION_COOKIE, SESSION_HOURS } from './sessions';
