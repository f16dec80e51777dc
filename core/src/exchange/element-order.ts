import { XMLParser } from 'fast-xml-parser';

/**
 * The children that elements of UBL 2.1 may have, in the sequence the standard gives them. Source: OASIS Universal Business
 * Language 2.1, schemas maindoc/UBL-Order-2.1, -OrderResponse-2.1, -DespatchAdvice-2.1, -OrderCancellation-2.1, -Invoice-2.1, -CreditNote-2.1 and
 * common/UBL-CommonAggregateComponents-2.1; written down from memory, since the schemas themselves do not come as a package.
 * Elements that are not listed here are not looked into.
 */
const HEAD = 'UBLExtensions UBLVersionID CustomizationID ProfileID ProfileExecutionID';
const SEQUENCES: Readonly<Record<string, string>> = {
  Order: `${HEAD} ID SalesOrderID CopyIndicator UUID IssueDate IssueTime OrderTypeCode Note RequestedInvoiceCurrencyCode DocumentCurrencyCode
    PricingCurrencyCode TaxCurrencyCode CustomerReference AccountingCostCode AccountingCost LineCountNumeric ValidityPeriod QuotationDocumentReference
    OrderDocumentReference OriginatorDocumentReference CatalogueReference AdditionalDocumentReference Contract ProjectReference Signature
    BuyerCustomerParty SellerSupplierParty OriginatorCustomerParty FreightForwarderParty AccountingCustomerParty AccountingSupplierParty Delivery
    DeliveryTerms PaymentMeans PaymentTerms TransactionConditions AllowanceCharge TaxExchangeRate PricingExchangeRate PaymentExchangeRate
    DestinationCountry TaxTotal AnticipatedMonetaryTotal OrderLine`,
  OrderResponse: `${HEAD} ID SalesOrderID CopyIndicator UUID IssueDate IssueTime OrderResponseCode Note DocumentCurrencyCode PricingCurrencyCode
    TaxCurrencyCode TotalPackagesQuantity GrossWeightMeasure NetWeightMeasure NetNetWeightMeasure GrossVolumeMeasure NetVolumeMeasure CustomerReference
    AccountingCostCode AccountingCost LineCountNumeric ValidityPeriod OrderReference OrderDocumentReference OriginatorDocumentReference
    AdditionalDocumentReference Contract Signature SellerSupplierParty BuyerCustomerParty OriginatorCustomerParty FreightForwarderParty
    AccountingSupplierParty AccountingCustomerParty Delivery DeliveryTerms PaymentMeans PaymentTerms AllowanceCharge TransactionConditions
    TaxExchangeRate PricingExchangeRate PaymentExchangeRate DestinationCountry TaxTotal LegalMonetaryTotal OrderLine`,
  OrderCancellation: `${HEAD} ID CopyIndicator UUID IssueDate IssueTime CancellationNote Note OrderReference OriginatorDocumentReference
    AdditionalDocumentReference Contract Signature BuyerCustomerParty SellerSupplierParty OriginatorCustomerParty`,
  DespatchAdvice: `${HEAD} ID CopyIndicator UUID IssueDate IssueTime DocumentStatusCode DespatchAdviceTypeCode Note LineCountNumeric OrderReference
    AdditionalDocumentReference Signature DespatchSupplierParty DeliveryCustomerParty BuyerCustomerParty SellerSupplierParty
    OriginatorCustomerParty Shipment DespatchLine`,
  Invoice: `${HEAD} ID CopyIndicator UUID IssueDate IssueTime DueDate InvoiceTypeCode Note TaxPointDate DocumentCurrencyCode TaxCurrencyCode
    PricingCurrencyCode PaymentCurrencyCode PaymentAlternativeCurrencyCode AccountingCostCode AccountingCost LineCountNumeric BuyerReference
    InvoicePeriod OrderReference BillingReference DespatchDocumentReference ReceiptDocumentReference StatementDocumentReference
    OriginatorDocumentReference ContractDocumentReference AdditionalDocumentReference ProjectReference Signature AccountingSupplierParty
    AccountingCustomerParty PayeeParty BuyerCustomerParty SellerSupplierParty TaxRepresentativeParty Delivery DeliveryTerms PaymentMeans
    PaymentTerms PrepaidPayment AllowanceCharge TaxExchangeRate PricingExchangeRate PaymentExchangeRate PaymentAlternativeExchangeRate TaxTotal
    WithholdingTaxTotal LegalMonetaryTotal InvoiceLine`,
  CreditNote: `${HEAD} ID CopyIndicator UUID IssueDate IssueTime TaxPointDate CreditNoteTypeCode Note DocumentCurrencyCode TaxCurrencyCode
    PricingCurrencyCode PaymentCurrencyCode PaymentAlternativeCurrencyCode AccountingCostCode AccountingCost LineCountNumeric BuyerReference
    InvoicePeriod DiscrepancyResponse OrderReference BillingReference DespatchDocumentReference ReceiptDocumentReference ContractDocumentReference
    AdditionalDocumentReference StatementDocumentReference OriginatorDocumentReference Signature AccountingSupplierParty AccountingCustomerParty
    PayeeParty BuyerCustomerParty SellerSupplierParty TaxRepresentativeParty Delivery DeliveryTerms PaymentMeans PaymentTerms TaxExchangeRate
    PricingExchangeRate PaymentExchangeRate PaymentAlternativeExchangeRate AllowanceCharge TaxTotal LegalMonetaryTotal CreditNoteLine`,
  InvoiceLine: `ID UUID Note InvoicedQuantity LineExtensionAmount TaxPointDate AccountingCostCode AccountingCost PaymentPurposeCode
    FreeOfChargeIndicator InvoicePeriod OrderLineReference DespatchLineReference ReceiptLineReference BillingReference DocumentReference
    PricingReference OriginatorParty Delivery PaymentTerms AllowanceCharge TaxTotal WithholdingTaxTotal Item Price DeliveryTerms SubInvoiceLine
    ItemPriceExtension`,
  CreditNoteLine: `ID UUID Note CreditedQuantity LineExtensionAmount TaxPointDate AccountingCostCode AccountingCost PaymentPurposeCode
    FreeOfChargeIndicator InvoicePeriod DiscrepancyResponse OrderLineReference DespatchLineReference ReceiptLineReference BillingReference
    DocumentReference PricingReference OriginatorParty Delivery PaymentTerms TaxTotal AllowanceCharge Item Price DeliveryTerms SubCreditNoteLine
    ItemPriceExtension`,
  PaymentMeans: `ID PaymentMeansCode PaymentDueDate PaymentChannelCode InstructionID InstructionNote PaymentID CardAccount PayerFinancialAccount
    PayeeFinancialAccount CreditAccount PaymentMandate TradeFinancing`,
  TaxTotal: 'TaxAmount RoundingAmount TaxEvidenceIndicator TaxIncludedIndicator TaxSubtotal',
  TaxSubtotal: `TaxableAmount TaxAmount CalculationSequenceNumeric TransactionCurrencyTaxAmount Percent BaseUnitMeasure PerUnitAmount TierRange
    TierRatePercent TaxCategory`,
  TaxCategory: 'ID Name Percent BaseUnitMeasure PerUnitAmount TaxExemptionReasonCode TaxExemptionReason TierRange TierRatePercent TaxScheme',
  LegalMonetaryTotal: `LineExtensionAmount TaxExclusiveAmount TaxInclusiveAmount AllowanceTotalAmount ChargeTotalAmount PrepaidAmount
    PayableRoundingAmount PayableAmount PayableAlternativeAmount`,
  PostalAddress: `ID AddressTypeCode AddressFormatCode Postbox Floor Room StreetName AdditionalStreetName BlockName BuildingName BuildingNumber
    InhouseMail Department MarkAttention MarkCare PlotIdentification CitySubdivisionName CityName PostalZone CountrySubentity
    CountrySubentityCode Region District TimezoneOffset AddressLine Country LocationCoordinate`,
  OrderLine: `SubstitutionStatusCode Note LineItem SellerProposedSubstituteLineItem SellerSubstitutedLineItem BuyerProposedSubstituteLineItem
    CatalogueLineReference QuotationLineReference OrderLineReference DocumentReference`,
  LineItem: `ID SalesOrderID UUID Note LineStatusCode Quantity LineExtensionAmount TotalTaxAmount MinimumQuantity MaximumQuantity
    MinimumBackorderQuantity MaximumBackorderQuantity InspectionMethodCode PartialDeliveryIndicator BackOrderAllowedIndicator AccountingCostCode
    AccountingCost WarrantyInformation Delivery DeliveryTerms OriginatorParty OrderedShipment PricingReference AllowanceCharge Price Item
    SubLineItem WarrantyValidityPeriod WarrantyParty TaxTotal ItemPriceExtension LineReference`,
  Delivery: `ID Quantity MinimumQuantity MaximumQuantity ActualDeliveryDate ActualDeliveryTime LatestDeliveryDate LatestDeliveryTime ReleaseID
    TrackingID DeliveryAddress DeliveryLocation AlternativeDeliveryLocation RequestedDeliveryPeriod PromisedDeliveryPeriod EstimatedDeliveryPeriod
    CarrierParty DeliveryParty NotifyParty Despatch DeliveryTerms MinimumDeliveryUnit MaximumDeliveryUnit Shipment`,
  Party: `MarkCareIndicator MarkAttentionIndicator WebsiteURI LogoReferenceID EndpointID IndustryClassificationCode PartyIdentification PartyName
    Language PostalAddress PhysicalLocation PartyTaxScheme PartyLegalEntity Contact Person AgentParty ServiceProviderParty PowerOfAttorney
    FinancialAccount`,
  Item: `Description PackQuantity PackSizeNumeric CatalogueIndicator Name HazardousRiskIndicator AdditionalInformation Keyword BrandName ModelName
    BuyersItemIdentification SellersItemIdentification ManufacturersItemIdentification StandardItemIdentification CatalogueItemIdentification
    AdditionalItemIdentification CatalogueDocumentReference ItemSpecificationDocumentReference OriginCountry CommodityClassification
    TransactionConditions HazardousItem ClassifiedTaxCategory AdditionalItemProperty ManufacturerParty InformationContentProviderParty OriginAddress
    ItemInstance Certificate Dimension`,
  ItemInstance: `ProductTraceID ManufactureDate ManufactureTime BestBeforeDate RegistrationID SerialID AdditionalItemProperty LotIdentification`,
  LotIdentification: `LotNumberID ExpiryDate AdditionalItemProperty`,
  Price: `PriceAmount BaseQuantity PriceChangeReason PriceTypeCode PriceType OrderableUnitFactorRate ValidityPeriod PriceList AllowanceCharge`,
  DespatchLine: `ID UUID Note LineStatusCode DeliveredQuantity BackorderQuantity BackorderReason OutstandingQuantity OutstandingReason
    OversupplyQuantity OrderLineReference DocumentReference Item Shipment`,
  Shipment: `ID ShippingPriorityLevelCode HandlingCode HandlingInstructions Information GrossWeightMeasure NetWeightMeasure NetNetWeightMeasure
    GrossVolumeMeasure NetVolumeMeasure TotalGoodsItemQuantity TotalTransportHandlingUnitQuantity InsuranceValueAmount
    DeclaredCustomsValueAmount DeclaredForCarriageValueAmount DeclaredStatisticsValueAmount FreeOnBoardValueAmount SpecialInstructions
    DeliveryInstructions SplitConsignmentIndicator ConsignmentQuantity Consignment GoodsItem ShipmentStage Delivery TransportHandlingUnit
    ReturnAddress OriginAddress FirstArrivalPortLocation LastExitPortLocation ExportCountry FreightAllowanceCharge`,
  TransportHandlingUnit: `ID TransportHandlingUnitTypeCode HandlingCode HandlingInstructions HazardousRiskIndicator TotalGoodsItemQuantity
    TotalPackageQuantity DamageRemarks ShippingMarks TraceID HandlingUnitDespatchLine ActualPackage ReceivedHandlingUnitReceiptLine
    TransportEquipment TransportMeans HazardousGoodsTransit MeasurementDimension MinimumTemperature MaximumTemperature GoodsItem
    FloorSpaceMeasurementDimension PalletSpaceMeasurementDimension ShipmentDocumentReference Status CustomsDeclaration
    ReferencedShipment Package`,
  MeasurementDimension: 'AttributeID Measure Description MinimumMeasure MaximumMeasure',
  EstimatedDeliveryPeriod: 'StartDate StartTime EndDate EndTime DurationMeasure DescriptionCode Description',
  OrderReference: `ID SalesOrderID CopyIndicator UUID IssueDate IssueTime CustomerReference OrderTypeCode DocumentReference`,
  OrderLineReference: `LineID SalesOrderLineID UUID LineStatusCode OrderReference`,
  RequestedDeliveryPeriod: 'StartDate StartTime EndDate EndTime DurationMeasure DescriptionCode Description',
  PromisedDeliveryPeriod: 'StartDate StartTime EndDate EndTime DurationMeasure DescriptionCode Description',
};
const PERIOD_LIKE = ['SellerProposedSubstituteLineItem', 'SellerSubstitutedLineItem', 'BuyerProposedSubstituteLineItem'];
const ORDER = new Map(
  [...Object.entries(SEQUENCES), ...PERIOD_LIKE.map((name) => [name, SEQUENCES['LineItem']!] as const)].map(([name, words]) => [name, words.split(/\s+/)]),
);

