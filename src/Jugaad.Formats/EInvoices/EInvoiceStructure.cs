using System.Xml.Linq;
using Jugaad.Core.EInvoicing;

namespace Jugaad.Formats.EInvoices;

/// <summary>
/// Whether the elements of an e-invoice stand in the order of its schema, and no more often than they may: UBL 2.1
/// (ISO/IEC 19845), and the cross industry invoice D16B at the places of CEN/TS 16931-3-3. What the lists do not name, such
/// as an extension of somebody's, is let be.
/// </summary>
public static class EInvoiceStructure
{
    /// <summary>The name under which it is told, where rules have their number.</summary>
    public const string Rule = "STRUCTURE";

    /// <summary>More are not told of one file.</summary>
    private const int MostBreaches = 50;

    private const string Party = """
        WebsiteURI LogoReferenceID EndpointID IndustryClassificationCode PartyIdentification* PartyName*
        Language PostalAddress PhysicalLocation PartyTaxScheme* PartyLegalEntity* Contact Person* AgentParty
        """;

    private const string Address = """
        ID AddressTypeCode AddressFormatCode Postbox Floor Room StreetName AdditionalStreetName BlockName
        BuildingName BuildingNumber InhouseMail Department MarkAttention MarkCare PlotIdentification
        CitySubdivisionName CityName PostalZone CountrySubentity CountrySubentityCode Region District
        TimezoneOffset AddressLine* Country LocationCoordinate*
        """;

    private const string Document = """
        ID CopyIndicator UUID IssueDate IssueTime DocumentTypeCode DocumentType XPath* LanguageID LocaleCode
        VersionID DocumentStatusCode DocumentDescription* Attachment ValidityPeriod IssuerParty
        ResultOfVerification
        """;

    private const string Category = """
        ID Name Percent BaseUnitMeasure PerUnitAmount TaxExemptionReasonCode TaxExemptionReason* TierRange
        TierRatePercent TaxScheme
        """;

    private const string Head = """
        DocumentCurrencyCode TaxCurrencyCode PricingCurrencyCode PaymentCurrencyCode
        PaymentAlternativeCurrencyCode AccountingCostCode AccountingCost LineCountNumeric BuyerReference
        InvoicePeriod*
        """;

    private const string Parties = """
        Signature* AccountingSupplierParty AccountingCustomerParty PayeeParty BuyerCustomerParty
        SellerSupplierParty TaxRepresentativeParty Delivery* DeliveryTerms PaymentMeans* PaymentTerms*
        """;

    private const string LineHead = """
        LineExtensionAmount TaxPointDate AccountingCostCode AccountingCost PaymentPurposeCode
        FreeOfChargeIndicator InvoicePeriod* OrderLineReference*
        """;

    private const string LineReferences = """
        DespatchLineReference* ReceiptLineReference* BillingReference* DocumentReference* PricingReference
        OriginatorParty* Delivery* PaymentTerms*
        """;

