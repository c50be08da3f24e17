namespace Jugaad.Core.Trade;

/// <summary>A way in which customers pay, as the business calls it, with where that money comes in.</summary>
public sealed class PayWay : IRetirable
{
    private PayWay() { }

    /// <exception cref="RefusalException">When it has no name, or too long a one.</exception>
    public PayWay(string name, int moneyAccountId) => Describe(name, moneyAccountId);

    public int Id { get; private set; }

    public string Name { get; private set; } = "";

    public int MoneyAccountId { get; private set; }

    /// <summary>No longer offered; receipts keep its name.</summary>
    public bool Retired { get; private set; }

    public void Describe(string name, int moneyAccountId)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "name", name, 60, "Give the way of payment a name, such as bank transfer.");
        refusals.ThrowIfAny();
        (Name, MoneyAccountId) = (name.Trim(), moneyAccountId);
    }

    public void Retire(bool retired) => Retired = retired;
}

/// <summary>A reason for which the business gives credit and debit notes.</summary>
public sealed class NoteReason : IRetirable
{
    private NoteReason() { }

    /// <exception cref="RefusalException">When it says nothing, or too much.</exception>
    public NoteReason(string text)
    {
        var refusals = new Refusals();
        Texts.Required(refusals, "text", text, 100, "Say the reason in a few words.");
        refusals.ThrowIfAny();
        Text = text.Trim();
    }

    public int Id { get; private set; }

    public string Text { get; private set; } = "";

    /// <summary>No longer offered; papers keep it.</summary>
    public bool Retired { get; private set; }

    public void Retire(bool retired) => Retired = retired;
}