const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: true, removeNSPrefix: true, parseTagValue: false });

type Ordered = readonly Readonly<Record<string, unknown>>[];

/**
 * Whether the elements of a UBL 2.1 document stand in the sequence the standard gives: what is out of place or not known to
 * it, each with the way to it (`Order/OrderLine/LineItem: Price stands behind Item`). Empty where all is well. The text
 * must be well-formed.
 */
export function misplacedElements(xml: string): string[] {
  const faults: string[] = [];
  const look = (nodes: Ordered, path: string) => {
    for (const node of nodes) {
      const name = Object.keys(node).find((key) => key !== ':@' && !key.startsWith('#') && !key.startsWith('?'));
      if (name === undefined) continue;
      const children = node[name] as Ordered;
      const here = path === '' ? name : `${path}/${name}`;
      const sequence = ORDER.get(name);
      if (sequence) faults.push(...compare(here, namesOf(children), sequence));
      look(children, here);
    }
  };
  look(parser.parse(xml) as Ordered, '');
  return faults;
}

function namesOf(children: Ordered): string[] {
  return children.flatMap((child) => Object.keys(child).filter((key) => key !== ':@' && !key.startsWith('#')));
}

function compare(path: string, names: readonly string[], sequence: readonly string[]): string[] {
  const faults: string[] = [];
  let last = -1;
  let before = '';
  for (const name of names) {
    const at = sequence.indexOf(name);
    if (at < 0) faults.push(`${path}: ${name} does not belong there`);
    else if (at < last) faults.push(`${path}: ${name} stands behind ${before}`);
    else [last, before] = [at, name];
  }
  return faults;
}
