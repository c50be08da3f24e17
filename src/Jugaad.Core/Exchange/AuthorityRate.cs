using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>
/// The rate that an authority sets for tax in another currency, from a day until its next one. It has no other use.
/// </summary>
public sealed class AuthorityRate
{
    private AuthorityRate() => Currency = null!;

    /// <inheritdoc cref="Quote"/>
    public AuthorityRate(int authorityId, Currency currency, DateOnly from, QuotedRate rate, string source = "")
        : this()
    {
        (AuthorityId, Currency, From) = (authorityId, currency, from);
        Quote(rate, source);
    }

    public int Id { get; private set; }

    public int AuthorityId { get; private set; }

    public Currency Currency { get; private set; }

    public DateOnly From { get; private set; }

    public QuotedRate Rate { get; private set; }

    /// <summary>The name of the file that it is from; empty where it was typed.</summary>
    public string Source { get; private set; } = "";

    /// <summary>Puts another in its place; what was told at the one before stays as it is.</summary>
    /// <exception cref="RefusalException">When it is no rate.</exception>
    public void Quote(QuotedRate rate, string source)
    {
        rate.Check("rate");
        (Rate, Source) = (rate, source.Length > 100 ? source[..100] : source);
    }
}