    private static readonly Dictionary<string, string> Ubl = new()
    {
        ["Invoice"] = $"""
            UBLExtensions UBLVersionID CustomizationID ProfileID ProfileExecutionID ID CopyIndicator UUID
            IssueDate IssueTime DueDate InvoiceTypeCode Note* TaxPointDate {Head} OrderReference
            BillingReference* DespatchDocumentReference* ReceiptDocumentReference* StatementDocumentReference*
            OriginatorDocumentReference* ContractDocumentReference* AdditionalDocumentReference*
            ProjectReference* {Parties} PrepaidPayment* AllowanceCharge* TaxExchangeRate PricingExchangeRate
            PaymentExchangeRate PaymentAlternativeExchangeRate TaxTotal* WithholdingTaxTotal* LegalMonetaryTotal
            InvoiceLine*
            """,
        ["CreditNote"] = $"""
            UBLExtensions UBLVersionID CustomizationID ProfileID ProfileExecutionID ID CopyIndicator UUID
            IssueDate IssueTime TaxPointDate CreditNoteTypeCode Note* {Head} DiscrepancyResponse* OrderReference
            BillingReference* DespatchDocumentReference* ReceiptDocumentReference* ContractDocumentReference*
            AdditionalDocumentReference* StatementDocumentReference* OriginatorDocumentReference* {Parties}
            TaxExchangeRate PricingExchangeRate PaymentExchangeRate PaymentAlternativeExchangeRate
            AllowanceCharge* TaxTotal* LegalMonetaryTotal CreditNoteLine*
            """,
        ["InvoiceLine"] = $"""
            ID UUID Note* InvoicedQuantity {LineHead} {LineReferences} AllowanceCharge* TaxTotal*
            WithholdingTaxTotal* Item Price DeliveryTerms SubInvoiceLine* ItemPriceExtension
            """,
        ["CreditNoteLine"] = $"""
            ID UUID Note* CreditedQuantity {LineHead} DiscrepancyResponse* {LineReferences} TaxTotal*
            AllowanceCharge* Item Price DeliveryTerms* SubCreditNoteLine* ItemPriceExtension
            """,
        ["Party"] = Party,
        ["PayeeParty"] = Party,
        ["TaxRepresentativeParty"] = Party,
        ["PostalAddress"] = Address,
        ["Address"] = Address,
        ["PartyTaxScheme"] = """
            RegistrationName CompanyID TaxLevelCode ExemptionReasonCode ExemptionReason* RegistrationAddress
            TaxScheme
            """,
        ["PartyLegalEntity"] = """
            RegistrationName CompanyID RegistrationDate RegistrationExpirationDate CompanyLegalFormCode
            CompanyLegalForm
            """,
        ["Contact"] = "ID Name Telephone Telefax ElectronicMail Note* OtherCommunication*",
        ["InvoicePeriod"] = """
            StartDate StartTime EndDate EndTime DurationMeasure DescriptionCode* Description*
            """,
        ["OrderReference"] = "ID SalesOrderID CopyIndicator UUID IssueDate IssueTime CustomerReference",
        ["InvoiceDocumentReference"] = Document,
        ["AdditionalDocumentReference"] = Document,
        ["DocumentReference"] = Document,
        ["Attachment"] = "EmbeddedDocumentBinaryObject ExternalReference",
        ["Delivery"] = """
            ID Quantity MinimumQuantity MaximumQuantity ActualDeliveryDate ActualDeliveryTime LatestDeliveryDate
            LatestDeliveryTime ReleaseID TrackingID DeliveryAddress DeliveryLocation AlternativeDeliveryLocation
            RequestedDeliveryPeriod PromisedDeliveryPeriod EstimatedDeliveryPeriod CarrierParty DeliveryParty
            """,
        ["DeliveryLocation"] = """
            ID Description* Conditions* CountrySubentity CountrySubentityCode LocationTypeCode InformationURI
            Name ValidityPeriod* Address
            """,
        ["PaymentMeans"] = """
            ID PaymentMeansCode PaymentDueDate PaymentChannelCode InstructionID InstructionNote* PaymentID*
            CardAccount PayerFinancialAccount PayeeFinancialAccount CreditAccount PaymentMandate TradeFinancing
            """,
        ["PayeeFinancialAccount"] = """
            ID Name AliasName AccountTypeCode AccountFormatCode CurrencyCode PaymentNote*
            FinancialInstitutionBranch Country
            """,
        ["CardAccount"] = """
            PrimaryAccountNumberID NetworkID CardTypeCode ValidityStartDate ExpiryDate IssuerID IssueNumberID
            CV2ID CardChipCode ChipApplicationID HolderName
            """,
        ["AllowanceCharge"] = """
            ID ChargeIndicator AllowanceChargeReasonCode AllowanceChargeReason* MultiplierFactorNumeric
            PrepaidIndicator SequenceNumeric Amount BaseAmount AccountingCostCode AccountingCost PerUnitAmount
            TaxCategory* TaxTotal PaymentMeans*
            """,
        ["TaxTotal"] = "TaxAmount RoundingAmount TaxEvidenceIndicator TaxIncludedIndicator TaxSubtotal*",
        ["TaxSubtotal"] = """
            TaxableAmount TaxAmount CalculationSequenceNumeric TransactionCurrencyTaxAmount Percent
            BaseUnitMeasure PerUnitAmount TierRange TierRatePercent TaxCategory
            """,
        ["TaxCategory"] = Category,
        ["ClassifiedTaxCategory"] = Category,
        ["LegalMonetaryTotal"] = """
            LineExtensionAmount TaxExclusiveAmount TaxInclusiveAmount AllowanceTotalAmount ChargeTotalAmount
            PrepaidAmount PayableRoundingAmount PayableAmount PayableAlternativeAmount
            """,
        ["Item"] = """
            Description* PackQuantity PackSizeNumeric CatalogueIndicator Name HazardousRiskIndicator
            AdditionalInformation* Keyword* BrandName* ModelName* BuyersItemIdentification
            SellersItemIdentification ManufacturersItemIdentification* StandardItemIdentification
            CatalogueItemIdentification CatalogueDocumentReference ItemSpecificationDocumentReference*
            OriginCountry CommodityClassification* TransactionConditions* HazardousItem* ClassifiedTaxCategory*
            AdditionalItemProperty*
            """,
        ["Price"] = """
            PriceAmount BaseQuantity PriceChangeReason* PriceTypeCode PriceType OrderableUnitFactorRate
            ValidityPeriod* PriceList AllowanceCharge*
            """,
    };

