export { currentUser } from './current-user';
export { closeSession, endSessions, listSessions, openSession, SESSION_HOURS, SESSION_TOPIC, sessionCookie, sessionHash, sessionTopic } from './sessions';
