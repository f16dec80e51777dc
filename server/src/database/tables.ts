import type { BillTo, TaxCategory } from '@nockwright/core/billing';
import type { IsoDay } from '@nockwright/core/calendar';
import type {
  AssemblyId,
  ContractId,
  ContractLineId,
  CustomerId,
  ItemCode,
  LineId,
  MailId,
  OrderId,
  PurchaseId,
  PurchaseLineId,
  RouteId,
  ShipToId,
  ShipmentId,
  SupplierCode,
  TransferId,
  TransferLineId,
  UserId,
  WarehouseCode,
} from '@nockwright/core/ids';
import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import type { LostReason } from '@nockwright/core/orders';
import type { PricePin, PriceStep } from '@nockwright/core/pricing';
import type { Moved } from '@nockwright/core/promise';
import type { PolicyName, RouteKind } from '@nockwright/core/shortages';
import type { Finding, KeptCause } from '@nockwright/contract/history';
import type { ConsentOutcome, RouteWish } from '@nockwright/contract/shortages';
import type { AdjustmentReason, StockStatus } from '@nockwright/contract/items';
import type { ColumnType, Generated, JSONColumnType, RawBuilder } from 'kysely';

/** Rows as PostgreSQL keeps them. Quantities and money are numeric, which the driver gives and takes as decimal text. */
export interface Database {
  app_user: {
    id: Generated<UserId>;
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
    user_id: UserId;
    expires_at: Date;
    id: Generated<number>;
    opened_at: Generated<Date>;
    seen_at: Generated<Date>;
    device: Generated<string>;
  };
  failed_log_in: { login: string; address: string; at: Date };
  known_device: { token_hash: string; user_id: UserId; seen_at: Date };
  idempotency: { user_id: UserId; key: string; request_hash: string; reply: unknown; at: Generated<Date> };
  /** One row: who keeps the desk. */
  firm: {
    one: Generated<boolean>;
    name: string;
    code: string;
    street: string;
    postcode: string;
    town: string;
    country: string;
    phone: string;
    email: string;
    tax_number: string;
    footer: string;
    currency: string;
    /** GS1 company prefix: cartons are numbered from it. */
    gs1_prefix: Generated<string>;
    version: Generated<number>;
  };
  number_series: { name: string; next: number; prefix: Generated<string> };