    private const string TradeParty = """
        ID* GlobalID* Name RoleCode Description SpecifiedLegalOrganization DefinedTradeContact*
        PostalTradeAddress URIUniversalCommunication SpecifiedTaxRegistration*
        """;

    private const string Referenced = """
        IssuerAssignedID URIID LineID TypeCode Name AttachmentBinaryObject ReferenceTypeCode
        FormattedIssueDateTime
        """;

    private static readonly Dictionary<string, string> Cii = new()
    {
        ["CrossIndustryInvoice"] = "ExchangedDocumentContext ExchangedDocument SupplyChainTradeTransaction",
        ["ExchangedDocumentContext"] = """
            TestIndicator BusinessProcessSpecifiedDocumentContextParameter
            GuidelineSpecifiedDocumentContextParameter
            """,
        ["ExchangedDocument"] = """
            ID Name TypeCode IssueDateTime CopyIndicator LanguageID IncludedNote* EffectiveSpecifiedPeriod
            """,
        ["SupplyChainTradeTransaction"] = """
            IncludedSupplyChainTradeLineItem* ApplicableHeaderTradeAgreement ApplicableHeaderTradeDelivery
            ApplicableHeaderTradeSettlement
            """,
        ["ApplicableHeaderTradeAgreement"] = """
            BuyerReference SellerTradeParty BuyerTradeParty SellerTaxRepresentativeTradeParty
            SellerOrderReferencedDocument BuyerOrderReferencedDocument ContractReferencedDocument
            AdditionalReferencedDocument* SpecifiedProcuringProject
            """,
        ["ApplicableHeaderTradeDelivery"] = """
            ShipToTradeParty ActualDeliverySupplyChainEvent DespatchAdviceReferencedDocument
            ReceivingAdviceReferencedDocument
            """,
        ["ApplicableHeaderTradeSettlement"] = """
            CreditorReferenceID PaymentReference TaxCurrencyCode InvoiceCurrencyCode InvoiceIssuerReference
            InvoicerTradeParty InvoiceeTradeParty PayeeTradeParty TaxApplicableTradeCurrencyExchange
            SpecifiedTradeSettlementPaymentMeans* ApplicableTradeTax* BillingSpecifiedPeriod
            SpecifiedTradeAllowanceCharge* SpecifiedLogisticsServiceCharge* SpecifiedTradePaymentTerms*
            SpecifiedTradeSettlementHeaderMonetarySummation InvoiceReferencedDocument*
            ReceivableSpecifiedTradeAccountingAccount*
            """,
        ["SellerTradeParty"] = TradeParty,
        ["BuyerTradeParty"] = TradeParty,
        ["PayeeTradeParty"] = TradeParty,
        ["ShipToTradeParty"] = TradeParty,
        ["SellerTaxRepresentativeTradeParty"] = TradeParty,
        ["SpecifiedLegalOrganization"] = "ID TradingBusinessName PostalTradeAddress",
        ["PostalTradeAddress"] = """
            PostcodeCode LineOne LineTwo LineThree CityName CountryID CountrySubDivisionName
            """,
        ["AdditionalReferencedDocument"] = Referenced,
        ["InvoiceReferencedDocument"] = Referenced,
        ["SpecifiedTradeSettlementPaymentMeans"] = """
            TypeCode Information ApplicableTradeSettlementFinancialCard PayerPartyDebtorFinancialAccount
            PayeePartyCreditorFinancialAccount PayeeSpecifiedCreditorFinancialInstitution
            """,
        ["PayeePartyCreditorFinancialAccount"] = "IBANID AccountName ProprietaryID",
        ["ApplicableTradeTax"] = """
            CalculatedAmount TypeCode ExemptionReason BasisAmount LineTotalBasisAmount
            AllowanceChargeBasisAmount CategoryCode ExemptionReasonCode TaxPointDate DueDateTypeCode
            RateApplicablePercent
            """,
        ["SpecifiedTradeAllowanceCharge"] = """
            ChargeIndicator SequenceNumeric CalculationPercent BasisAmount BasisQuantity ActualAmount ReasonCode
            Reason CategoryTradeTax
            """,
        ["SpecifiedTradePaymentTerms"] = "Description DueDateDateTime DirectDebitMandateID PartialPaymentAmount",
        ["SpecifiedTradeSettlementHeaderMonetarySummation"] = """
            LineTotalAmount ChargeTotalAmount AllowanceTotalAmount TaxBasisTotalAmount* TaxTotalAmount*
            RoundingAmount GrandTotalAmount* TotalPrepaidAmount DuePayableAmount
            """,
        ["IncludedSupplyChainTradeLineItem"] = """
            AssociatedDocumentLineDocument SpecifiedTradeProduct SpecifiedLineTradeAgreement
            SpecifiedLineTradeDelivery SpecifiedLineTradeSettlement
            """,
        ["AssociatedDocumentLineDocument"] = "LineID ParentLineID LineStatusCode LineStatusReasonCode IncludedNote*",
        ["SpecifiedTradeProduct"] = """
            ID GlobalID SellerAssignedID BuyerAssignedID IndustryAssignedID ModelID Name Description BatchID*
            BrandName ModelName ApplicableProductCharacteristic* DesignatedProductClassification*
            IndividualTradeProductInstance* OriginTradeCountry IncludedReferencedProduct*
            """,
        ["SpecifiedLineTradeAgreement"] = """
            SellerOrderReferencedDocument BuyerOrderReferencedDocument QuotationReferencedDocument
            ContractReferencedDocument AdditionalReferencedDocument* GrossPriceProductTradePrice
            NetPriceProductTradePrice
            """,
        ["SpecifiedLineTradeSettlement"] = """
            ApplicableTradeTax* BillingSpecifiedPeriod SpecifiedTradeAllowanceCharge*
            SpecifiedTradeSettlementLineMonetarySummation InvoiceReferencedDocument*
            AdditionalReferencedDocument* ReceivableSpecifiedTradeAccountingAccount*
            """,
    };

