using Jugaad.Core;

namespace Jugaad.Desk.Kept;

/// <summary>A layout of our own: what is worked on, and the state that is in use.</summary>
public sealed class KeptLayout
{
    private KeptLayout() => (Name, Work, ChangedBy) = ("", "", "");

    /// <param name="work">Its JSON.</param>
    /// <exception cref="RefusalException">When it has no name.</exception>
    public KeptLayout(string name, string work, DateTime now, string by)
        : this()
    {
        Rename(name);
        Keep(work, now, by);
    }

    public int Id { get; private set; }

    public string Name { get; private set; }

    /// <summary>Its JSON as it is worked on; it may be half done.</summary>
    public string Work { get; private set; }

    /// <summary>The state that is in use; null before it was put to use.</summary>
    public int? StateId { get; private set; }

    public DateTime ChangedAt { get; private set; }

    public string ChangedBy { get; private set; }

    /// <summary>Counts the changes, so that nobody writes over what they did not see.</summary>
    public int Version { get; private set; }

    /// <exception cref="RefusalException">When there is none, or it is too long.</exception>
    public void Rename(string name)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "layoutName", name, 60, "Give the layout a name.");
        refusals.ThrowIfAny();
        Name = name.Trim();
    }

    public void Keep(string work, DateTime now, string by)
    {
        (Work, ChangedAt, ChangedBy) = (work, now, by);
        Version++;
    }

    public void Use(int stateId) => StateId = stateId;
}

/// <summary>Which layout a paper gets: the first rule that fits decides.</summary>
public sealed class LayoutRule
{
    private LayoutRule() => (Kind, Language, Currency, Key) = ("", "", "", "");

    /// <param name="layoutId">One of our own; null for one that ships.</param>
    /// <param name="key">Of one that ships; empty for one of our own.</param>
    public LayoutRule(int position, int? layoutId, string key)
        : this() => (Position, LayoutId, Key) = (position, layoutId, key);

    public int Id { get; private set; }

    /// <summary>Rules are tried from the lowest on.</summary>
    public int Position { get; private set; }

    /// <summary>Of paper; empty for all.</summary>
    public string Kind { get; init; } = "";

    public int? SeriesId { get; init; }

    /// <summary>That the paper is written in (ISO 639-1); empty for all.</summary>
    public string Language { get; init; } = "";

    public int? CustomerId { get; init; }

    /// <summary>ISO 4217; empty for all.</summary>
    public string Currency { get; init; } = "";

    public int? LayoutId { get; private set; }

    public string Key { get; private set; }

    public void Stand(int position) => Position = position;
}
