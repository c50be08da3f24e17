using Jugaad.Core.Amounts;

namespace Jugaad.Core.Trade;

public enum CustomerKind
{
    Business,
    Consumer,
    PublicBody,
}

/// <summary>What a customer is described by, as typed on a page or read from a file.</summary>
public sealed record CustomerDetails
{
    public string Code { get; init; } = "";

    public string Name { get; init; } = "";

    /// <summary>What they are known by, if by another name.</summary>
    public string OtherName { get; init; } = "";

    public CustomerKind Kind { get; init; }

    public string RegistrationNumber { get; init; } = "";

    public string TaxNumber { get; init; } = "";

    /// <summary>Whom to ask for.</summary>
    public string ContactName { get; init; } = "";

    public string Email { get; init; } = "";

    public string Phone { get; init; } = "";

    public string Mobile { get; init; } = "";

    public Address Address { get; init; } = new();

    /// <summary>Two letters of ISO 639-1 in which they are written to.</summary>
    public string Language { get; init; } = "en";

    /// <summary>In which they are billed unless a document says otherwise, and in which their limit is.</summary>
    public string Currency { get; init; } = "";

    /// <summary>Codes of the currencies that they are billed in besides, apart by spaces or commas.</summary>
    public string AlsoIn { get; init; } = "";

    public int? TermsId { get; init; }

    /// <summary>Minor units of the customer's currency; null for none.</summary>
    public long? CreditLimit { get; init; }

    /// <summary>Percent off each line; 0 to 100 with at most 4 decimals.</summary>
    public decimal TradeDiscount { get; init; }

    public int? PriceListId { get; init; }

    /// <summary>Who of us looks after them.</summary>
    public int? SellerId { get; init; }

    /// <summary>Words to find them by, apart by commas.</summary>
    public string Tags { get; init; } = "";

    public string PrivateNote { get; init; } = "";

    public bool Inactive { get; init; }

    public bool NoMoreOnAccount { get; init; }

    public string NoMoreReason { get; init; } = "";

    /// <summary>As the business register gave it, A (best) to E; empty where it is not known.</summary>
    public string RiskGrade { get; init; } = "";

    public ElectronicAddress Electronic { get; init; } = ElectronicAddress.None;

    /// <summary>What the customer wants to read on each invoice, so that it finds its way (BT-10).</summary>
    public string BuyerReference { get; init; } = "";

    /// <summary>The contract that they are billed under (BT-12).</summary>
    public string ContractReference { get; init; } = "";

    public PaperForm Takes { get; init; }

    public IReadOnlyList<ContactDetails> Contacts { get; init; } = [];

    public IReadOnlyList<PlaceDetails> Places { get; init; } = [];

    public IReadOnlyList<CertificateDetails> Certificates { get; init; } = [];
}

/// <summary>Who buys.</summary>
public sealed class Customer
{
    /// <summary>The languages whose words ship; a business may add others.</summary>
    public static IReadOnlyList<(string Code, string Name)> Languages { get; } =
    [
        ("en", "English"),
        ("da", "Danish"),
        ("de", "German"),
        ("es", "Spanish"),
        ("et", "Estonian"),
        ("fi", "Finnish"),
        ("fr", "French"),
        ("it", "Italian"),
        ("lt", "Lithuanian"),
        ("lv", "Latvian"),
        ("nl", "Dutch"),
        ("no", "Norwegian"),
        ("pl", "Polish"),
        ("pt", "Portuguese"),
        ("sv", "Swedish"),
    ];

    /// <summary>Whether it is written as the code of a language: two small letters (ISO 639-1).</summary>
    public static bool IsLanguage(string code) => code.Length == 2 && code.All(char.IsAsciiLetterLower);

    private readonly List<CustomerContact> _contacts = [];
    private readonly List<CustomerPlace> _places = [];
    private readonly List<ExemptionCertificate> _certificates = [];

    private Customer() { }

    /// <exception cref="RefusalException">When the details cannot be.</exception>
    public Customer(CustomerDetails details) => Describe(details);

    public int Id { get; private set; }

    /// <summary>Short and unique.</summary>
    public string Code { get; private set; } = "";

