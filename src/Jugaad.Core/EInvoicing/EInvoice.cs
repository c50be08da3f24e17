namespace Jugaad.Core.EInvoicing;

/// <summary>
/// An electronic invoice or credit note by the semantic model of EN 16931-1, whichever syntax it is written in. Amounts
/// are in units of <see cref="Currency"/>, as many decimals as were written; what is missing is null or empty, so that a
/// file can be read whole and then be checked.
/// </summary>
public sealed record EInvoice
{
    /// <summary>What a file of the core standard names as its specification.</summary>
    public const string CoreSpecification = "urn:cen.eu:en16931:2017";

    /// <summary>BT-1.</summary>
    public string Number { get; init; } = "";

    /// <summary>BT-2.</summary>
    public DateOnly? Issued { get; init; }

    /// <summary>BT-3, of UNTDID 1001.</summary>
    public string TypeCode { get; init; } = "";

    /// <summary>BT-5.</summary>
    public string Currency { get; init; } = "";

    /// <summary>BT-6; empty where tax is told in the invoice's currency alone.</summary>
    public string TaxCurrency { get; init; } = "";

    /// <summary>BT-7.</summary>
    public DateOnly? TaxPoint { get; init; }

    /// <summary>BT-8, of UNTDID 2005.</summary>
    public string TaxPointCode { get; init; } = "";

    /// <summary>BT-9.</summary>
    public DateOnly? Due { get; init; }

    /// <summary>BT-10.</summary>
    public string BuyerReference { get; init; } = "";

    /// <summary>BT-11.</summary>
    public string Project { get; init; } = "";

    /// <summary>BT-12.</summary>
    public string Contract { get; init; } = "";

    /// <summary>BT-13.</summary>
    public string PurchaseOrder { get; init; } = "";

    /// <summary>BT-14.</summary>
    public string SalesOrder { get; init; } = "";

    /// <summary>BT-15.</summary>
    public string ReceivingAdvice { get; init; } = "";

    /// <summary>BT-16.</summary>
    public string DespatchAdvice { get; init; } = "";

    /// <summary>BT-17.</summary>
    public string Tender { get; init; } = "";

    /// <summary>BT-18.</summary>
    public Identifier? Object { get; init; }

    /// <summary>BT-19.</summary>
    public string BuyerAccounting { get; init; } = "";

    /// <summary>BT-20.</summary>
    public string Terms { get; init; } = "";

    /// <summary>BT-22, each of BG-1.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];

    /// <summary>BT-23.</summary>
    public string Process { get; init; } = "";

    /// <summary>BT-24.</summary>
    public string Specification { get; init; } = "";

    /// <summary>BG-3.</summary>
    public IReadOnlyList<PrecedingInvoice> Preceding { get; init; } = [];

    /// <summary>BG-4.</summary>
    public Party Seller { get; init; } = new();

    /// <summary>BG-7.</summary>
    public Party Buyer { get; init; } = new();

    /// <summary>BG-10 (BT-59 to BT-61); null where the seller is paid.</summary>
    public Party? Payee { get; init; }

    /// <summary>BG-11; null where the seller has no tax representative.</summary>
    public Party? Representative { get; init; }

    /// <summary>BG-13.</summary>
    public Delivery Delivery { get; init; } = new();

    /// <summary>BG-14; null where the invoice is of no period.</summary>
    public Period? Period { get; init; }

    /// <summary>BG-16; null where it says nothing of how to pay.</summary>
    public PaymentInstructions? Payment { get; init; }

    /// <summary>BG-20.</summary>
    public IReadOnlyList<Adjustment> Allowances { get; init; } = [];

    /// <summary>BG-21.</summary>
    public IReadOnlyList<Adjustment> Charges { get; init; } = [];

    /// <summary>BG-22.</summary>
    public DocumentTotals Totals { get; init; } = new();

    /// <summary>BG-23.</summary>
    public IReadOnlyList<TaxBreakdown> Taxes { get; init; } = [];

    /// <summary>BG-24.</summary>
    public IReadOnlyList<Supporting> Documents { get; init; } = [];

    /// <summary>BG-25.</summary>
    public IReadOnlyList<InvoiceLine> Lines { get; init; } = [];

    /// <summary>Whether it is a credit note by its type, written with amounts that lower what is owed.</summary>
    public bool IsCredit =>
        TypeCode is "81" or "83" or "261" or "262" or "296" or "308" or "381" or "396" or "420" or "458" or "532";
}

/// <summary>A number with the scheme that it belongs to; the scheme may be empty.</summary>
public sealed record Identifier(string Value, string Scheme = "");