  warehouse: { code: WarehouseCode; name: string; workdays: number[]; cutoff: string | null; receiving_days: number; address: string };
  closed_day: { warehouse: WarehouseCode; day: IsoDay };
  carrier_service: {
    code: string;
    name: string;
    transit_days: number;
    carrier: Generated<string | null>;
    /** Cubic centimetres that count as a kilogram. */
    divisor: Generated<number>;
    cutoff: Generated<string | null>;
  };
  /** `url`: where its service answers; empty: labels are made elsewhere. */
  carrier: { code: string; name: string; url: Generated<string> };
  carton_type: { code: string; name: string; length_cm: string; width_cm: string; height_cm: string; tare_kg: string; most_kg: string };
  price_list: { code: string; name: string; version: Generated<number> };
  customer: {
    id: Generated<CustomerId>;
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
    warehouse: WarehouseCode;
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
    credit_limit: Generated<Amount | null>;
    contract_choice: Generated<'lowest_price' | 'ends_first'>;
    several_contracts: Generated<boolean>;
    prospect: Generated<boolean>;
    must_name_contract: Generated<boolean>;
    freight_rule: Generated<'included' | 'flat' | 'at_cost' | 'own_account'>;
    freight_flat: Generated<Amount | null>;
    freight_free_from: Generated<Amount | null>;
    freight_account: Generated<string>;
    takes_advices: Generated<boolean>;
    billing_rule: Generated<'shipment' | 'daily' | 'weekly' | 'monthly' | 'value'>;
    billing_value: Generated<Amount | null>;
    terms_kind: Generated<'net' | 'month_end'>;
    discount_percent: Generated<string>;
    discount_days: Generated<number>;
    tax_number: Generated<string>;
    tax_exemption: Generated<string>;
    notes: Generated<string>;
    version: Generated<number>;
    search: Generated<string>;
  };
  ship_to: { id: Generated<ShipToId>; customer_id: CustomerId; name: string; street: string; postcode: string; town: string; country: string };
  /** What a customer calls an item on their own papers. */
  customer_item: { customer_id: CustomerId; item: ItemCode; code: string };
  customer_contact: { id: Generated<number>; customer_id: CustomerId; name: string; role: string; phone: string; email: string; search: Generated<string> };
  item: {
    code: ItemCode;
    description: string;
    item_group: string;
    unit: string;
    weight: string;
    list_price: UnitPrice;
    cost: UnitPrice;
    discontinued: Generated<boolean>;
    successor: ItemCode | null;
    assembly_days: Generated<number | null>;
    /** Of one stocking unit, 14 digits. */
    gtin: Generated<string | null>;
    tracks_lots: Generated<boolean>;
    tax_class: Generated<string>;
    tracks_expiry: Generated<boolean>;
    /** Its stocking unit is sold in multiples of this. */
    step: Generated<Quantity>;
    /** Days of life that must be left on delivery. */
    least_life: Generated<number>;
    /** Of one stocking unit, in centimetres; all three or none. */
    length_cm: Generated<string | null>;
    width_cm: Generated<string | null>;
    height_cm: Generated<string | null>;
    /** What may not lie in a carton with goods of another class. */
    apart: Generated<string>;
    tracks_serials: Generated<boolean>;
    /** Other words it is known by, and sizes. */
    also: Generated<string>;
    search: Generated<string>;
  };
  item_component: { item: ItemCode; component: ItemCode; quantity: Quantity };
  item_substitute: { item: ItemCode; substitute: ItemCode; ratio: Generated<string> };
  item_unit: { item: ItemCode; unit: string; numerator: number; denominator: number; step: Generated<Quantity>; gtin: Generated<string | null> };
  search_word: { kind: 'item' | 'customer'; word: string };
  contract: {
    id: Generated<ContractId>;
    number: string;
    name: string;
    first_day: IsoDay;
    last_day: IsoDay;
    note: Generated<string>;
    version: Generated<number>;
  };
  contract_customer: { contract_id: ContractId; customer_id: CustomerId; ship_to_id: ShipToId | null };
  contract_line: {
    id: Generated<ContractLineId>;
    contract_id: ContractId;
    line_no: number;
    item: ItemCode | null;
    item_group: string | null;
    kind: 'fixed' | 'off_list' | 'cost_plus';
    unit: string | null;
    price: UnitPrice | null;
    percent: string | null;
    minimum: Quantity | null;
    most: Quantity | null;
    used: Generated<Quantity>;
  };
  price_break: { price_list: string; item: ItemCode; unit: string; from_quantity: Quantity; price: UnitPrice };
  supplier: {
    code: SupplierCode;
    name: string;
    email: string;
    lead_days: number;
    drop_ships: boolean;
    drop_ship_fee: Amount;
    workdays: Generated<number[]>;
    order_days: Generated<number[]>;
    cutoff: Generated<string | null>;
    transit_days: Generated<number>;
    minimum_value: Generated<Amount>;
    freight: Generated<Amount>;
    freight_free_from: Generated<Amount | null>;
    exchanges: Generated<boolean>;
    price_tolerance: Generated<string>;
    day_tolerance: Generated<number>;
    version: Generated<number>;
  };
  supplier_closed_day: { supplier: SupplierCode; day: IsoDay };
  supplier_item: {
    supplier: SupplierCode;
    item: ItemCode;
    their_code: string;
    cost: UnitPrice;
    lead_days: number | null;
    minimum: Quantity;
    multiple: Quantity;
    returnable: Generated<boolean>;
    cleared_most: Generated<UnitPrice | null>;
    cleared_least: Generated<UnitPrice | null>;
  };
  supplier_unit: { supplier: SupplierCode; item: ItemCode; unit: string; quantity: Quantity };
  supplier_item_break: { supplier: SupplierCode; item: ItemCode; from_quantity: Quantity; cost: UnitPrice };
  transfer_lane: { from_warehouse: WarehouseCode; to_warehouse: WarehouseCode; transit_days: number; cost_per_kg: UnitPrice };

