import type { LostReason } from '@nockwright/core/orders';
import type { PricePin, PriceStep } from '@nockwright/core/pricing';
import type { Moved } from '@nockwright/core/promise';
import type { PolicyName, RouteKind } from '@nockwright/core/shortages';
import type { RouteWish } from '@nockwright/contract/shortages';
import type { AdjustmentReason, StockStatus } from '@nockwright/contract/items';
import type { ColumnType, Generated, JSONColumnType } from 'kysely';

/** Rows as PostgreSQL keeps them. Quantities and money are numeric, which the driver gives and takes as decimal text. */
export interface Database {
  app_user: {
    id: Generated<number>;
    login: string;
    name: string;
    role: 'coordinator' | 'warehouse' | 'finance' | 'manager';
    password_hash: string;
    /** Since then they may not log in. */
    disabled_at: Generated<Date | null>;
    must_change_password: Generated<boolean>;
    /** The key of their time codes, one that waits for its first code, and the step of the code that was used last. */
    totp_key: Generated<string | null>;
    totp_begun: Generated<string | null>;
    totp_last_step: Generated<number | null>;
    version: Generated<number>;
  };
  session: {
    token_hash: string;
    user_id: number;
    expires_at: Date;
    id: Generated<number>;
    opened_at: Generated<Date>;
    seen_at: Generated<Date>;
    device: Generated<string>;
  };
  failed_log_in: { login: string; address: string; at: Date };
  known_device: { token_hash: string; user_id: number; seen_at: Date };
  idempotency: { user_id: number; key: string; request_hash: string; reply: unknown; at: Generated<Date> };
  number_series: { name: string; next: number; prefix: Generated<string> };

