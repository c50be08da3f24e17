using Jugaad.Core.EInvoicing;

namespace Jugaad.Desk.Kept;

/// <summary>What a receiver said of an e-invoice, as the network told it.</summary>
public sealed class NetworkAnswer
{
    public int Id { get; init; }

    /// <summary>The post item with which the e-invoice went.</summary>
    public int PostItemId { get; init; }

    /// <summary>The network's own id of the answer.</summary>
    public string MessageId { get; init; } = "";

    public AnswerKind Kind { get; init; }

    /// <summary>Why it was refused, or what else was said; empty for nothing.</summary>
    public string Reason { get; init; } = "";

    /// <summary>The business's day on which it was given.</summary>
    public DateOnly Day { get; init; }

    /// <summary>Whether it could follow what had been said before; one that could not changes nothing.</summary>
    public bool Counts { get; init; }
}
