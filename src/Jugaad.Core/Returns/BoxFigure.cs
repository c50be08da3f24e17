using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>What a box of a return says; minor units of the home currency.</summary>
public sealed record BoxFigure(string Number, string Name, long Amount)
{
    /// <summary>What all boxes of a set say of some rows.</summary>
    /// <param name="boxes">A set that <see cref="ReturnBox.Check"/> found right.</param>
    /// <param name="typed">What was typed in; rounded in its box as all others.</param>
    public static IReadOnlyList<BoxFigure> Of(
        IReadOnlyList<ReturnBox> boxes,
        IReadOnlyCollection<ReturnRow> rows,
        Currency home,
        IReadOnlyCollection<TypedBox>? typed = null
    )
    {
        var known = boxes.ToDictionary(b => b.Number);
        var amounts = new Dictionary<string, long>();
        long AmountOf(ReturnBox box)
        {
            if (amounts.TryGetValue(box.Number, out var done))
                return done;
            var amount = box.Sum switch
            {
                BoxSum.Formula => box.Terms()!.Sum(t => t.Sign * AmountOf(known[t.Box])),
                BoxSum.Typed => typed?.Where(t => t.Number == box.Number).Sum(t => t.Amount) ?? 0,
                BoxSum.Tax => rows.Where(r => Fits(box, r)).Sum(r => r.Tax),
                _ => rows.Where(r => Fits(box, r)).Sum(r => r.Taxable),
            };
            return amounts[box.Number] = box.Rounded(amount, home);
        }

        return [.. boxes.Select(b => new BoxFigure(b.Number, b.Name, AmountOf(b)))];
    }

    /// <summary>Whether a row is in a box.</summary>
    public static bool Fits(ReturnBox box, ReturnRow row) =>
        box.Sum is BoxSum.Tax or BoxSum.Taxable
        && Among(box.Origins, row.Origin)
        && Among(box.Categories, row.Key.Category)
        && Among(box.Components, row.Key.Component)
        && Among(box.Percents, row.Key.Percent)
        && Among(box.Places, row.Key.Place)
        && Among(box.Supplies, row.Key.Supply);

    private static bool Among<T>(IReadOnlyList<T> wanted, T value) => wanted.Count == 0 || wanted.Contains(value);
}