    private static readonly Dictionary<string, Dictionary<string, (int Place, bool Often)>> UblPlaces = PlacesOf(Ubl);
    private static readonly Dictionary<string, Dictionary<string, (int Place, bool Often)>> CiiPlaces = PlacesOf(Cii);

    private static Dictionary<string, Dictionary<string, (int Place, bool Often)>> PlacesOf(
        Dictionary<string, string> orders
    ) =>
        orders.ToDictionary(
            o => o.Key,
            o =>
                o.Value.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
                    .Select((name, place) => (Name: name.TrimEnd('*'), Place: place, Often: name.EndsWith('*')))
                    .ToDictionary(c => c.Name, c => (c.Place, c.Often))
        );

    /// <returns>What stands where it may not, or too often; none where all is in its place.</returns>
    public static IReadOnlyList<Breach> Of(ReadEInvoice read)
    {
        var found = new List<Breach>();
        Look(read.Root, read.Syntax == EInvoiceSyntax.Ubl ? UblPlaces : CiiPlaces, "", found);
        return found;
    }

    private static void Look(
        XElement element,
        Dictionary<string, Dictionary<string, (int Place, bool Often)>> places,
        string above,
        List<Breach> found
    )
    {
        var path = $"{above}/{element.Name.LocalName}";
        if (places.TryGetValue(element.Name.LocalName, out var known))
        {
            XElement? last = null;
            var seen = new HashSet<string>();
            foreach (var child in element.Elements())
            {
                if (found.Count >= MostBreaches)
                    return;
                var name = child.Name.LocalName;
                if (!known.TryGetValue(name, out var may))
                    continue;
                if (!seen.Add(name) && !may.Often)
                    found.Add(new Breach(Rule, path, $"{name} stands there more than once"));
                if (last is not null && known[last.Name.LocalName].Place > may.Place)
                    found.Add(
                        new Breach(Rule, path, $"{name} stands after {last.Name.LocalName}, and belongs before it")
                    );
                else
                    last = child;
            }
        }

        foreach (var child in element.Elements())
        {
            if (found.Count >= MostBreaches)
                return;
            Look(child, places, path, found);
        }
    }
}
