namespace Jugaad.Core.Taxes;

/// <summary>When tax counts for an authority.</summary>
public enum TaxBasis
{
    /// <summary>On the tax date of the document.</summary>
    ByInvoice,

    /// <summary>As money is allocated to it.</summary>
    ByPayment,
}

/// <summary>From a day on, an authority is told otherwise than before.</summary>
public sealed class BasisChange
{
    private BasisChange() { }

    internal BasisChange(DateOnly since, TaxBasis basis) => (Since, Basis) = (since, basis);

    public int Id { get; private set; }

    public DateOnly Since { get; private set; }

    public TaxBasis Basis { get; private set; }
}

/// <summary>What an authority is described by.</summary>
public sealed record AuthorityDetails
{
    public string Name { get; init; } = "";

    /// <summary>The number under which it knows the business; printed on papers.</summary>
    public string OurNumber { get; init; } = "";

    /// <summary>Months that one return covers: 1, 2, 3, 6 or 12.</summary>
    public int EveryMonths { get; init; } = 1;

    /// <summary>1 to 12; the periods are counted from it.</summary>
    public int FirstMonth { get; init; } = 1;

    public TaxBasis Basis { get; init; }

    /// <summary>Days after the end of a period until its return is due.</summary>
    public int DueAfterDays { get; init; } = 20;

    /// <summary>
    /// By payment: after so many months from its tax date what is not paid counts; null for never.
    /// </summary>
    public int? MostMonths { get; init; }

    /// <summary>The categories that may be told by payment; empty for the usual ones.</summary>
    public IReadOnlyList<TaxCategory> PaidCategories { get; init; } = [];

    /// <summary>Whether what comes late goes into an amendment of its own period, and not into the next return.</summary>
    public bool AmendsLate { get; init; }

    /// <summary>
    /// Minor units of tax: what comes late up to this goes into the next return all the same. Null for nothing.
    /// </summary>
    public long? AmendsAbove { get; init; }

    /// <summary>Whether it wants tax in other currencies at rates that it sets itself.</summary>
    public bool HasOwnRates { get; init; }

    /// <summary>For how many days one of these holds at most; null until the next one.</summary>
    public int? OwnRateDays { get; init; }

    /// <summary>
    /// The first day on which the business charges this authority's taxes; null while it is not registered.
    /// </summary>
    public DateOnly? RegisteredFrom { get; init; } = new DateOnly(2000, 1, 1);

    /// <summary>The last day on which it does; null while that goes on.</summary>
    public DateOnly? RegisteredTo { get; init; }
}

/// <summary>Whom a tax is owed to, and how it is reported there.</summary>
public sealed class TaxAuthority
{
    /// <summary>How many months a return may cover.</summary>
    public static IReadOnlyList<int> Frequencies { get; } = [1, 2, 3, 6, 12];

    private readonly List<BasisChange> _changes = [];

    private TaxAuthority() => (Name, OurNumber) = ("", "");

    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public TaxAuthority(AuthorityDetails details)
        : this() => Describe(details);

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string OurNumber { get; private set; }

    public int EveryMonths { get; private set; }

    public int FirstMonth { get; private set; }

    /// <summary>How it was told at first.</summary>
    public TaxBasis Basis { get; private set; }

    /// <summary>How it is told otherwise since, in the order of their days.</summary>
    public IReadOnlyList<BasisChange> Changes => [.. _changes.OrderBy(c => c.Since)];

    /// <summary>What a return to it says; empty where it only has its summary.</summary>
    public IReadOnlyList<ReturnBox> Boxes { get; private set; } = [];