  stock: {
    item: ItemCode;
    warehouse: WarehouseCode;
    on_hand: Generated<Quantity>;
    allocated: Generated<Quantity>;
    inbound: Generated<Quantity>;
    committed: Generated<Quantity>;
    set_aside: Generated<Quantity>;
  };
  stock_movement: {
    id: Generated<number>;
    at: Date;
    item: ItemCode;
    warehouse: WarehouseCode;
    quantity: Quantity;
    kind: 'opening' | 'receipt' | 'shipment' | 'count' | 'transfer' | 'assembly' | 'adjustment' | 'move';
    reference: string;
    status: Generated<StockStatus>;
    /** Null: where the item lives; from what expires first. */
    bin: Generated<string | null>;
    lot: Generated<string | null>;
    reason: Generated<AdjustmentReason | null>;
    /** Goods that leave must last until then; null: until the day they leave. */
    lasts_until: Generated<IsoDay | null>;
  };
  stock_movement_place: { movement_id: number; place_id: number; quantity: Quantity };
  stock_place: {
    id: Generated<number>;
    item: ItemCode;
    warehouse: WarehouseCode;
    bin: string;
    lot: string;
    status: StockStatus;
    quantity: Quantity;
    /** To picks. */
    allocated: Generated<Quantity>;
  };
  /** `walk`: where it lies on the way through the warehouse. */
  bin: { warehouse: WarehouseCode; code: string; walk: Generated<number> };
  item_home: { item: ItemCode; warehouse: WarehouseCode; bin: string };
  item_lot: { item: ItemCode; lot: string; expires: IsoDay | null };

