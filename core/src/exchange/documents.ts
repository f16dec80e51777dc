/** The messages that we and a supplier exchange about a purchase order, whatever they are written in. */

export interface TradeParty {
  readonly name: string;
  /** How we call them, or they us. */
  readonly code?: string;
}

export interface TradeItem {
  readonly description: string;
  readonly buyersCode: string;
  readonly sellersCode: string;
  /** 14 digits. */
  readonly gtin?: string;
}

/** We order. Quantities are decimal text in the unit of the line, a UN/ECE Recommendation 20 code. */
export interface PurchaseOrderMessage {
  readonly number: string;
  readonly issueDay: string;
  readonly note: string;
  readonly currency: string;
  readonly buyer: TradeParty;
  readonly seller: TradeParty;
  /** Where it goes, on one line. */
  readonly shipTo: string;
  readonly lines: readonly {
    readonly id: string;
    readonly quantity: string;
    readonly unit: string;
    readonly amount: string;
    readonly price: string;
    readonly day: string;
    readonly item: TradeItem;
  }[];
}

/** We want nothing of it any more. */
export interface CancellationMessage {
  readonly number: string;
  readonly issueDay: string;
  readonly order: string;
  readonly note: string;
  readonly buyer: TradeParty;
  readonly seller: TradeParty;
}

/** What an answer says of the order as a whole: they only have it; they agree; not to all as it stands; to nothing of it. */
export type WholeAnswer = 'received' | 'accepted' | 'changed' | 'refused';

/** They answer: line by line as ordered, changed, or not at all. */
export interface OrderResponseMessage {
  /** Written from the lines where it is not said. Null: the file does not say. */
  readonly whole?: WholeAnswer | null;
  readonly number: string;
  readonly issueDay: string;
  readonly order: string;
  readonly note: string;
  readonly lines: readonly {
    readonly id: string;
    readonly answer: 'accepted' | 'changed' | 'refused';
    /** Of the whole line; null where they say nothing of it. */
    readonly quantity: string | null;
    /** Unit of the quantity, UN/ECE Recommendation 20. */
    readonly unit?: string | null;
    readonly day: string | null;
    readonly price: string | null;
    /** The price is for so many of this unit. */
    readonly priceFor?: string | null;
    readonly priceUnit?: string | null;
    readonly note: string;
    /** Their code of what they offer instead. */
    readonly instead: string | null;
  }[];
}

/** Goods have left them: for us, or for our customer. */
export interface DespatchAdviceMessage {
  readonly number: string;
  readonly issueDay: string;
  readonly order: string;
  readonly tracking: string;
  readonly lines: readonly {
    readonly orderLine: string;
    readonly quantity: string;
    readonly unit?: string | null;
    readonly lot: string;
    readonly expires: string | null;
  }[];
}