/// <summary>BG-4, BG-7 or BG-11.</summary>
public sealed record Party
{
    /// <summary>BT-27, BT-44 or BT-62.</summary>
    public string Name { get; init; } = "";

    /// <summary>BT-28 or BT-45.</summary>
    public string TradingName { get; init; } = "";

    /// <summary>BT-29 or BT-46.</summary>
    public IReadOnlyList<Identifier> Ids { get; init; } = [];

    /// <summary>BT-30 or BT-47.</summary>
    public Identifier? Registration { get; init; }

    /// <summary>BT-31, BT-48 or BT-63.</summary>
    public string TaxId { get; init; } = "";

    /// <summary>BT-32.</summary>
    public string TaxRegistration { get; init; } = "";

    /// <summary>BT-33.</summary>
    public string LegalForm { get; init; } = "";

    /// <summary>BT-34 or BT-49, with a scheme of the EAS list.</summary>
    public Identifier? Electronic { get; init; }

    /// <summary>BG-5, BG-8 or BG-12; null where there is none.</summary>
    public PostalAddress? Address { get; init; }

    /// <summary>BT-41 or BT-56.</summary>
    public string Contact { get; init; } = "";

    /// <summary>BT-42 or BT-57.</summary>
    public string Phone { get; init; } = "";

    /// <summary>BT-43 or BT-58.</summary>
    public string Email { get; init; } = "";
}

/// <summary>BG-5, BG-8, BG-12 or BG-15.</summary>
/// <param name="Street">BT-35 and its kin.</param>
/// <param name="Second">BT-36.</param>
/// <param name="Third">BT-162.</param>
/// <param name="City">BT-37.</param>
/// <param name="PostalCode">BT-38.</param>
/// <param name="Region">BT-39.</param>
/// <param name="Country">BT-40, of ISO 3166-1.</param>
public sealed record PostalAddress(
    string Street = "",
    string Second = "",
    string Third = "",
    string City = "",
    string PostalCode = "",
    string Region = "",
    string Country = ""
);

/// <summary>BG-3: BT-25 and BT-26.</summary>
public sealed record PrecedingInvoice(string Number, DateOnly? Issued = null);

/// <summary>BG-13.</summary>
public sealed record Delivery
{
    /// <summary>BT-70.</summary>
    public string Name { get; init; } = "";

    /// <summary>BT-71.</summary>
    public Identifier? Location { get; init; }

    /// <summary>BT-72.</summary>
    public DateOnly? On { get; init; }

    /// <summary>BG-15.</summary>
    public PostalAddress? Address { get; init; }
}

/// <summary>BG-14 or BG-26.</summary>
public sealed record Period(DateOnly? From, DateOnly? Until);

/// <summary>BG-16 with BG-17 and BG-19.</summary>
public sealed record PaymentInstructions
{
    /// <summary>BT-81, of UNTDID 4461.</summary>
    public string Means { get; init; } = "";

    /// <summary>BT-82.</summary>
    public string Text { get; init; } = "";

    /// <summary>BT-83.</summary>
    public string Remittance { get; init; } = "";

    /// <summary>BG-17.</summary>
    public IReadOnlyList<CreditTransfer> Transfers { get; init; } = [];

    /// <summary>BG-18; null where no card paid.</summary>
    public PaymentCard? Card { get; init; }

    /// <summary>BT-89.</summary>
    public string Mandate { get; init; } = "";

    /// <summary>BT-90.</summary>
    public string Creditor { get; init; } = "";

    /// <summary>BT-91.</summary>
    public string Debited { get; init; } = "";
}

/// <summary>BG-18: BT-87, of which no more than the last digits may be told, and BT-88.</summary>
public sealed record PaymentCard(string Number, string Holder = "");

/// <summary>BG-32: BT-160 and BT-161.</summary>
public sealed record ItemTrait(string Name, string Value);

/// <summary>BG-17: BT-84, BT-85 and BT-86.</summary>
public sealed record CreditTransfer(string Account, string Name = "", string Bank = "");

/// <summary>How something is taxed: BT-151 and BT-152, or their kin.</summary>
/// <param name="Category">Of UNTDID 5305.</param>
/// <param name="Rate">In percent; null where there is none.</param>
public sealed record LineTax(string Category, decimal? Rate);

/// <summary>BG-20, BG-21, BG-27 or BG-28.</summary>
public sealed record Adjustment
{
    /// <summary>BT-92, BT-99, BT-136 or BT-141.</summary>
    public decimal? Amount { get; init; }

    /// <summary>BT-93, BT-100, BT-137 or BT-142.</summary>
    public decimal? Base { get; init; }

    /// <summary>BT-94, BT-101, BT-138 or BT-143.</summary>
    public decimal? Percent { get; init; }

