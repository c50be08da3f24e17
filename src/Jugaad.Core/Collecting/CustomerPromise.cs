using Jugaad.Core.Amounts;

namespace Jugaad.Core.Collecting;

/// <summary>One of the items that a promise names.</summary>
public sealed class PromiseItem
{
    public int PromiseId { get; init; }

    public int ItemId { get; init; }
}

/// <summary>
/// A promise as it is kept. What has become of it is not kept: it follows from the money that came, on any day.
/// </summary>
public sealed class CustomerPromise
{
    private readonly List<PromiseItem> _items = [];

    private CustomerPromise() => Currency = null!;

    /// <param name="after">The last allocation of the books when it was made: those up to it are of before, even on the
    /// same day.</param>
    /// <param name="items">What it is for; all that they owe where it names none.</param>
    /// <param name="open">What is open of that, in minor units.</param>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public CustomerPromise(
        int customerId,
        Currency currency,
        Promised promised,
        IEnumerable<int> items,
        long open,
        int after,
        ContactNote? note
    )
    {
        var refusals = new Refusals();
        promised.Check(refusals, open);
        refusals.ThrowIfAny();
        (CustomerId, Currency, After) = (customerId, currency, after);
        (Made, Until, Amount) = (promised.Made, promised.Until, promised.Amount);
        _items.AddRange(items.Distinct().Select(i => new PromiseItem { ItemId = i }));
        Note = note;
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public Currency Currency { get; private set; }

    public DateOnly Made { get; private set; }

    public DateOnly Until { get; private set; }

    /// <summary>Minor units of <see cref="Currency"/>.</summary>
    public long Amount { get; private set; }

    /// <summary>The last allocation that is of before it.</summary>
    public int After { get; private set; }

    public int? NoteId { get; private set; }

    public ContactNote? Note { get; private set; }

    /// <summary>The day from which it holds no more, since it was taken back; null while it was not.</summary>
    public DateOnly? EndedOn { get; private set; }

    public IReadOnlyList<PromiseItem> Items => _items;

    public Promised Promised => new(Made, Until, Amount);

    /// <summary>Whether it was there at the end of a day.</summary>
    public bool IsThereOn(DateOnly day) => Made <= day && (EndedOn is null || day < EndedOn);

    /// <exception cref="RefusalException">When it is taken back already.</exception>
    public void TakeBack(DateOnly day)
    {
        if (EndedOn is not null)
            throw new RefusalException("", "This promise was taken back already.");
        EndedOn = day < Made ? Made : day;
    }
}