  sales_order: {
    id: Generated<OrderId>;
    number: string | null;
    kind: Generated<'order' | 'quote'>;
    state: Generated<'draft' | 'released' | 'discarded' | 'quoted' | 'accepted' | 'lost'>;
    customer_id: CustomerId;
    ship_to_id: ShipToId;
    po_number: Generated<string>;
    request_kind: 'ship_by' | 'deliver_by';
    requested_day: IsoDay;
    warehouse: WarehouseCode;
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
    contract_id: Generated<ContractId | null>;
    valid_until: Generated<IsoDay | null>;
    revision: Generated<number>;
    lost_reason: Generated<LostReason | null>;
    lost_note: Generated<string>;
    quote_id: Generated<OrderId | null>;
  };
  order_task: {
    id: Generated<number>;
    order_id: OrderId;
    words: string;
    noted_by: UserId;
    noted_at: Date;
    closed_by: UserId | null;
    closed_at: Date | null;
    how: Generated<string>;
  };
  order_line: {
    id: Generated<LineId>;
    order_id: OrderId;
    line_no: number;
    item: ItemCode;
    warehouse: WarehouseCode;
    unit: string;
    numerator: number;
    denominator: number;
    quantity: Quantity;
    stock_quantity: Quantity;
    shipped: Generated<Quantity>;
    cancelled: Generated<Quantity>;
    reserved: Generated<Quantity>;
    price: UnitPrice;
    price_source: string;
    price_trail: JSONColumnType<readonly PriceStep[]>;
    contract_line_id: Generated<ContractLineId | null>;
    price_pin: ColumnType<PricePin | null, string | null | undefined, string | null>;
    price_set_by: Generated<UserId | null>;
    alternative: Generated<boolean>;
    alternative_to: Generated<LineId | null>;
    /** Where it goes, where that is another address than the order's. */
    ship_to_id: Generated<ShipToId | null>;
    quote_line_id: Generated<LineId | null>;
    /** The line it goes instead of. */
    stands_for: Generated<LineId | null>;
    requested_day: IsoDay | null;
    note: Generated<string>;
  };
  board_touched: { id: Generated<number>; item: ItemCode };
  board_clock: { one: Generated<boolean>; days: string };
  board_short: {
    id: Generated<number>;
    line_id: LineId;
    item: ItemCode;
    kind: 'waiting' | 'late' | 'broken';
    quantity: Quantity;
    promised_day: IsoDay | null;
    possible_day: IsoDay | null;
    drop_ship: boolean;
    requested: IsoDay;
    days_late: number | null;
    value: Amount;
    search: string;
  };
  board_ready: { line_id: LineId; order_id: OrderId; item: ItemCode; warehouse: WarehouseCode; quantity: Quantity; day: IsoDay };
  board_leave: { order_id: OrderId; warehouse: WarehouseCode; place: number; day: IsoDay; entered: string; search: string };
  board_gap: { line_id: LineId; order_id: OrderId; item: ItemCode };
  board_offer: { line_id: LineId; item: ItemCode; told: boolean; priority: number; place: number; move: JSONColumnType<Omit<Moved, 'id'>> };
  board_tie: { order_id: OrderId; item: ItemCode };
  order_standing: {
    order_id: OrderId;
    kind: 'order' | 'quote';
    state: 'draft' | 'released' | 'discarded' | 'quoted' | 'accepted' | 'lost';
    customer_name: string;
    requested_day: IsoDay;
    promised_day: IsoDay;
    amount: Amount;
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
  saved_view: { id: Generated<number>; user_id: UserId; screen: 'orders'; name: string; query: string };
  order_hold: {
    id: Generated<number>;
    order_id: OrderId;
    kind: 'below_floor' | 'credit' | 'customer';
    why: string;
    facts: unknown;
    placed_at: Date;
    placed_by: UserId;
    cleared_at: Generated<Date | null>;
    cleared_by: Generated<UserId | null>;
    cleared_why: Generated<string | null>;
  };
  line_promise: { line_id: LineId; day: IsoDay; quantity: Quantity };
  document: {
    id: Generated<number>;
    kind: 'acknowledgement' | 'quote' | 'pro_forma' | 'purchase' | 'packing_list' | 'invoice';
    order_id: Generated<OrderId | null>;
    purchase_id: Generated<PurchaseId | null>;
    consignment_id: Generated<number | null>;
    invoice_id: Generated<number | null>;
    made_at: Date;
    content: JSONColumnType<object>;
  };

  customer_note: {
    id: Generated<number>;
    customer_id: CustomerId;
    text: string;
    made_at: Date;
    made_by: UserId;
    closed_at: Generated<Date | null>;
    closed_by: Generated<UserId | null>;
  };
  order_file: {
    id: Generated<number>;
    order_id: OrderId;
    name: string;
    media: string;
    size: number;
    sha256: string;
    content: Buffer;
    added_at: Date;
    added_by: UserId;
  };
  /** Links that answer a question: hashes of them. */
  answer_link: { hash: string; request_id: number };
  mail: {
    id: Generated<MailId>;
    /** The question it asks; its text has a place where the link comes. */
    request_id: Generated<number | null>;
    order_id: Generated<OrderId | null>;
    purchase_id: Generated<PurchaseId | null>;
    consignment_id: Generated<number | null>;
    invoice_id: Generated<number | null>;
    document_id: number | null;
    recipients: string[];
    subject: string;
    body: string;
    state: Generated<'waiting' | 'sent' | 'failed'>;
    attempts: Generated<number>;
    fault: Generated<string>;
    made_at: Date;
    made_by: UserId;
    sent_at: Generated<Date | null>;
    message_id: Generated<string>;
    claimed_until: Generated<Date | null>;
    fates: ColumnType<readonly { readonly address: string; readonly taken: boolean; readonly why: string }[], string | undefined, string>;
  };
  mail_file: { mail_id: MailId; file_id: number };
  outbox_message: { id: Generated<number>; mail_id: MailId; at: Date; sender: string; recipients: string[]; message: Buffer };

  purchase_order: {
    id: Generated<PurchaseId>;
    number: string;
    supplier: SupplierCode;
    kind: 'stock' | 'drop_ship';
    state: 'draft' | 'sent' | 'acknowledged' | 'closed' | 'cancelled';
    warehouse: WarehouseCode | null;
    order_id: OrderId | null;
    ship_to: string;
    created_day: IsoDay;
    note: Generated<string>;
    version: Generated<number>;
  };
  purchase_line: {
    id: Generated<PurchaseLineId>;
    purchase_id: PurchaseId;
    line_no: number;
    item: ItemCode;
    warehouse: WarehouseCode | null;
    quantity: Quantity;
    received: Generated<Quantity>;
    closed: Generated<Quantity>;
    cost: UnitPrice;
    expected_day: IsoDay;
    first_day: Generated<IsoDay>;
    /** Of a drop shipment: the day its customer was told it leaves. */
    told_day: Generated<IsoDay | null>;
    order_line_id: LineId | null;
    firm: boolean;
    /** Only lifts a draft to the supplier's minimum and lot. */
    lifts: Generated<boolean>;
    /** Came unfit to be sold and stands in quarantine: as much is still awaited, or closed. */
    damaged: Generated<Quantity>;
    /** The line it was bought beside, for stock, to have the whole for less. */
    beside_id: Generated<PurchaseLineId | null>;
    /** What came and its supplier has not invoiced, at its cost. */
    accrued: Generated<Amount>;
    /** How many its supplier invoiced. */
    invoiced: Generated<Quantity>;
  };
  exchange_message: {
    id: Generated<number>;
    supplier: SupplierCode;
    direction: 'out' | 'in';
    kind: 'order' | 'cancellation' | 'order_response' | 'despatch_advice' | 'unreadable';
    purchase_id: PurchaseId | null;
    number: string;
    file: string;
    content: string;
    at: Date;
    state: 'waiting' | 'written' | 'taken' | 'held' | 'refused';
    findings: ColumnType<readonly Finding[], string | undefined, string>;
    hurts: Generated<number[]>;
    needs_look: Generated<boolean>;
  };
  despatch_notice: { id: Generated<number>; purchase_id: PurchaseId; number: string; day: IsoDay; tracking: Generated<string>; done: Generated<boolean> };
  despatch_notice_line: {
    notice_id: number;
    position: number;
    purchase_line_id: PurchaseLineId;
    quantity: Quantity;
    lot: Generated<string>;
    expires: IsoDay | null;
  };
  line_route: {
    id: Generated<RouteId>;
    line_id: LineId;
    kind: RouteKind;
    supplier: SupplierCode | null;
    warehouse: Generated<WarehouseCode | null>;
    item: Generated<ItemCode | null>;
    ship_to_id: Generated<ShipToId | null>;
    quantity: Quantity;
    unit_cost: Generated<UnitPrice | null>;
    more: Generated<Quantity | null>;
    work_days: Generated<number | null>;
    purchase_line_id: Generated<PurchaseLineId | null>;
    transfer_line_id: Generated<TransferLineId | null>;
    assembly_id: Generated<AssemblyId | null>;
    new_line_id: Generated<LineId | null>;
    /** What the customer was told of the line before it, and when it was chosen. */
    told_before: ColumnType<readonly { readonly day: IsoDay; readonly quantity: Quantity }[] | null, string | null | undefined, string | null>;
    made_at: Generated<Date | null>;
  };
  transfer_order: {
    id: Generated<TransferId>;
    number: string;
    from_warehouse: WarehouseCode;
    to_warehouse: WarehouseCode;
    state: 'open' | 'shipped' | 'closed' | 'cancelled';
    created_day: IsoDay;
    ship_day: IsoDay;
    expected_day: IsoDay;
    first_day: Generated<IsoDay>;
    version: Generated<number>;
  };
  transfer_line: {
    id: Generated<TransferLineId>;
    transfer_id: TransferId;
    line_no: number;
    item: ItemCode;
    quantity: Quantity;
    cancelled: Generated<Quantity>;
    shipped: Generated<Quantity>;
    received: Generated<Quantity>;
    lost: Generated<Quantity>;
    damaged: Generated<Quantity>;
    order_line_id: LineId | null;
  };
  assembly_order: {
    id: Generated<AssemblyId>;
    number: string;
    item: ItemCode;
    warehouse: WarehouseCode;
    quantity: Quantity;
    built: Generated<Quantity>;
    cancelled: Generated<Quantity>;
    state: 'open' | 'closed' | 'cancelled';
    created_day: IsoDay;
    expected_day: IsoDay;
    first_day: Generated<IsoDay>;
    order_line_id: LineId | null;
    parent_id: AssemblyId | null;
    version: Generated<number>;
  };
  assembly_component: { assembly_id: AssemblyId; component: ItemCode; per_unit: Quantity; set_aside: Generated<Quantity> };
  consent_request: {
    id: Generated<number>;
    order_id: OrderId;
    line_id: LineId | null;
    quantity: Quantity;
    parts: JSONColumnType<readonly RouteWish[]>;
    question: string;
    day: IsoDay | null;
    on_no: 'cancel' | 'reroute';
    state: 'open' | 'accepted' | 'refused' | 'part' | 'withdrawn';
    answer_by: IsoDay;
    by_mail: Generated<boolean>;
    asked_at: Date;
    asked_by: UserId;
    answered_at: Generated<Date | null>;
    answered_by: Generated<UserId | null>;
    answered_how: Generated<'link' | 'phone' | null>;
    taken: Generated<Quantity | null>;
    note: Generated<string>;
    outcome: ColumnType<ConsentOutcome | null, string | null | undefined, string>;
    needs_work: Generated<boolean>;
  };

  shipment: {
    id: Generated<ShipmentId>;
    number: string;
    order_id: OrderId;
    warehouse: WarehouseCode | null;
    purchase_id: PurchaseId | null;
    state: 'picking' | 'shipped' | 'cancelled';
    carrier_service: string;
    tracking: Generated<string>;
    shipped_day: IsoDay | null;
    invoice_id: Generated<number | null>;
    consignment_id: Generated<number | null>;
    tote: Generated<string>;
    /** What the customer pays for its freight. */
    freight_charge: Generated<Amount | null>;
  };
  /** What leaves one warehouse for one address at once. */
  consignment: {
    id: Generated<number>;
    warehouse: WarehouseCode;
    customer_id: CustomerId;
    ship_to_id: ShipToId;
    carrier_service: string;
    tracking: Generated<string>;
    cost: Generated<Amount | null>;
    version: Generated<number>;
    made_at: Generated<Date>;
  };
  /** Goods of one lot in one bin that are allocated to a line of a shipment. */
  pick_part: { id: Generated<number>; shipment_id: ShipmentId; order_line_id: LineId; place_id: number; quantity: Quantity; picked: Generated<Quantity> };
  carton: {
    id: Generated<number>;
    consignment_id: number;
    number: number;
    type: string;
    sscc: string;
    weight_kg: Generated<string | null>;
    closed_at: Generated<Date | null>;
    closed_by: Generated<UserId | null>;
  };
  carton_content: { carton_id: number; part_id: number; quantity: Quantity };
  /** What a shipment met of which promise; without a day: what had come in for its line alone. */
  shipment_met: { shipment_id: ShipmentId; order_line_id: LineId; day: IsoDay | null; quantity: Quantity };
  consignment_label: {
    id: Generated<number>;
    consignment_id: number;
    service: string;
    request_key: Generated<string>;
    state: 'waiting' | 'made' | 'failed' | 'voiding' | 'void';
    attempts: Generated<number>;
    try_at: ColumnType<Date, Date | RawBuilder<unknown>, Date | RawBuilder<unknown>>;
    fault: Generated<string>;
    their_id: Generated<string>;
    tracking: Generated<string>;
    cost: Generated<Amount | null>;
    pdf: Generated<Buffer | null>;
    made_at: Generated<Date | null>;
  };
  tracking_event: {
    id: Generated<number>;
    label_id: number;
    their_id: string;
    at: Date;
    kind: 'picked_up' | 'in_transit' | 'out_for_delivery' | 'delivered' | 'exception';
    place: Generated<string>;
    words: Generated<string>;
  };
  invoice: {
    id: Generated<number>;
    number: string;
    customer_id: CustomerId;
    day: IsoDay;
    due_day: IsoDay;
    currency: Generated<string>;
    amount: Amount;
    paid: Generated<Amount>;
    kind: Generated<'invoice' | 'credit_note'>;
    /** Null: of before invoices had lines. */
    net: Generated<Amount | null>;
    tax: Generated<Amount>;
    reference: Generated<string>;
    terms: Generated<string>;
    discount_percent: Generated<string>;
    discount_until: Generated<IsoDay | null>;
    bill_to: JSONColumnType<BillTo> | null;
    /** The invoice a credit note corrects. */
    credits_id: Generated<number | null>;
    reason: Generated<string>;
    issued_at: Generated<Date | null>;
    issued_by: Generated<UserId | null>;
  };
  bank_file: { id: Generated<number>; name: string; sha256: string; account: string; added_at: Date; added_by: UserId };
  bank_entry: {
    id: Generated<number>;
    file_id: number;
    account: string;
    key: string;
    day: IsoDay;
    amount: Amount;
    direction: 'in' | 'out';
    party: string;
    party_account: string;
    reference: string;
    text: string;
    state: Generated<'waiting' | 'booked' | 'set_aside'>;
    payment_id: Generated<number | null>;
    why: Generated<string>;
    done_at: Generated<Date | null>;
    done_by: Generated<UserId | null>;
  };
  /** Which customer paid from which account. */
  customer_account: { account: string; customer_id: CustomerId };
  refund: {
    id: Generated<number>;
    customer_id: CustomerId;
    payment_id: number | null;
    credit_note_id: number | null;
    day: IsoDay;
    method: 'bank' | 'card' | 'cash' | 'cheque';
    amount: Amount;
    reason: string;
    made_at: Date;
    made_by: UserId;
  };
  supplier_invoice: {
    id: Generated<number>;
    supplier: SupplierCode;
    number: string;
    day: IsoDay;
    due_day: IsoDay;
    net: Amount;
    freight: Generated<Amount>;
    tax: Generated<Amount>;
    total: Amount;
    state: Generated<'held' | 'accepted' | 'refused' | 'paid'>;
    file: Generated<string>;
    reason: Generated<string>;
    made_at: Date;
    made_by: UserId;
    decided_at: Generated<Date | null>;
    decided_by: Generated<UserId | null>;
    paid_day: Generated<IsoDay | null>;
    version: Generated<number>;
  };
  supplier_invoice_line: {
    id: Generated<number>;
    invoice_id: number;
    line_no: number;
    purchase_line_id: PurchaseLineId;
    quantity: Quantity;
    price: UnitPrice;
    amount: Amount;
  };
  ledger_account: { code: string; role: string; name: string; kind: 'asset' | 'liability' | 'equity' | 'income' | 'expense' };
  posting_rule: { movement: string; role: string | null };
  ledger_period: { month: IsoDay; closed_at: Date; closed_by: UserId };
  ledger_entry: {
    id: Generated<number>;
    posted_at: Generated<Date>;
    day: IsoDay;
    kind: string;
    reference: Generated<string>;
    invoice_id: Generated<number | null>;
    payment_id: Generated<number | null>;
  };
  /** `amount`: debit above 0, credit below. */
  ledger_line: {
    id: Generated<number>;
    entry_id: number;
    account: string;
    amount: Amount;
    item: ItemCode | null;
    warehouse: WarehouseCode | null;
    shipment_id: ShipmentId | null;
    purchase_id: PurchaseId | null;
    category: string | null;
    percent: string | null;
  };
  /** What the goods of a pool cost; of items with lots by lot. */
  stock_value: { item: ItemCode; warehouse: WarehouseCode; lot: Generated<string>; quantity: Quantity; value: Amount };
  movement_value: { movement_id: number; lot: Generated<string>; quantity: Quantity; value: Amount };
  invoice_line: {
    id: Generated<number>;
    invoice_id: number;
    line_no: number;
    kind: 'goods' | 'freight';
    shipment_id: ShipmentId | null;
    order_id: OrderId | null;
    order_line_id: LineId | null;
    item: ItemCode | null;
    text: string;
    quantity: Quantity;
    unit: string;
    price: UnitPrice;
    amount: Amount;
    category: TaxCategory;
    percent: string;
    tax_reason: Generated<string>;
    credits_id: Generated<number | null>;
  };
  invoice_tax: { invoice_id: number; category: TaxCategory; percent: string; reason: Generated<string>; base: Amount; tax: Amount };
  payment: {
    id: Generated<number>;
    customer_id: CustomerId;
    day: IsoDay;
    method: 'bank' | 'card' | 'cash' | 'cheque';
    amount: Amount;
    applied: Generated<Amount>;
    reference: Generated<string>;
    made_at: Date;
    made_by: UserId;
    reversed_at: Generated<Date | null>;
    reversed_why: Generated<string>;
    /** What the bank took for it not coming in, and whether it was taken back by the payer's bank. */
    bank_fee: Generated<Amount>;
    chargeback: Generated<boolean>;
    /** The order it is for. */
    order_id: Generated<OrderId | null>;
  };
  settlement: {
    id: Generated<number>;
    invoice_id: number;
    kind: 'payment' | 'discount' | 'credit' | 'write_off';
    payment_id: Generated<number | null>;
    credit_note_id: Generated<number | null>;
    amount: Amount;
    reason: Generated<string>;
    made_at: Date;
    made_by: UserId;
  };
  tax_class: { code: string; name: string; percent: Generated<string> };
  shipment_line: { shipment_id: ShipmentId; order_line_id: LineId; quantity: Quantity };

  counter_basket: { order_id: OrderId; warehouse: WarehouseCode; state: Generated<'open' | 'paid' | 'dropped'>; opened_at: Date; opened_by: UserId };
  counter_payment: {
    order_id: OrderId;
    method: 'cash' | 'card' | 'account';
    amount: Amount;
    given: Amount;
    reference: Generated<string>;
    at: Date;
    taken_by: UserId;
  };
  /** A serial number, and where it is: in a place, with a shipment that left, or nobody has said. */
  item_serial: {
    id: Generated<number>;
    item: ItemCode;
    serial: string;
    place_id: number | null;
    shipment_id: ShipmentId | null;
    carton_id: number | null;
    part_id: number | null;
    hold_id: number | null;
  };
  serial_step: {
    id: Generated<number>;
    serial_id: number;
    at: ColumnType<Date, Date | undefined, never>;
    kind: 'received' | 'placed' | 'packed' | 'shipped' | 'brought_back' | 'missed';
    warehouse: Generated<string>;
    bin: Generated<string>;
    lot: Generated<string>;
    reference: Generated<string>;
    user_id: UserId | null;
  };
  /** Goods that are held for whoever stands at the counter. */
  counter_hold: { id: Generated<number>; order_id: OrderId; line_id: LineId; place_id: number; quantity: Quantity };

  customer_call: {
    id: Generated<number>;
    order_id: OrderId;
    line_id: LineId;
    told: JSONColumnType<readonly { day: IsoDay; quantity: Quantity }[]>;
    holds: JSONColumnType<readonly { day: IsoDay; quantity: Quantity }[]>;
    say: string;
    why: Generated<string | null>;
    cause: JSONColumnType<KeptCause>;
    made_at: Date;
    made_by: UserId | null;
    done_at: Date | null;
    done_by: UserId | null;
    outcome: 'told' | 'superseded' | null;
  };
  resequence_run: {
    id: Generated<number>;
    state: 'running' | 'done' | 'stopped' | 'failed' | 'accepted';
    started_at: Date;
    started_by: UserId;
    ended_at: Generated<Date | null>;
    beat_at: Date;
    done: Generated<number>;
    total: Generated<number>;
    result: Generated<unknown>;
    message: Generated<string>;
  };
  /** Kept by the database: of the newest receipts of a supplier, how many came so many days late. */
  supplier_lateness: { supplier: SupplierCode; days: number; receipts: number };
  supplier_receipt: { id: Generated<number>; supplier: SupplierCode; item: ItemCode; promised_day: IsoDay; received_day: IsoDay };
  desk_setting: { name: string; value: unknown };

  event: {
    id: Generated<number>;
    at: Date;
    user_id: UserId | null;
    kind: string | null;
    facts: unknown;
    what: string | null;
    why: string;
    cause: KeptCause | null;
    before: unknown;
    after: unknown;
  };
  event_subject: { event_id: number; kind: SubjectKind; key: string };
}

export type SubjectKind =
  | 'order'
  | 'item'
  | 'purchase'
  | 'shipment'
  | 'customer'
  | 'run'
  | 'contract'
  | 'price_list'
  | 'mail'
  | 'transfer'
  | 'assembly'
  | 'supplier'
  | 'user'
  | 'firm'
  | 'invoice'
  | 'supplier_invoice';
