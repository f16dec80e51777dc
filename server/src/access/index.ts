export { mountAccess } from './routes';
export { currentUser } from './current-user';