    public string Name { get; private set; } = "";

    public string OtherName { get; private set; } = "";

    public CustomerKind Kind { get; private set; }

    public string RegistrationNumber { get; private set; } = "";

    public string TaxNumber { get; private set; } = "";

    public string ContactName { get; private set; } = "";

    public string Email { get; private set; } = "";

    public string Phone { get; private set; } = "";

    public string Mobile { get; private set; } = "";

    public Address Address { get; private set; } = new();

    public string Language { get; private set; } = "en";

    /// <summary>In which they are billed unless a document says otherwise, and in which their limit is.</summary>
    public Currency Currency { get; private set; } = null!;

    /// <summary>Codes of the currencies that they are billed in besides, apart by spaces; empty for none.</summary>
    public string AlsoIn { get; private set; } = "";

    /// <summary>All that they are billed in, the usual one first.</summary>
    public IReadOnlyList<Currency> Currencies =>
        [Currency, .. CustomerCheck.Codes(AlsoIn).Select(code => Currency.Of(code))];

    /// <summary>The currency that is chosen for a document of theirs; the usual one where none is.</summary>
    /// <exception cref="RefusalException">When they are not billed in it.</exception>
    public Currency BilledIn(string chosen) =>
        chosen.Length == 0 ? Currency
        : Currencies.FirstOrDefault(c => c.Code == chosen) is { } one ? one
        : throw new RefusalException(
            "currency",
            $"{Name} is not billed in {chosen}. Choose {string.Join(" or ", Currencies)}, or name it on their page, under Also billed in."
        );

    public int? TermsId { get; private set; }

    public PaymentTerms? Terms { get; private set; }

    /// <summary>Minor units of <see cref="Currency"/>; null for none.</summary>
    public long? CreditLimit { get; private set; }

    /// <summary>Percent off each line.</summary>
    public decimal TradeDiscount { get; private set; }

    public int? PriceListId { get; private set; }

    public int? SellerId { get; private set; }

    /// <summary>In small letters, each between commas: <c>,boat yard,trade,</c>; empty for none.</summary>
    public string Tags { get; private set; } = "";

    /// <summary>Letters that all tags of a customer may have together.</summary>
    public const int MostOfTags = 500;

    /// <summary>Currencies besides the usual one.</summary>
    public const int MostCurrencies = 12;

    public string PrivateNote { get; private set; } = "";

    public bool Inactive { get; private set; }

    /// <summary>Pays on the day; nothing is left to be paid later.</summary>
    public bool NoMoreOnAccount { get; private set; }

    public string NoMoreReason { get; private set; } = "";

    public string RiskGrade { get; private set; } = "";

    /// <summary>Since when the grade is the one that it is; null where that is not known.</summary>
    public DateOnly? GradedOn { get; private set; }

    /// <summary>Notes the day of a grade that is another than before.</summary>
    public void GradeOn(string before, DateOnly day)
    {
        if (RiskGrade != before)
            GradedOn = RiskGrade.Length > 0 ? day : null;
    }

    public ElectronicAddress Electronic { get; private set; } = ElectronicAddress.None;

    /// <inheritdoc cref="CustomerDetails.BuyerReference"/>
    public string BuyerReference { get; private set; } = "";

    /// <inheritdoc cref="CustomerDetails.ContractReference"/>
    public string ContractReference { get; private set; } = "";

    /// <summary>In which form they get papers, where that can be done.</summary>
    public PaperForm Takes { get; private set; }

    /// <summary>Who of the business collects from them; null for whoever sells to them.</summary>
    public int? CollectorId { get; private set; }

    /// <summary>By which steps they are written to; null for the usual ones.</summary>
    public int? LadderId { get; private set; }

    /// <summary>Whether they are never written to by steps.</summary>
    public bool NoLadder { get; private set; }

    /// <summary>Before that day nobody needs to ask them for money; null where nobody said so.</summary>
    public DateOnly? AskAgainOn { get; private set; }

    /// <summary>The customer that this one became part of; null where it stands for itself.</summary>
    public int? MergedIntoId { get; private set; }

    /// <summary>Changes whenever the customer is saved, so that two people do not overwrite each other.</summary>
    public int Version { get; private set; }

