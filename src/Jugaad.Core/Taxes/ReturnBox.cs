using Jugaad.Core.Amounts;

namespace Jugaad.Core.Taxes;

/// <summary>What a box adds up.</summary>
public enum BoxSum
{
    /// <summary>Nothing: it is worked out from other boxes.</summary>
    Formula,

    /// <summary>What the tax is on.</summary>
    Taxable,
    Tax,

    /// <summary>Nothing: whoever files types it in, such as tax on what was bought.</summary>
    Typed,
}

/// <summary>What a row of a return comes from.</summary>
public enum RowOrigin
{
    /// <summary>What was billed, and money of no customer.</summary>
    Sales,

    /// <summary>Credit notes.</summary>
    Credits,

    /// <summary>Debts given up and discounts for paying early, and what of them came back.</summary>
    TakenOff,
}

/// <summary>How a box is rounded; once, in the box.</summary>
public enum BoxRounding
{
    /// <summary>To the minor unit.</summary>
    Cent,

    /// <summary>To whole units, half away from zero.</summary>
    Unit,

    /// <summary>To whole units, towards less.</summary>
    UnitDown,

    /// <summary>To whole units, towards more.</summary>
    UnitUp,
}

/// <summary>
/// A box of a return to an authority, as data. What is left empty narrows nothing: a box with a sum and nothing else adds
/// up all rows.
/// </summary>
public sealed record ReturnBox
{
    public const int Most = 100;

    /// <summary>As the authority numbers it; unique within its set, without spaces.</summary>
    public string Number { get; init; } = "";

    public string Name { get; init; } = "";

    public BoxSum Sum { get; init; }

    public IReadOnlyList<TaxCategory> Categories { get; init; } = [];

    /// <summary>Taxes by their names.</summary>
    public IReadOnlyList<string> Components { get; init; } = [];

    public IReadOnlyList<decimal> Percents { get; init; } = [];

    /// <summary>Of home, union and abroad.</summary>
    public IReadOnlyList<Place> Places { get; init; } = [];

    /// <summary>Of goods and services.</summary>
    public IReadOnlyList<Supply> Supplies { get; init; } = [];

    /// <summary>Of sales, credits and what was taken off.</summary>
    public IReadOnlyList<RowOrigin> Origins { get; init; } = [];

    public BoxRounding Rounding { get; init; }

    /// <summary>Whether it is what is to be paid; one box of a set may be.</summary>
    public bool IsOwed { get; init; }

    /// <summary>Numbers of other boxes with signs between spaces, such as <c>2 + 3 - 5</c>; their rounded amounts
    /// count.</summary>
    public string Formula { get; init; } = "";

    /// <summary>The boxes of a formula, each with its sign; null where it cannot be read.</summary>
    public IReadOnlyList<(string Box, int Sign)>? Terms()
    {
        var words = Formula.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var (terms, sign, expectsBox) = (new List<(string, int)>(), 1, true);
        foreach (var word in words)
        {
            if (word is "+" or "-")
            {
                if (expectsBox && terms.Count > 0)
                    return null;
                (sign, expectsBox) = (word == "-" ? -1 : 1, true);
                continue;
            }

            if (!expectsBox)
                return null;
            terms.Add((word, sign));
            expectsBox = false;
        }

        return expectsBox ? null : terms;
    }

    /// <summary>Refuses a set that contradicts itself, each by its place.</summary>
    /// <exception cref="RefusalException">With all that is wrong.</exception>
    public static void Check(IReadOnlyList<ReturnBox> boxes)
    {
        var refusals = new Refusals();
        if (boxes.Count > Most)
            refusals.Add("boxes", $"A return has at most {Most} boxes.");
        for (var i = 0; i < boxes.Count; i++)
        {
            var (box, at) = (boxes[i], $"boxes[{i}]");
            Texts.Required(refusals, $"{at}.number", box.Number, 20, "Give the box its number.");
            Texts.Required(refusals, $"{at}.name", box.Name, 200, "Give the box its name.");
            if (box.Number.Contains(' ', StringComparison.Ordinal) || box.Number is "+" or "-")
                refusals.Add($"{at}.number", "The number of a box has no spaces and is no sign.");
            if (boxes.Take(i).Any(b => b.Number == box.Number))
                refusals.Add($"{at}.number", $"There is a box {box.Number} already.");
            if (box.IsOwed && boxes.Take(i).Any(b => b.IsOwed))
                refusals.Add($"{at}.isOwed", "One box says what is to be paid. Take the mark off one of them.");
            if (box.Sum != BoxSum.Formula && box.Formula.Length > 0)
                refusals.Add($"{at}.formula", "A box adds up rows, or has a formula; not both.");
            if (box.Sum == BoxSum.Formula)
                CheckFormula(refusals, boxes, box, $"{at}.formula");
        }

        refusals.ThrowIfAny();
    }

    private static void CheckFormula(Refusals refusals, IReadOnlyList<ReturnBox> boxes, ReturnBox box, string field)
    {
        if (box.Terms() is not { } terms)
        {
            refusals.Add(field, "Give numbers of boxes with + or - between them, such as 2 + 3 - 5.");
            return;
        }

        if (terms.FirstOrDefault(t => boxes.All(b => b.Number != t.Box)) is { Box: { } unknown })
            refusals.Add(field, $"There is no box {unknown}. Add it, or name another.");
        else if (Reaches(boxes, box, box.Number, []))
            refusals.Add(field, $"Box {box.Number} would be worked out from itself.");
    }

    private static bool Reaches(IReadOnlyList<ReturnBox> boxes, ReturnBox from, string number, HashSet<string> seen)
    {
        foreach (var (next, _) in from.Terms() ?? [])
        {
            if (next == number)
                return true;
            if (
                seen.Add(next)
                && boxes.FirstOrDefault(b => b.Number == next) is { Sum: BoxSum.Formula } box
                && Reaches(boxes, box, number, seen)
            )
                return true;
        }

        return false;
    }

    /// <summary>Rounds what a box comes to.</summary>
    /// <param name="minor">Minor units.</param>
    internal long Rounded(long minor, Currency currency)
    {
        var unit = currency.MinorPerUnit;
        return Rounding switch
        {
            BoxRounding.Unit => Amounts.Rounding.ToStep(minor, unit),
            BoxRounding.UnitDown => (long)Math.Floor((decimal)minor / unit) * unit,
            BoxRounding.UnitUp => (long)Math.Ceiling((decimal)minor / unit) * unit,
            _ => minor,
        };
    }
}
