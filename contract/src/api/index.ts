export { allRoutes, API } from './all-routes';
export { openApi } from './open-api';
