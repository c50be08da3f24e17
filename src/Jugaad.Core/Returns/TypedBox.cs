using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>A box that was typed in, such as tax on what was bought.</summary>
/// <param name="Amount">Minor units of the home currency.</param>
/// <param name="Reason">What it is.</param>
/// <param name="AccountId">The ledger account against which filing posts what it changes of what is owed; 0 where it
/// changes nothing.</param>
public sealed record TypedBox(string Number, long Amount, string Reason, int AccountId);

/// <summary>What a return asks to be paid, and what of that filing has to post.</summary>
/// <param name="Owed">Minor units of the home currency; below zero for what comes back.</param>
/// <param name="Typed">What each typed box adds to it, or takes from it.</param>
/// <param name="Rounding">What rounding in the boxes adds to the tax itself.</param>
public sealed record ReturnOwed(long Owed, IReadOnlyList<(TypedBox Box, long Adds)> Typed, long Rounding)
{
    /// <summary>What a set's box to be paid says, or the tax where the set has none.</summary>
    /// <param name="figures">What the boxes say.</param>
    public static ReturnOwed Of(
        IReadOnlyList<ReturnBox> boxes,
        IReadOnlyList<BoxFigure> figures,
        IReadOnlyList<TypedBox> typed,
        long tax
    )
    {
        if (boxes.FirstOrDefault(b => b.IsOwed) is not { } payable)
            return new ReturnOwed(tax, [], 0);
        var known = boxes.ToDictionary(b => b.Number);
        var signs = new Dictionary<string, int>();
        void Add(ReturnBox box, int sign)
        {
            signs[box.Number] = signs.GetValueOrDefault(box.Number) + sign;
            foreach (var (number, own) in box.Terms() is { } terms && box.Sum == BoxSum.Formula ? terms : [])
                Add(known[number], sign * own);
        }

        Add(payable, 1);
        var owed = figures.First(f => f.Number == payable.Number).Amount;
        var adds = typed
            .Select(t => (Box: t, Adds: signs.GetValueOrDefault(t.Number) * t.Amount))
            .Where(t => t.Adds != 0)
            .ToList();
        return new ReturnOwed(owed, adds, owed - tax - adds.Sum(a => a.Adds));
    }

    /// <summary>Refuses what rounding cannot explain: a set that leaves a tax out of what is to be paid.</summary>
    /// <param name="unit">Minor units of one whole unit.</param>
    /// <exception cref="RefusalException">When what is owed differs by more.</exception>
    public void Check(IReadOnlyList<ReturnBox> boxes, long unit)
    {
        if (Math.Abs(Rounding) > unit * Math.Max(1, boxes.Count))
            throw new RefusalException(
                "",
                "What the box to be paid says is not the tax of the return with what was typed in: a box leaves a tax out, or counts one twice. Look at the boxes under Setup."
            );
    }
}
