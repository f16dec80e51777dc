export { accessRoutes, user, type Account, type OpenSession, type SecondFactor, type User } from './access';
