namespace Jugaad.Core.EInvoicing;

/// <summary>Where a rule is broken and how.</summary>
/// <param name="Rule">The rule's number in the standard, such as <c>BR-CO-10</c>.</param>
/// <param name="Place">The term of the standard, with the line or group where there are several: <c>BT-131 of line 2</c>.</param>
/// <param name="Problem">What is wrong, in words.</param>
public sealed record Breach(string Rule, string Place, string Problem);

/// <summary>One business rule of EN 16931-1, as data.</summary>
/// <param name="Number">As the standard has it.</param>
/// <param name="Words">What it asks for.</param>
/// <param name="Breaches">Each place at which an invoice breaks it, with what is wrong there.</param>
public sealed record EInvoiceRule(
    string Number,
    string Words,
    Func<EInvoice, IEnumerable<(string Place, string Problem)>> Breaches
);

/// <summary>All that is checked of an e-invoice, whoever made it.</summary>
public static class EInvoiceCheck
{
    /// <summary>In the order of the standard.</summary>
    public static IReadOnlyList<EInvoiceRule> Rules { get; } =
    [.. PresenceRules.All, .. SumRules.All, .. CategoryRules.All, .. DecimalRules.All, .. CodeRules.All];

    /// <summary>Every breach of every rule that applies; none where the invoice keeps them all.</summary>
    public static IReadOnlyList<Breach> Of(EInvoice invoice) =>
        [.. Rules.SelectMany(r => r.Breaches(invoice).Select(b => new Breach(r.Number, b.Place, b.Problem)))];
}
