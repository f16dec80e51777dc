export { shortageRoutes, type ShortageRow } from './shortages';
