/** Who an invoice is for, as it stood when it was issued. */
export interface BillTo {
  readonly name: string;
  readonly number: string;
  readonly street: string;
  readonly postcode: string;
  readonly town: string;
  readonly country: string;
  readonly taxNumber: string;
}