    public IReadOnlyList<CustomerContact> Contacts => _contacts;

    public IReadOnlyList<CustomerPlace> Places => _places;

    public IReadOnlyList<ExemptionCertificate> Certificates => _certificates;

    public IEnumerable<string> TagList => Tags.Split(',', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>As papers name them.</summary>
    public string PaperName => OtherName.Length > 0 ? $"{Name} ({OtherName})" : Name;

    /// <summary>
    /// The certificate that holds on a day, the one that lasts longest first; null where there is none.
    /// </summary>
    public ExemptionCertificate? CertificateOn(DateOnly day) =>
        _certificates.Where(c => c.HoldsOn(day)).MaxBy(c => c.Until ?? DateOnly.MaxValue);

    /// <summary>Where invoices go: to whoever gets them, or the customer's own address.</summary>
    public string InvoiceEmail => _contacts.Find(c => c.GetsInvoices && c.Email.Length > 0)?.Email ?? Email;

    /// <summary>Where reminders go: to whoever gets them, or where invoices go.</summary>
    public string ReminderEmail => _contacts.Find(c => c.GetsReminders && c.Email.Length > 0)?.Email ?? InvoiceEmail;

    /// <summary>Takes the details, trimmed. The currency cannot change once there is anything on the account.</summary>
    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(CustomerDetails details)
    {
        var refusals = new Refusals();
        CustomerCheck.Texts(refusals, details);
        CustomerCheck.Figures(refusals, details);
        CustomerCheck.Parts(refusals, details);
        if (!Currency.TryOf(details.Currency, out var currency))
            refusals.Add("currency", "Choose the currency in which this customer is billed.");
        var also = CustomerCheck.AlsoIn(refusals, details.AlsoIn, currency);
        refusals.ThrowIfAny();

        (Code, Name, OtherName, Kind) = (
            details.Code.Trim(),
            details.Name.Trim(),
            details.OtherName.Trim(),
            details.Kind
        );
        (RegistrationNumber, TaxNumber) = (
            details.RegistrationNumber.Trim(),
            TaxNumbers.Complete(details.TaxNumber, details.Address.Country)
        );
        (ContactName, Email, Phone, Mobile) = (
            details.ContactName.Trim(),
            details.Email.Trim(),
            details.Phone.Trim(),
            details.Mobile.Trim()
        );
        (Address, Language) = (details.Address.Tidied(), details.Language);
        (Currency, AlsoIn, TermsId, CreditLimit, TradeDiscount) = (
            currency!,
            also,
            details.TermsId,
            details.CreditLimit,
            details.TradeDiscount
        );
        (PriceListId, SellerId, Tags) = (details.PriceListId, details.SellerId, TagsOf(details.Tags));
        (PrivateNote, Inactive, RiskGrade) = (details.PrivateNote.Trim(), details.Inactive, details.RiskGrade);
        (NoMoreOnAccount, NoMoreReason) = (
            details.NoMoreOnAccount,
            details.NoMoreOnAccount ? details.NoMoreReason.Trim() : ""
        );
        (Electronic, BuyerReference, ContractReference, Takes) = (
            details.Electronic.Tidied(),
            details.BuyerReference.Trim(),
            details.ContractReference.Trim(),
            details.Takes
        );
        KeepParts(details);
        Version++;
    }

    /// <summary>What describes the customer, as it can be typed again.</summary>
    public CustomerDetails Details() =>
        new()
        {
            Code = Code,
            Name = Name,
            OtherName = OtherName,
            Kind = Kind,
            RegistrationNumber = RegistrationNumber,
            TaxNumber = TaxNumber,
            ContactName = ContactName,
            Email = Email,
            Phone = Phone,
            Mobile = Mobile,
            Address = Address,
            Language = Language,
            Currency = Currency.Code,
            AlsoIn = AlsoIn,
            TermsId = TermsId,
            CreditLimit = CreditLimit,
            TradeDiscount = TradeDiscount,
            PriceListId = PriceListId,
            SellerId = SellerId,
            Tags = string.Join(", ", TagList),
            PrivateNote = PrivateNote,
            Inactive = Inactive,
            NoMoreOnAccount = NoMoreOnAccount,
            NoMoreReason = NoMoreReason,
            RiskGrade = RiskGrade,
            Electronic = Electronic,
            BuyerReference = BuyerReference,
            ContractReference = ContractReference,
            Takes = Takes,
            Contacts = [.. _contacts.Select(c => c.Details)],
            Places = [.. _places.Select(p => new PlaceDetails(p.Id, p.Label, p.Address))],
            Certificates = [.. _certificates.Select(c => new CertificateDetails(c.Number, c.From, c.Until))],
        };

    /// <summary>Has one tag more; what is given already stays once.</summary>
    /// <exception cref="RefusalException">When there is no tag, or it makes all tags too long.</exception>
    public void Tag(string tag)
    {
        var tags = TagsOf($"{Tags},{OneTag(tag)}");
        if (tags.Length > MostOfTags)
            throw new RefusalException("tag", $"The tags of {Name} would be longer than {MostOfTags} letters.");
        Tags = tags;
        Version++;
    }

    /// <exception cref="RefusalException">When there is no tag, or the customer does not have it.</exception>
    public void Untag(string tag)
    {
        var one = OneTag(tag);
        if (!TagList.Contains(one))
            throw new RefusalException("tag", $"{Name} is not tagged “{one}”.");
        Tags = TagsOf(string.Join(',', TagList.Where(t => t != one)));
        Version++;
    }

    /// <summary>Says who collects from them; null for whoever sells to them.</summary>
    public void HandTo(int? collectorId) => CollectorId = collectorId;

    /// <summary>Has them written to by other steps than usual, by the usual ones (null), or by none.</summary>
    public void Climb(int? ladderId, bool none) => (LadderId, NoLadder) = (none ? null : ladderId, none);

    /// <summary>Leaves them alone until a day; null for as usual.</summary>
    public void AskAgain(DateOnly? day) => AskAgainOn = day;

    /// <summary>Is offered no more, or again.</summary>
    /// <exception cref="RefusalException">When that is so already, or the customer was merged into another.</exception>
    public void Retire(bool retired)
    {
        if (MergedIntoId is not null)
            throw new RefusalException("", $"{Name} was merged into another customer, and stays so.");
        if (Inactive == retired)
            throw new RefusalException("", $"{Name} is {(retired ? "inactive" : "active")} already.");
        Inactive = retired;
        Version++;
    }

    private static string OneTag(string tag) =>
        TagsOf(tag).Trim(',') is { Length: > 0 } one && !one.Contains(',')
            ? one
            : throw new RefusalException("tag", "Give one tag, without a comma.");

    /// <summary>Becomes part of another customer and is offered no more.</summary>
    public void MergeInto(Customer other)
    {
        (MergedIntoId, Inactive) = (other.Id, true);
        Version++;
    }

    /// <summary>In small letters, each once, between commas.</summary>
    public static string TagsOf(string typed)
    {
        var tags = typed
            .Split(',', ';', '\n')
            .Select(t => t.Trim().ToLowerInvariant())
            .Where(t => t.Length > 0)
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToList();
        return tags.Count == 0 ? "" : $",{string.Join(',', tags)},";
    }

    private void KeepParts(CustomerDetails details)
    {
        if (!details.Contacts.SequenceEqual(_contacts.Select(c => c.Details)))
        {
            _contacts.Clear();
            _contacts.AddRange(details.Contacts.Select(c => new CustomerContact(c)));
        }

        // Documents point to places, so a place that stays keeps its identity.
        _places.RemoveAll(p => !details.Places.Any(d => d.Id == p.Id));
        foreach (var place in details.Places)
        {
            if (place.Id is { } id && _places.Find(p => p.Id == id) is { } known)
                known.Describe(place);
            else
                _places.Add(new CustomerPlace(place));
        }

        if (
            details.Certificates.SequenceEqual(
                _certificates.Select(c => new CertificateDetails(c.Number, c.From, c.Until))
            )
        )
            return;
        _certificates.Clear();
        _certificates.AddRange(details.Certificates.Select(c => new ExemptionCertificate(c)));
    }
}