    /// <inheritdoc cref="AuthorityDetails.MostMonths"/>
    public int? MostMonths { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.DueAfterDays"/>
    public int DueAfterDays { get; private set; }

    public DateOnly? RegisteredFrom { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.RegisteredTo"/>
    public DateOnly? RegisteredTo { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.PaidCategories"/>
    public IReadOnlyList<TaxCategory> PaidCategories { get; private set; } = [];

    /// <inheritdoc cref="AuthorityDetails.AmendsLate"/>
    public bool AmendsLate { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.AmendsAbove"/>
    public long? AmendsAbove { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.HasOwnRates"/>
    public bool HasOwnRates { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.OwnRateDays"/>
    public int? OwnRateDays { get; private set; }

    /// <summary>The ledger account of what is owed to it; null until it has one.</summary>
    public int? OwedAccountId { get; private set; }

    /// <summary>
    /// The ledger account of tax that waits for payment; null while it was never told by payment.
    /// </summary>
    public int? NotDueAccountId { get; private set; }

    /// <summary>Gives it its ledger accounts; what it has, it keeps, since it was posted to.</summary>
    public void PostTo(int owedAccountId, int? notDueAccountId)
    {
        OwedAccountId ??= owedAccountId;
        NotDueAccountId ??= notDueAccountId;
    }

    public bool IsRegisteredOn(DateOnly day) =>
        RegisteredFrom is { } from && from <= day && !(RegisteredTo is { } last && last < day);

    /// <exception cref="RefusalException">With every field that is wrong; nothing is changed then.</exception>
    public void Describe(AuthorityDetails details)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", details.Name, 100, "Give the authority its name.");
        Texts.Short(refusals, "ourNumber", details.OurNumber, 50);
        if (!Frequencies.Contains(details.EveryMonths))
            refusals.Add(
                "everyMonths",
                $"A return covers {string.Join(", ", Frequencies)} months. Choose one of these."
            );
        if (details.FirstMonth is < 1 or > 12)
            refusals.Add("firstMonth", "Choose the month with which the tax year begins.");
        if (details.DueAfterDays is < 0 or > 366)
            refusals.Add("dueAfterDays", "A return is due within 0 to 366 days after its period.");
        if (details.MostMonths is < 1 or > 60)
            refusals.Add("mostMonths", "Give from 1 to 60 months, or leave it empty for never.");
        if (details.OwnRateDays is < 1 or > 366)
            refusals.Add("ownRateDays", "Give from 1 to 366 days, or leave it empty for until the next rate.");
        if (details.RegisteredTo is { } to && !(details.RegisteredFrom is { } from && from <= to))
            refusals.Add("registeredTo", "A registration ends on or after the day on which it begins.");
        refusals.ThrowIfAny();
        (DueAfterDays, MostMonths) = (details.DueAfterDays, details.MostMonths);
        PaidCategories = [.. details.PaidCategories.Distinct().Order()];
        (AmendsLate, AmendsAbove) = (details.AmendsLate, details.AmendsLate ? details.AmendsAbove : null);
        (HasOwnRates, OwnRateDays) = (details.HasOwnRates, details.HasOwnRates ? details.OwnRateDays : null);
        (Name, OurNumber) = (details.Name.Trim(), details.OurNumber.Trim());
        (EveryMonths, FirstMonth, Basis) = (details.EveryMonths, details.FirstMonth, details.Basis);
        (RegisteredFrom, RegisteredTo) = (details.RegisteredFrom, details.RegisteredTo);
    }

    public AuthorityDetails Details() =>
        new()
        {
            Name = Name,
            OurNumber = OurNumber,
            EveryMonths = EveryMonths,
            FirstMonth = FirstMonth,
            Basis = Basis,
            DueAfterDays = DueAfterDays,
            MostMonths = MostMonths,
            PaidCategories = PaidCategories,
            AmendsLate = AmendsLate,
            AmendsAbove = AmendsAbove,
            HasOwnRates = HasOwnRates,
            OwnRateDays = OwnRateDays,
            RegisteredFrom = RegisteredFrom,
            RegisteredTo = RegisteredTo,
        };

    /// <summary>How it is told of what counts on a day.</summary>
    public TaxBasis BasisOn(DateOnly day) => Changes.LastOrDefault(c => c.Since <= day)?.Basis ?? Basis;

    /// <exception cref="RefusalException">With all that contradicts itself.</exception>
    public void SayIn(IReadOnlyList<ReturnBox> boxes)
    {
        ReturnBox.Check(boxes);
        Boxes = [.. boxes];
    }

    /// <summary>Has it told otherwise from a day on. What counted before stays as it counted.</summary>
    /// <exception cref="RefusalException">When that is no first day of a period, is not after the last change, or
    /// nothing changes by it.</exception>
    public void ChangeBasis(TaxBasis basis, DateOnly since)
    {
        if (PeriodStart(since) != since)
            throw new RefusalException(
                "basisSince",
                $"It changes with a period. Give its first day, such as {PeriodEnd(since).AddDays(1):yyyy-MM-dd}."
            );
        if (Changes is [.., { } last] && last.Since >= since)
            throw new RefusalException(
                "basisSince",
                $"It was changed on {last.Since:yyyy-MM-dd} already. Give a later day."
            );
        if (BasisOn(since) == basis)
            throw new RefusalException("basis", "It is told so already.");
        _changes.Add(new BasisChange(since, basis));
    }

    /// <summary>How often it is reported to, in words.</summary>
    public static string Words(int everyMonths) =>
        everyMonths switch
        {
            1 => "every month",
            2 => "every two months",
            3 => "every quarter",
            6 => "every half year",
            _ => "once a year",
        };

    /// <summary>The last day of the period that a day belongs to; the last period ends with the registration.</summary>
    public DateOnly PeriodEnd(DateOnly day)
    {
        var end = MonthsFrom(day).AddMonths(EveryMonths).AddDays(-1);
        return RegisteredTo is { } last && last >= day && last < end ? last : end;
    }

    /// <summary>The day on which the return of a period is due.</summary>
    public DateOnly DueFor(DateOnly periodEnd) => periodEnd.AddDays(DueAfterDays);

    /// <summary>
    /// The first day of the period that a day belongs to; the first period begins with the registration.
    /// </summary>
    public DateOnly PeriodStart(DateOnly day)
    {
        var start = MonthsFrom(day);
        return RegisteredFrom is { } from && from <= day && from > start ? from : start;
    }

    private DateOnly MonthsFrom(DateOnly day)
    {
        var monthsIn = (day.Month - FirstMonth + 12) % EveryMonths;
        return new DateOnly(day.Year, day.Month, 1).AddMonths(-monthsIn);
    }
}
