namespace Jugaad.Core.Trade;

/// <summary>
/// The number by which a customer knows one of our items: the buyer's item number, BT-156 of EN 16931. An item has at
/// most one with each customer; one number may be that of several items, such as of two packings.
/// </summary>
public sealed class CustomerItemNumber
{
    /// <summary>The longest that one may be.</summary>
    public const int Most = 60;

    private CustomerItemNumber() { }

    /// <exception cref="RefusalException">When the number is none.</exception>
    public CustomerItemNumber(int customerId, int itemId, string number)
    {
        (CustomerId, ItemId) = (customerId, itemId);
        Write(number);
    }

    public int Id { get; private set; }

    public int CustomerId { get; private set; }

    public int ItemId { get; private set; }

    /// <summary>Never empty, one line, trimmed.</summary>
    public string Number { get; private set; } = "";

    public int Version { get; private set; }

    /// <summary>The number as it is kept.</summary>
    public static string Tidied(string typed) => typed.Trim();

    /// <summary>Whether a kept number can be one.</summary>
    public static bool Holds(string? number) =>
        number is { Length: > 0 and <= Most } && number == Tidied(number) && !number.Any(char.IsControl);

    /// <exception cref="RefusalException">When it is empty, too long or of several lines.</exception>
    public void Write(string number)
    {
        var refusals = new Refusals();
        Check(refusals, "number", number);
        refusals.ThrowIfAny();
        Number = Tidied(number);
        Version++;
    }

    /// <summary>Refuses what cannot be such a number.</summary>
    public static void Check(Refusals refusals, string field, string number)
    {
        Texts.Required(refusals, field, number, Most, "Give the number by which the customer knows the item.");
        if (Tidied(number).Any(c => c is '\n' or '\r' or '\t'))
            refusals.Add(field, "A number is one line, without tabs.");
    }
}
