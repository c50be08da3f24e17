namespace Jugaad.Core.Taxes;

/// <summary>When tax counts for an authority.</summary>
public enum TaxBasis
{
    /// <summary>On the tax date of the document.</summary>
    ByInvoice,

    /// <summary>As money is allocated to it.</summary>
    ByPayment,
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
    /// The first day on which the business charges this authority's taxes; null while it is not registered.
    /// </summary>
    public DateOnly? RegisteredFrom { get; init; } = new DateOnly(2000, 1, 1);
}

/// <summary>Whom a tax is owed to, and how it is reported there.</summary>
public sealed class TaxAuthority
{
    /// <summary>How many months a return may cover.</summary>
    public static IReadOnlyList<int> Frequencies { get; } = [1, 2, 3, 6, 12];

    private TaxAuthority() => (Name, OurNumber) = ("", "");

    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public TaxAuthority(AuthorityDetails details)
        : this() => Describe(details);

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string OurNumber { get; private set; }

    public int EveryMonths { get; private set; }

    public int FirstMonth { get; private set; }

    public TaxBasis Basis { get; private set; }

    /// <inheritdoc cref="AuthorityDetails.DueAfterDays"/>
    public int DueAfterDays { get; private set; }

    public DateOnly? RegisteredFrom { get; private set; }

    public bool IsRegisteredOn(DateOnly day) => RegisteredFrom is { } from && from <= day;

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
        refusals.ThrowIfAny();
        DueAfterDays = details.DueAfterDays;
        (Name, OurNumber) = (details.Name.Trim(), details.OurNumber.Trim());
        (EveryMonths, FirstMonth, Basis, RegisteredFrom) = (
            details.EveryMonths,
            details.FirstMonth,
            details.Basis,
            details.RegisteredFrom
        );
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
            RegisteredFrom = RegisteredFrom,
        };

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

    /// <summary>The last day of the period that a day belongs to.</summary>
    public DateOnly PeriodEnd(DateOnly day) => PeriodStart(day).AddMonths(EveryMonths).AddDays(-1);

    /// <summary>The day on which the return of a period is due.</summary>
    public DateOnly DueFor(DateOnly periodEnd) => periodEnd.AddDays(DueAfterDays);

    /// <summary>The first day of the period that a day belongs to.</summary>
    public DateOnly PeriodStart(DateOnly day)
    {
        var monthsIn = (day.Month - FirstMonth + 12) % EveryMonths;
        return new DateOnly(day.Year, day.Month, 1).AddMonths(-monthsIn);
    }
}
