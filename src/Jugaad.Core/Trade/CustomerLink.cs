namespace Jugaad.Core.Trade;

/// <summary>
/// An address at which a customer sees something of theirs. Whoever has it may see it, and nobody can guess it.
/// </summary>
public abstract class CustomerLink
{
    private protected CustomerLink() { }

    private protected CustomerLink(string token) => Token = token;

    public int Id { get; private set; }

    /// <summary>At least 128 bits from a source of chance that cannot be foretold.</summary>
    public string Token { get; private set; } = "";

    /// <summary>The last day on which it opens anything; null where it does not end.</summary>
    public DateOnly? Until { get; private set; }

    /// <summary>Whether somebody took it back: it opens nothing any more.</summary>
    public bool IsTakenBack { get; private set; }

    public bool OpensOn(DateOnly day) => !IsTakenBack && !(Until < day);

    public void Last(DateOnly? until) => Until = until;

    public void TakeBack() => IsTakenBack = true;

    /// <summary>Another address takes the place of this one, which opens nothing any more.</summary>
    public void Renew(string token, DateOnly? until) =>
        (Token, Until, IsTakenBack, FirstSeen, LastSeen, TimesSeen) = (token, until, false, null, null, 0);

    /// <summary>The business day and the time of day; null while nobody has looked.</summary>
    public DateTime? FirstSeen { get; private set; }

    /// <inheritdoc cref="FirstSeen"/>
    public DateTime? LastSeen { get; private set; }

    public int TimesSeen { get; private set; }

    /// <summary>Notes a look; tells whether it was the first.</summary>
    public bool See(DateTime at)
    {
        var first = FirstSeen is null;
        FirstSeen ??= at;
        (LastSeen, TimesSeen) = (at, TimesSeen + 1);
        return first;
    }
}
