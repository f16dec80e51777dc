import type { LostReason } from '@nockwright/core/orders';
import type { PricePin, PriceStep } from '@nockwright/core/pricing';
import type { ColumnType, Generated, JSONColumnType } from 'kysely';

/** Rows as PostgreSQL keeps them. Quantities and money are numeric, which the driver gives and takes as decimal text. */
export interface Database {
  app_user: { id: Generated<number>; login: string; name: string; role: 'coordinator' | 'warehouse' | 'finance' | 'manager'; password_hash: string };
  session: { token_hash: string; user_id: number; expires_at: Date };
  failed_log_in: { login: string; address: string; at: Date };
  idempotency: { user_id: number; key: string; request_hash: string; reply: unknown; at: Generated<Date> };
  number_series: { name: string; next: number; prefix: Generated<string> };

  warehouse: { code: string; name: string; workdays: number[]; cutoff: string | null; receiving_days: number; address: string };
  closed_day: { warehouse: string; day: string };
  carrier_service: { code: string; name: string; transit_days: number };
  price_list: { code: string; name: string };
  customer: {
    id: Generated<number>;
    number: string;
    name: string;
    contact: string;
    phone: string;
    email: string;
    street: string;
    postcode: string;
    town: string;
    country: string;
    delivery_rule: 'complete' | 'parts';
    warehouse: string;
    carrier_service: string;
    price_list: string | null;
    terms_days: number;
    priority: Generated<number>;
    confidence: Generated<number | null>;
    credit_limit: Generated<string | null>;
    contract_choice: Generated<'lowest_price' | 'ends_first'>;
    several_contracts: Generated<boolean>;
    prospect: Generated<boolean>;
    must_name_contract: Generated<boolean>;
    notes: Generated<string>;
    search: Generated<string>;
  };
  ship_to: { id: Generated<number>; customer_id: number; name: string; street: string; postcode: string; town: string; country: string };
  item: {
    code: string;
    description: string;
    item_group: string;
    unit: string;
    weight: string;
    list_price: string;
    cost: string;
    discontinued: Generated<boolean>;
    successor: string | null;
    search: Generated<string>;
  };
  item_unit: { item: string; unit: string; numerator: number; denominator: number };
  search_word: { kind: 'item' | 'customer'; word: string };
  contract: {
    id: Generated<number>;
    number: string;
    name: string;
    first_day: string;
    last_day: string;
    note: Generated<string>;
    version: Generated<number>;
  };
  contract_customer: { contract_id: number; customer_id: number; ship_to_id: number | null };
  contract_line: {
    id: Generated<number>;
    contract_id: number;
    line_no: number;
    item: string | null;
    item_group: string | null;
    kind: 'fixed' | 'off_list' | 'cost_plus';
    unit: string | null;
    price: string | null;
    percent: string | null;
    minimum: string | null;
    most: string | null;
    used: Generated<string>;
  };
  price_break: { price_list: string; item: string; unit: string; from_quantity: string; price: string };
  supplier: { code: string; name: string; email: string; lead_days: number; drop_ships: boolean; drop_ship_fee: string };
  supplier_item: { supplier: string; item: string; their_code: string; cost: string; lead_days: number | null; minimum: string; multiple: string };

  stock: {
    item: string;
    warehouse: string;
    on_hand: Generated<string>;
    allocated: Generated<string>;
    inbound: Generated<string>;
    committed: Generated<string>;
  };
  stock_movement: {
    id: Generated<number>;
    at: Date;
    item: string;
    warehouse: string;
    quantity: string;
    kind: 'opening' | 'receipt' | 'shipment' | 'count';
    reference: string;
  };

  sales_order: {
    id: Generated<number>;
    number: string | null;
    kind: Generated<'order' | 'quote'>;
    state: Generated<'draft' | 'released' | 'discarded' | 'quoted' | 'accepted' | 'lost'>;
    customer_id: number;
    ship_to_id: number;
    po_number: Generated<string>;
    request_kind: 'ship_by' | 'deliver_by';
    requested_day: string;
    warehouse: string;
    carrier_service: string;
    ship_complete: boolean;
    source: 'phone' | 'mail' | 'counter' | 'portal' | 'file';
    note: Generated<string>;
    currency: Generated<string>;
    priority: number;
    place: Generated<string | null>;
    entered: string;
    saved_at: Date;
    version: Generated<number>;
    contract_id: Generated<number | null>;
    valid_until: Generated<string | null>;
    revision: Generated<number>;
    lost_reason: Generated<LostReason | null>;
    lost_note: Generated<string>;
    quote_id: Generated<number | null>;
  };
  order_line: {
    id: Generated<number>;
    order_id: number;
    line_no: number;
    item: string;
    warehouse: string;
    unit: string;
    numerator: number;
    denominator: number;
    quantity: string;
    stock_quantity: string;
    shipped: Generated<string>;
    cancelled: Generated<string>;
    reserved: Generated<string>;
    price: string;
    price_source: string;
    price_trail: JSONColumnType<readonly PriceStep[]>;
    contract_line_id: Generated<number | null>;
    price_pin: ColumnType<PricePin | null, string | null | undefined, string | null>;
    alternative: Generated<boolean>;
    alternative_to: Generated<number | null>;
    /** Where it goes, where that is another address than the order's. */
    ship_to_id: Generated<number | null>;
    quote_line_id: Generated<number | null>;
    requested_day: string | null;
    note: Generated<string>;
  };
  order_standing: {
    order_id: number;
    kind: 'order' | 'quote';
    state: 'draft' | 'released' | 'discarded' | 'quoted' | 'accepted' | 'lost';
    customer_name: string;
    requested_day: string;
    promised_day: string;
    amount: string;
    lines: number;
    open_lines: number;
    waiting_lines: number;
    shipped: boolean;
    picking: boolean;
    billed: boolean;
    held: boolean;
    open: Generated<boolean>;
    waiting: Generated<boolean>;
    search: string;
  };
  saved_view: { id: Generated<number>; user_id: number; screen: 'orders'; name: string; query: string };
  order_hold: {
    id: Generated<number>;
    order_id: number;
    kind: 'below_floor' | 'credit' | 'customer';
    why: string;
    facts: unknown;
    placed_at: Date;
    placed_by: number;
    cleared_at: Generated<Date | null>;
    cleared_by: Generated<number | null>;
    cleared_why: Generated<string | null>;
  };
  line_promise: { line_id: number; day: string; quantity: string };
  document: { id: Generated<number>; kind: 'acknowledgement' | 'quote' | 'pro_forma'; order_id: number; made_at: Date; content: JSONColumnType<object> };

