namespace Jugaad.Core.Taxes;

/// <summary>
/// Whether the business charges tax on a day. While the business is not registered with an authority its components
/// are left out, and while the business is registered with none, nothing is said of tax at all.
/// </summary>
public sealed class TaxStanding
{
    private readonly IReadOnlyList<(DateOnly From, DateOnly To)> _registered;

    private TaxStanding(IReadOnlyList<(DateOnly From, DateOnly To)> registered) => _registered = registered;

    /// <summary>For figures without books: tax is charged on every day.</summary>
    public static TaxStanding Always { get; } = new([(DateOnly.MinValue, DateOnly.MaxValue)]);

    /// <summary>
    /// Registered on each day on which any of the authorities counts; always, where there is no authority.
    /// </summary>
    public static TaxStanding With(IReadOnlyCollection<TaxAuthority> authorities) =>
        authorities.Count == 0
            ? Always
            : new TaxStanding([
                .. authorities
                    .Where(a => a.RegisteredFrom is not null)
                    .Select(a => (a.RegisteredFrom!.Value, a.RegisteredTo ?? DateOnly.MaxValue)),
            ]);

    public bool IsRegisteredOn(DateOnly day) => _registered.Any(r => r.From <= day && day <= r.To);
}
