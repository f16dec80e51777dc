export { mailRoutes, type MailList, type MailRow, type MailView } from './mail';