  customer_note: {
    id: Generated<number>;
    customer_id: number;
    text: string;
    made_at: Date;
    made_by: number;
    closed_at: Generated<Date | null>;
    closed_by: Generated<number | null>;
  };
  order_file: {
    id: Generated<number>;
    order_id: number;
    name: string;
    media: string;
    size: number;
    sha256: string;
    content: Buffer;
    added_at: Date;
    added_by: number;
  };
  mail: {
    id: Generated<number>;
    order_id: number;
    document_id: number;
    recipients: string[];
    subject: string;
    body: string;
    state: Generated<'waiting' | 'sent' | 'failed'>;
    attempts: Generated<number>;
    fault: Generated<string>;
    made_at: Date;
    made_by: number;
    sent_at: Generated<Date | null>;
  };
  mail_file: { mail_id: number; file_id: number };
  outbox_message: { id: Generated<number>; mail_id: number; at: Date; sender: string; recipients: string[]; message: Buffer };

  purchase_order: {
    id: Generated<number>;
    number: string;
    supplier: string;
    kind: 'stock' | 'drop_ship';
    state: 'draft' | 'sent' | 'acknowledged' | 'closed' | 'cancelled';
    warehouse: string | null;
    order_id: number | null;
    ship_to: string;
    created_day: string;
    note: Generated<string>;
    version: Generated<number>;
  };
  purchase_line: {
    id: Generated<number>;
    purchase_id: number;
    line_no: number;
    item: string;
    warehouse: string | null;
    quantity: string;
    received: Generated<string>;
    closed: Generated<string>;
    cost: string;
    expected_day: string;
    first_day: Generated<string>;
    order_line_id: number | null;
    firm: boolean;
  };
  line_route: {
    id: Generated<number>;
    line_id: number;
    kind: 'backorder' | 'special_order' | 'drop_ship';
    supplier: string | null;
    quantity: string;
    purchase_line_id: number | null;
  };

  shipment: {
    id: Generated<number>;
    number: string;
    order_id: number;
    warehouse: string | null;
    purchase_id: number | null;
    state: 'picking' | 'shipped' | 'cancelled';
    carrier_service: string;
    tracking: Generated<string>;
    shipped_day: string | null;
    invoice_id: Generated<number | null>;
  };
  invoice: {
    id: Generated<number>;
    number: string;
    customer_id: number;
    day: string;
    due_day: string;
    currency: Generated<string>;
    amount: string;
    paid: Generated<string>;
  };
  shipment_line: { shipment_id: number; order_line_id: number; quantity: string };

  customer_call: {
    id: Generated<number>;
    order_id: number;
    line_id: number;
    told: JSONColumnType<readonly { day: string; quantity: string }[]>;
    holds: JSONColumnType<readonly { day: string; quantity: string }[]>;
    say: string;
    why: string;
    made_at: Date;
    made_by: number | null;
    done_at: Date | null;
    done_by: number | null;
    outcome: 'told' | 'superseded' | null;
  };
  resequence_run: {
    id: Generated<number>;
    state: 'running' | 'done' | 'stopped' | 'failed' | 'accepted';
    started_at: Date;
    started_by: number;
    ended_at: Generated<Date | null>;
    beat_at: Date;
    done: Generated<number>;
    total: Generated<number>;
    result: Generated<unknown>;
    message: Generated<string>;
  };
  supplier_receipt: { id: Generated<number>; supplier: string; item: string; promised_day: string; received_day: string };
  desk_setting: { name: string; value: unknown };

  event: { id: Generated<number>; at: Date; user_id: number | null; what: string; why: string; before: unknown; after: unknown };
  event_subject: { event_id: number; kind: SubjectKind; key: string };
}

export type SubjectKind = 'order' | 'item' | 'purchase' | 'shipment' | 'customer' | 'run' | 'contract' | 'price_list' | 'mail';
