using System.Text.RegularExpressions;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Post;

/// <summary>A mail as it was composed.</summary>
/// <param name="To">One mail address or several with commas between them; a telephone number for a message; empty for
/// the pile to print.</param>
public sealed record MailToSend(string To, string Subject, string Body)
{
    public PostKind Kind { get; init; }

    public PostWay Way { get; init; }

    /// <inheritdoc cref="PostItem.LinkOnly"/>
    public bool LinkOnly { get; init; }

    /// <inheritdoc cref="PostItem.Hybrid"/>
    public bool Hybrid { get; init; }

    /// <inheritdoc cref="PostItem.SummaryId"/>
    public int? SummaryId { get; init; }

    /// <inheritdoc cref="PostItem.Marks"/>
    public string Marks { get; init; } = "";

    /// <summary>Files kept with the documents that go along too.</summary>
    public IReadOnlyList<int> FileIds { get; init; } = [];

    public int? CustomerId { get; init; }

    /// <summary>The statement that goes along; null for none.</summary>
    public StatementWish? Statement { get; init; }

    /// <inheritdoc cref="PostItem.Report"/>
    public string Report { get; init; } = "";

    /// <summary>The papers that go along.</summary>
    public IReadOnlyList<int> DocumentIds { get; init; } = [];

    /// <summary>The number that its text gives to a draft which is issued with it; empty where it names none.</summary>
    public string NumberInText { get; init; } = "";

    /// <summary>
    /// The same with the number that the document really got: another one may have taken the number that was seen when
    /// the text was written.
    /// </summary>
    public MailToSend Naming(string number)
    {
        if (NumberInText.Length == 0 || NumberInText == number)
            return this;
        string With(string text) =>
            Regex.Replace(
                text,
                $@"(?<![\p{{L}}\p{{N}}]){Regex.Escape(NumberInText)}(?![\p{{L}}\p{{N}}])",
                number.Replace("$", "$$", StringComparison.Ordinal)
            );
        return this with { Subject = With(Subject), Body = With(Body), NumberInText = number };
    }
}
