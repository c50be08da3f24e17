using Jugaad.Core.Exchange;

namespace Jugaad.Core.Documents;

/// <summary>What a document says of the job and the delivery besides its lines; any of it may be empty.</summary>
public sealed record Particulars
{
    public static Particulars None { get; } = new();

    /// <summary>Printed above the lines.</summary>
    public string Opening { get; init; } = "";

    public string Project { get; init; } = "";

    /// <summary>Whatever else the customer wants named, such as a cost centre.</summary>
    public string Reference { get; init; } = "";

    /// <summary>The day of delivery, or the first of a period.</summary>
    public DateOnly? DeliveredFrom { get; init; }

    /// <summary>The last day of a period.</summary>
    public DateOnly? DeliveredUntil { get; init; }

    public string Carrier { get; init; } = "";

    public string DeliveryTerms { get; init; } = "";

    /// <summary>Why a credit or debit note is given.</summary>
    public string Reason { get; init; } = "";

    /// <summary>In which its paper is written, where it is not the customer's language (ISO 639-1).</summary>
    public string Language { get; init; } = "";

    /// <summary>The exchange rate that was typed for it, with its reason; null for the one of the list.</summary>
    public QuotedRate? TypedRate { get; init; }

    public string RateReason { get; init; } = "";

    /// <summary>The last day on which what is made from it has its exchange rate.</summary>
    public DateOnly? RateHeldUntil { get; init; }

    /// <summary>Whether the goods of a credit note stay with the customer, so that nothing goes back on hand.</summary>
    public bool GoodsStay { get; init; }

    /// <summary>The number of the document that a credit or debit note corrects.</summary>
    public string Corrects { get; init; } = "";

    /// <summary>The day on which to ask what became of a quote.</summary>
    public DateOnly? FollowUp { get; init; }

    /// <summary>Who sold it, for commission.</summary>
    public int? SellerId { get; init; }

    /// <summary>What a quote asks for as a deposit once it is accepted, of all of it; not together with an
    /// amount.</summary>
    public decimal? DepositPercent { get; init; }

    /// <summary>The same as an amount: minor units, in the price mode of the quote.</summary>
    public long? DepositAmount { get; init; }

    public bool AsksDeposit => DepositPercent is not null || DepositAmount is not null;

    internal Particulars Trimmed() =>
        this with
        {
            Opening = Opening.Trim(),
            Project = Project.Trim(),
            Reference = Reference.Trim(),
            Carrier = Carrier.Trim(),
            DeliveryTerms = DeliveryTerms.Trim(),
            Reason = Reason.Trim(),
            RateReason = RateReason.Trim(),
        };

    internal void Check(Refusals refusals)
    {
        Texts.Short(refusals, "opening", Opening, Amounts.Limits.Note);
        Texts.Short(refusals, "project", Project, 100);
        Texts.Short(refusals, "reference", Reference, 100);
        Texts.Short(refusals, "carrier", Carrier, 100);
        Texts.Short(refusals, "deliveryTerms", DeliveryTerms, 200);
        Texts.Short(refusals, "reason", Reason, 300);
        refusals.Try(() => TypedRate?.Check("typedRate"));
        if (TypedRate is not null)
            Texts.Required(refusals, "rateReason", RateReason, 200, "Say why this rate and not the one of the list.");
        if (Language.Length > 0 && !Trade.Customer.IsLanguage(Language))
            refusals.Add("language", "Choose a language from the list.");
        if (
            DepositAmount <= 0
            || DepositPercent is <= 0 or > 100
            || (
                DepositPercent is { } percent
                && Amounts.PlainDecimal.DecimalsOf(percent) > Amounts.Limits.PercentDecimals
            )
        )
            refusals.Add(
                "deposit",
                "Give the deposit as a percentage above 0 and up to 100, with at most 4 decimals, or as an amount above zero."
            );
        if (DeliveredUntil is { } until && (DeliveredFrom is not { } from || until < from))
            refusals.Add(
                "deliveredUntil",
                DeliveredFrom is null
                    ? "Give the first day of the period too, or leave the last one empty."
                    : "The period would end before it begins. Choose its first day or a later one."
            );
    }
}
