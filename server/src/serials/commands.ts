/** Acts of this area for those who make a desk: the demo and tests. */
export { nameSerials } from './name-serials';
