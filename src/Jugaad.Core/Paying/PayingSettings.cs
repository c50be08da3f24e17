namespace Jugaad.Core.Paying;

/// <summary>How customers can pay online.</summary>
public sealed class PayingSettings
{
    private const decimal MostPercent = 10;

    public int Id { get; private set; }

    /// <inheritdoc cref="PayPattern"/>
    public string Pattern { get; private set; } = "";

    /// <summary>Whether the card service is asked for payments.</summary>
    public bool Card { get; private set; }

    /// <summary>Signs what the service tells; as the secret keeper protects it.</summary>
    public string ProtectedSecret { get; private set; } = "";

    /// <summary>Where card payments stand until they are paid out; null for the first account of that kind.</summary>
    public int? ClearingAccountId { get; private set; }

    public decimal SurchargePercent { get; private set; }

    /// <summary>Minor units of the home currency.</summary>
    public long SurchargeFixed { get; private set; }

    /// <summary>The ledger account of surcharges; null for that of the invoice's own lines.</summary>
    public int? SurchargeAccountId { get; private set; }

    public Surcharge Surcharge => new(SurchargePercent, SurchargeFixed);

    /// <exception cref="RefusalException">When the pattern is none that can be used.</exception>
    public void PayBy(string pattern)
    {
        var refusals = new Refusals();
        PayPattern.Check(refusals, "pattern", pattern.Trim());
        refusals.ThrowIfAny();
        Pattern = pattern.Trim();
    }

    /// <param name="secret">Protected; null to keep the one that there is.</param>
    public void TakeCards(bool card, int? clearingAccountId, string? secret) =>
        (Card, ClearingAccountId, ProtectedSecret) = (card, clearingAccountId, secret ?? ProtectedSecret);

    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public void Charge(decimal percent, long @fixed, int? accountId)
    {
        var refusals = new Refusals();
        if (percent is < 0 or > MostPercent || decimal.Round(percent, 2) != percent)
            refusals.Add("surchargePercent", $"Give a percentage from 0 to {MostPercent:0}, with at most 2 decimals.");
        if (@fixed is < 0 or > 10_000)
            refusals.Add("surchargeFixed", "Give an amount from 0 to 100.00.");
        refusals.ThrowIfAny();
        (SurchargePercent, SurchargeFixed, SurchargeAccountId) = (percent, @fixed, accountId);
    }
}
