export { accessRoutes, user, type User } from './access';