    /// <summary>BT-95 and BT-96, or BT-102 and BT-103; null on a line, which has its own.</summary>
    public LineTax? Tax { get; init; }

    /// <summary>BT-97, BT-104, BT-139 or BT-144.</summary>
    public string Reason { get; init; } = "";

    /// <summary>BT-98, BT-105, BT-140 or BT-145.</summary>
    public string ReasonCode { get; init; } = "";
}

/// <summary>BG-22.</summary>
public sealed record DocumentTotals
{
    /// <summary>BT-106.</summary>
    public decimal? Lines { get; init; }

    /// <summary>BT-107.</summary>
    public decimal? Allowances { get; init; }

    /// <summary>BT-108.</summary>
    public decimal? Charges { get; init; }

    /// <summary>BT-109.</summary>
    public decimal? WithoutTax { get; init; }

    /// <summary>BT-110.</summary>
    public decimal? Tax { get; init; }

    /// <summary>BT-111, in BT-6.</summary>
    public decimal? TaxInTaxCurrency { get; init; }

    /// <summary>BT-112.</summary>
    public decimal? WithTax { get; init; }

    /// <summary>BT-113.</summary>
    public decimal? Paid { get; init; }

    /// <summary>BT-114.</summary>
    public decimal? Rounding { get; init; }

    /// <summary>BT-115.</summary>
    public decimal? Payable { get; init; }
}

/// <summary>BG-23.</summary>
public sealed record TaxBreakdown
{
    /// <summary>BT-116.</summary>
    public decimal? Taxable { get; init; }

    /// <summary>BT-117.</summary>
    public decimal? Tax { get; init; }

    /// <summary>BT-118.</summary>
    public string Category { get; init; } = "";

    /// <summary>BT-119.</summary>
    public decimal? Rate { get; init; }

    /// <summary>BT-120.</summary>
    public string Reason { get; init; } = "";

    /// <summary>BT-121, of the VATEX list.</summary>
    public string ReasonCode { get; init; } = "";
}

/// <summary>BG-24.</summary>
public sealed record Supporting
{
    /// <summary>BT-122.</summary>
    public string Reference { get; init; } = "";

    /// <summary>BT-123.</summary>
    public string Description { get; init; } = "";

    /// <summary>BT-124.</summary>
    public string Location { get; init; } = "";

    /// <summary>BT-125, with the kind and the name that it carries.</summary>
    public byte[]? Content { get; init; }

    public string Kind { get; init; } = "";

    public string FileName { get; init; } = "";
}

/// <summary>BG-25.</summary>
public sealed record InvoiceLine
{
    /// <summary>BT-126.</summary>
    public string Id { get; init; } = "";

    /// <summary>BT-127.</summary>
    public string Note { get; init; } = "";

    /// <summary>BT-128.</summary>
    public Identifier? Object { get; init; }

    /// <summary>BT-129.</summary>
    public decimal? Quantity { get; init; }

    /// <summary>BT-130, of Recommendation 20.</summary>
    public string Unit { get; init; } = "";

    /// <summary>BT-131.</summary>
    public decimal? Net { get; init; }

    /// <summary>BT-132.</summary>
    public string OrderLine { get; init; } = "";

    /// <summary>BT-133.</summary>
    public string BuyerAccounting { get; init; } = "";

    /// <summary>BG-26.</summary>
    public Period? Period { get; init; }

    /// <summary>BG-27.</summary>
    public IReadOnlyList<Adjustment> Allowances { get; init; } = [];

    /// <summary>BG-28.</summary>
    public IReadOnlyList<Adjustment> Charges { get; init; } = [];

    /// <summary>BT-146.</summary>
    public decimal? Price { get; init; }

    /// <summary>BT-148.</summary>
    public decimal? GrossPrice { get; init; }

    /// <summary>BT-149; null for one.</summary>
    public decimal? PriceBase { get; init; }

    /// <summary>BG-30.</summary>
    public LineTax? Tax { get; init; }

    /// <summary>BT-153.</summary>
    public string Name { get; init; } = "";

    /// <summary>BT-154.</summary>
    public string Description { get; init; } = "";

    /// <summary>BT-155.</summary>
    public string SellersId { get; init; } = "";

    /// <summary>BT-156.</summary>
    public string BuyersId { get; init; } = "";

    /// <summary>BT-157.</summary>
    public Identifier? StandardId { get; init; }

    /// <summary>BT-158, its list as the scheme.</summary>
    public IReadOnlyList<Identifier> Classes { get; init; } = [];

    /// <summary>BT-159.</summary>
    public string Origin { get; init; } = "";

    /// <summary>BG-32.</summary>
    public IReadOnlyList<ItemTrait> Traits { get; init; } = [];
}
