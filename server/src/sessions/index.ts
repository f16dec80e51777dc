export { currentUser } from './current-user';
export { closeSession, openSession, SESSION_COOKIE, SESSION_TOPIC, sessionTopic, SESSION_HOURS } from './sessions';
