namespace Jugaad.Core.Taxes;

/// <summary>
/// Whether the business charges tax on a day. Until the day of registration with an authority its components are left
/// out, and while the business is registered with none, nothing is said of tax at all.
/// </summary>
public sealed class TaxStanding
{
    private readonly DateOnly? _first;

    private TaxStanding(DateOnly? first) => _first = first;

    /// <summary>For figures without books: tax is charged on every day.</summary>
    public static TaxStanding Always { get; } = new(DateOnly.MinValue);

    /// <summary>
    /// Registered from the first day on which any of the authorities counts; always, where there is no authority.
    /// </summary>
    public static TaxStanding With(IReadOnlyCollection<TaxAuthority> authorities) =>
        authorities.Count == 0 ? Always : new TaxStanding(authorities.Min(a => a.RegisteredFrom));

    public bool IsRegisteredOn(DateOnly day) => _first is { } first && first <= day;
}
