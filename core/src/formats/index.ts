export { readNumber, readTable, splitTable, writeCsv, writeTable, type Column, type TableRead, type TableRow } from './table';
