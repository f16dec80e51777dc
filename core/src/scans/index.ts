export { checkDigit, isGtin, readScan, type Scan, type ScanResult } from './gs1';
export { elementText, makeSscc } from './sscc';
