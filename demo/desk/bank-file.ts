/** A movement of a made-up bank statement. */
export interface Movement {
  readonly party: string;
  readonly amount: string;
  readonly reference: string;
  readonly text: string;
  readonly side: string;
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

/** A bank statement as camt.053 of ISO 20022. */
export function bankFileOf(day: string, movements: readonly Movement[]): string {
  const entries = movements.map(({ party, amount, reference, text, side }, at) => {
    const who = side === 'CRDT' ? 'Dbtr' : 'Cdtr';
    const said = [text && `<Ustrd>${escaped(text)}</Ustrd>`, reference && `<Strd><CdtrRefInf><Ref>${reference}</Ref></CdtrRefInf></Strd>`]
      .filter(Boolean)
      .join('');
    return `<Ntry><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${side}</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>${day}</Dt></BookgDt><AcctSvcrRef>${day}-${at + 1}</AcctSvcrRef>
<NtryDtls><TxDtls><RltdPties><${who}><Nm>${escaped(party)}</Nm></${who}></RltdPties><RmtInf>${said}</RmtInf></TxDtls></NtryDtls></Ntry>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><GrpHdr><MsgId>${day}</MsgId></GrpHdr>
<Stmt><Id>${day}</Id><Acct><Id><IBAN>GB33BUKB20201555555555</IBAN></Id></Acct>${entries.join('\n')}</Stmt></BkToCstmrStmt></Document>
`;
}
