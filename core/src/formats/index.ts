export { readNumber, readTable, writeCsv, writeTable, type Column, type TableRead, type TableRow } from './table';
