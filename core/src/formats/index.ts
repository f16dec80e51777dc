export { readNumber, readTable, writeTable, type Column, type TableRead, type TableRow } from './table';