  warehouse: { code: string; name: string; workdays: number[]; cutoff: string | null; receiving_days: number; address: string };
  closed_day: { warehouse: string; day: string };
  carrier_service: { code: string; name: string; transit_days: number };
  price_list: { code: string; name: string; version: Generated<number> };
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
    most_shipments: Generated<number | null>;
    priority: Generated<number>;
    confidence: Generated<number | null>;
    route_policy: Generated<PolicyName | null>;
    asks_when_late: Generated<boolean>;
    /** Days of life that must be left on delivery; null: as the items say. */
    least_life: Generated<number | null>;
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
    assembly_days: Generated<number | null>;
    /** Of one stocking unit, 14 digits. */
    gtin: Generated<string | null>;
    tracks_lots: Generated<boolean>;
    tracks_expiry: Generated<boolean>;
    /** Its stocking unit is sold in multiples of this. */
    step: Generated<string>;
    /** Days of life that must be left on delivery. */
    least_life: Generated<number>;
    search: Generated<string>;
  };
  item_component: { item: string; component: string; quantity: string };
  item_substitute: { item: string; substitute: string; ratio: Generated<string> };
  item_unit: { item: string; unit: string; numerator: number; denominator: number; step: Generated<string> };
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
  supplier: {
    code: string;
    name: string;
    email: string;
    lead_days: number;
    drop_ships: boolean;
    drop_ship_fee: string;
    workdays: Generated<number[]>;
    order_days: Generated<number[]>;
    cutoff: Generated<string | null>;
    transit_days: Generated<number>;
    minimum_value: Generated<string>;
    freight: Generated<string>;
    freight_free_from: Generated<string | null>;
    exchanges: Generated<boolean>;
    price_tolerance: Generated<string>;
    day_tolerance: Generated<number>;
    version: Generated<number>;
  };
  supplier_closed_day: { supplier: string; day: string };
  supplier_item: {
    supplier: string;
    item: string;
    their_code: string;
    cost: string;
    lead_days: number | null;
    minimum: string;
    multiple: string;
    returnable: Generated<boolean>;
    cleared_most: Generated<string | null>;
    cleared_least: Generated<string | null>;
  };
  supplier_unit: { supplier: string; item: string; unit: string; quantity: string };
  supplier_item_break: { supplier: string; item: string; from_quantity: string; cost: string };
  transfer_lane: { from_warehouse: string; to_warehouse: string; transit_days: number; cost_per_kg: string };

  stock: {
    item: string;
    warehouse: string;
    on_hand: Generated<string>;
    allocated: Generated<string>;
    inbound: Generated<string>;
    committed: Generated<string>;
    set_aside: Generated<string>;
  };
  stock_movement: {
    id: Generated<number>;
    at: Date;
    item: string;
    warehouse: string;
    quantity: string;
    kind: 'opening' | 'receipt' | 'shipment' | 'count' | 'transfer' | 'assembly' | 'adjustment' | 'move';
    reference: string;
    status: Generated<StockStatus>;
    /** Null: where the item lives; from what expires first. */
    bin: Generated<string | null>;
    lot: Generated<string | null>;
    reason: Generated<AdjustmentReason | null>;
    /** Goods that leave must last until then; null: until the day they leave. */
    lasts_until: Generated<string | null>;
  };
  stock_movement_place: { movement_id: number; place_id: number; quantity: string };
  stock_place: { id: Generated<number>; item: string; warehouse: string; bin: string; lot: string; status: StockStatus; quantity: string };
  bin: { warehouse: string; code: string };
  item_home: { item: string; warehouse: string; bin: string };
  item_lot: { item: string; lot: string; expires: string | null };

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
    terms_days: number;
    description: Generated<string>;
    most_shipments: Generated<number | null>;
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
  order_task: {
    id: Generated<number>;
    order_id: number;
    words: string;
    noted_by: number;
    noted_at: Date;
    closed_by: number | null;
    closed_at: Date | null;
    how: Generated<string>;
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
    price_set_by: Generated<number | null>;
    alternative: Generated<boolean>;
    alternative_to: Generated<number | null>;
    /** Where it goes, where that is another address than the order's. */
    ship_to_id: Generated<number | null>;
    quote_line_id: Generated<number | null>;
    /** The line it goes instead of. */
    stands_for: Generated<number | null>;
    requested_day: string | null;
    note: Generated<string>;
  };
  board_touched: { id: Generated<number>; item: string };
  board_clock: { one: Generated<boolean>; days: string };
  board_short: {
    id: Generated<number>;
    line_id: number;
    item: string;
    kind: 'waiting' | 'late' | 'broken';
    quantity: string;
    promised_day: string | null;
    possible_day: string | null;
    drop_ship: boolean;
    requested: string;
    days_late: number | null;
    value: string;
    search: string;
  };
  board_ready: { line_id: number; order_id: number; item: string; warehouse: string; quantity: string; day: string };
  board_leave: { order_id: number; warehouse: string; place: number; day: string; entered: string; search: string };
  board_gap: { line_id: number; order_id: number; item: string };
  board_offer: { line_id: number; item: string; told: boolean; priority: number; place: number; move: JSONColumnType<Omit<Moved, 'id'>> };
  board_tie: { order_id: number; item: string };
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
  document: {
    id: Generated<number>;
    kind: 'acknowledgement' | 'quote' | 'pro_forma' | 'purchase';
    order_id: Generated<number | null>;
    purchase_id: Generated<number | null>;
    made_at: Date;
    content: JSONColumnType<object>;
  };

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
  /** Links that answer a question: hashes of them. */
  answer_link: { hash: string; request_id: number };
  mail: {
    id: Generated<number>;
    /** The question it asks; its text has a place where the link comes. */
    request_id: Generated<number | null>;
    order_id: Generated<number | null>;
    purchase_id: Generated<number | null>;
    document_id: number | null;
    recipients: string[];
    subject: string;
    body: string;
    state: Generated<'waiting' | 'sent' | 'failed'>;
    attempts: Generated<number>;
    fault: Generated<string>;
    made_at: Date;
    made_by: number;
    sent_at: Generated<Date | null>;
    message_id: Generated<string>;
    claimed_until: Generated<Date | null>;
    fates: ColumnType<readonly { readonly address: string; readonly taken: boolean; readonly why: string }[], string | undefined, string>;
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
    /** Of a drop shipment: the day its customer was told it leaves. */
    told_day: Generated<string | null>;
    order_line_id: number | null;
    firm: boolean;
    /** Only lifts a draft to the supplier's minimum and lot. */
    lifts: Generated<boolean>;
    /** Came unfit to be sold and stands in quarantine: as much is still awaited, or closed. */
    damaged: Generated<string>;
    /** The line it was bought beside, for stock, to have the whole for less. */
    beside_id: Generated<number | null>;
  };
  exchange_message: {
    id: Generated<number>;
    supplier: string;
    direction: 'out' | 'in';
    kind: 'order' | 'cancellation' | 'order_response' | 'despatch_advice' | 'unreadable';
    purchase_id: number | null;
    number: string;
    file: string;
    content: string;
    at: Date;
    state: 'waiting' | 'written' | 'taken' | 'held' | 'refused';
    says: Generated<string[]>;
    hurts: Generated<number[]>;
    needs_look: Generated<boolean>;
  };
  despatch_notice: { id: Generated<number>; purchase_id: number; number: string; day: string; tracking: Generated<string>; done: Generated<boolean> };
  despatch_notice_line: { notice_id: number; position: number; purchase_line_id: number; quantity: string; lot: Generated<string>; expires: string | null };
  line_route: {
    id: Generated<number>;
    line_id: number;
    kind: RouteKind;
    supplier: string | null;
    warehouse: Generated<string | null>;
    item: Generated<string | null>;
    ship_to_id: Generated<number | null>;
    quantity: string;
    unit_cost: Generated<string | null>;
    more: Generated<string | null>;
    work_days: Generated<number | null>;
    purchase_line_id: Generated<number | null>;
    transfer_line_id: Generated<number | null>;
    assembly_id: Generated<number | null>;
    new_line_id: Generated<number | null>;
    /** What the customer was told of the line before it, and when it was chosen. */
    told_before: ColumnType<readonly { readonly day: string; readonly quantity: string }[] | null, string | null | undefined, string | null>;
    made_at: Generated<Date | null>;
  };
  transfer_order: {
    id: Generated<number>;
    number: string;
    from_warehouse: string;
    to_warehouse: string;
    state: 'open' | 'shipped' | 'closed' | 'cancelled';
    created_day: string;
    ship_day: string;
    expected_day: string;
    first_day: Generated<string>;
    version: Generated<number>;
  };
  transfer_line: {
    id: Generated<number>;
    transfer_id: number;
    line_no: number;
    item: string;
    quantity: string;
    cancelled: Generated<string>;
    shipped: Generated<string>;
    received: Generated<string>;
    lost: Generated<string>;
    damaged: Generated<string>;
    order_line_id: number | null;
  };
  assembly_order: {
    id: Generated<number>;
    number: string;
    item: string;
    warehouse: string;
    quantity: string;
    built: Generated<string>;
    cancelled: Generated<string>;
    state: 'open' | 'closed' | 'cancelled';
    created_day: string;
    expected_day: string;
    first_day: Generated<string>;
    order_line_id: number | null;
    parent_id: number | null;
    version: Generated<number>;
  };
  assembly_component: { assembly_id: number; component: string; per_unit: string; set_aside: Generated<string> };
  consent_request: {
    id: Generated<number>;
    order_id: number;
    line_id: number | null;
    quantity: string;
    parts: JSONColumnType<readonly RouteWish[]>;
    question: string;
    day: string | null;
    on_no: 'cancel' | 'reroute';
    state: 'open' | 'accepted' | 'refused' | 'part' | 'withdrawn';
    answer_by: string;
    by_mail: Generated<boolean>;
    asked_at: Date;
    asked_by: number;
    answered_at: Generated<Date | null>;
    answered_by: Generated<number | null>;
    answered_how: Generated<'link' | 'phone' | null>;
    taken: Generated<string | null>;
    note: Generated<string>;
    outcome: Generated<string>;
    needs_work: Generated<boolean>;
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
  /** Kept by the database: of the newest receipts of a supplier, how many came so many days late. */
  supplier_lateness: { supplier: string; days: number; receipts: number };
  supplier_receipt: { id: Generated<number>; supplier: string; item: string; promised_day: string; received_day: string };
  desk_setting: { name: string; value: unknown };

  event: { id: Generated<number>; at: Date; user_id: number | null; what: string; why: string; before: unknown; after: unknown };
  event_subject: { event_id: number; kind: SubjectKind; key: string };
}

export type SubjectKind =
  'order' | 'item' | 'purchase' | 'shipment' | 'customer' | 'run' | 'contract' | 'price_list' | 'mail' | 'transfer' | 'assembly' | 'supplier' | 'user';
