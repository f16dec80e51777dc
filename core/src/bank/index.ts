export { readBankCsv } from './bank-csv';
export { readCamt053 } from './camt053';
export type { BankEntry, BankStatement } from './bank-entry';
export { indexPayers, proposePayers, type BankInvoice, type PayerIndex, type PayerProposal, type ProposalReason } from './propose-payer';
