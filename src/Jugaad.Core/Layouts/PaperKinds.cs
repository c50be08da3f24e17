using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>The kinds of paper, by which a layout is chosen and a piece shown.</summary>
public static class PaperKinds
{
    public const string PackingList = "PackingList";
    public const string Statement = "Statement";
    public const string Letter = "Letter";
    public const string Plan = "Plan";
    public const string Report = "Report";
    public const string Receipt = "Receipt";
    public const string Refund = "Refund";

    /// <summary>What is printed at the counter, on a strip; an invoice otherwise.</summary>
    public const string Slip = "Slip";

    /// <summary>Those of documents, and the papers that are none.</summary>
    public static IReadOnlyList<string> All { get; } =
    [.. Enum.GetNames<DocumentKind>(), PackingList, Statement, Letter, Plan, Report, Receipt, Refund, Slip];

    /// <summary>Several of a kind, in the middle of a sentence.</summary>
    public static string Name(string kind) =>
        Enum.TryParse<DocumentKind>(kind, out var document)
            ? $"{KindPolicy.Of(document).Word}s"
            : kind switch
            {
                PackingList => "packing lists",
                Statement => "statements",
                Letter => "letters and reminders",
                Plan => "payment plans",
                Receipt => "receipts",
                Refund => "refunds",
                Slip => "counter slips",
                _ => "reports",
            };
}
