using Jugaad.Core.Matching;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>A bank line with what it really was.</summary>
/// <param name="Parts">What it was paid for, with the amounts; in truth.</param>
internal sealed record TrueLine(
    IncomingMoney Money,
    int CustomerId,
    IReadOnlyList<(int ItemId, long Amount)> Parts,
    string How
);

/// <summary>
/// Generated customers, what they owe, and bank lines with references, typos, merged payments and nothing at all.
/// </summary>
internal sealed class BankLines
{
    private static readonly string[] First =
    [
        "Korall",
        "Tuule",
        "Merelaine",
        "Sadama",
        "Kaljase",
        "Ankru",
        "Purje",
        "Nordic",
        "Baltic",
        "Skerry",
        "Harbour",
        "Lighthouse",
        "Heron",
        "Cormorant",
        "Amber",
        "Birch",
    ];
    private static readonly string[] Second =
    [
        "Boatyard",
        "Charter",
        "Marine",
        "Slipway",
        "Sailing School",
        "Yachts",
        "Rigging",
        "Chandlery",
    ];
    private static readonly long[] Usual = [4_800, 12_400, 9_300, 24_800, 6_200];
    private readonly Random _random;

    internal BankLines(int seed, int lines, int customers = 120)
    {
        _random = new Random(seed);
        var eur = Generators.Eur;
        var day = new DateOnly(2025, 9, 1);
        for (var i = 0; i < customers; i++)
        {
            // Some share a name but for its end, as branches and families do; half are known by their account.
            var name =
                $"{First[i % First.Length]} {Second[i / First.Length % Second.Length]}{(i % 7 == 0 ? " OÜ" : i % 7 == 1 ? " AS" : "")}";
            var account = $"EE{10 + (i % 80)}2200{i:D12}";
            Payers.Add(new Payer(i + 1, name, "", [eur], i % 2 == 0 ? [account] : [], []));
            _accounts.Add(account);
        }

        var open = new List<Owed>();
        for (var i = 0; i < lines * 13 / 10; i++)
        {
            var amount = _random.Next(3) == 0 ? Usual[_random.Next(Usual.Length)] : _random.Next(500, 400_000);
            var date = day.AddDays(-_random.Next(60));
            var early = _random.Next(10) == 0;
            open.Add(
                new Owed(
                    i + 1,
                    1 + _random.Next(customers),
                    $"INV-2025-{i + 1:D5}",
                    "",
                    eur,
                    amount,
                    date,
                    date.AddDays(14),
                    early ? amount * 2 / 100 : 0,
                    early ? date.AddDays(90) : null
                )
            );
        }

        Owed = [.. open];
        while (Lines.Count < lines && open.Count > 0)
            Lines.Add(Make(open, day.AddDays(_random.Next(10))));
    }

    private readonly List<string> _accounts = [];

    internal List<Payer> Payers { get; } = [];

    internal List<Owed> Owed { get; }

    internal List<TrueLine> Lines { get; } = [];

    private TrueLine Make(List<Owed> open, DateOnly day)
    {
        var one = Take(open, _random.Next(open.Count));
        var payer = Payers[one.CustomerId - 1];
        IncomingMoney Money(long amount, string text = "", string reference = "", bool strange = false) =>
            new(
                day,
                amount,
                one.Currency,
                text,
                reference,
                strange ? "R. Kask"
                    : _random.Next(4) == 0 ? Mangled(payer.Name)
                    : payer.Name.ToUpperInvariant(),
                strange || _random.Next(5) == 0 ? "" : _accounts[one.CustomerId - 1]
            );
        TrueLine Alone(IncomingMoney money, string how) => new(money, one.CustomerId, [(one.Id, money.Amount)], how);
        // What must not mislead: another number, another's money, another kind of paper, money from before, equal
        // amounts.
        if (_random.Next(4) == 0)
            return Misleading(open, one, payer, day);
        switch (_random.Next(21))
        {
            case < 5:
                return Alone(Money(one.Open, "", StructuredReference.Of(one.Number)), "reference");
            case 5:
                return Alone(Money(one.Open, "", Mistyped(StructuredReference.Of(one.Number))), "reference mistyped");
            case < 9:
                return Alone(Money(one.Open, $"Invoice {one.Number}, thank you"), "number");
            case 9:
                return Alone(
                    Money(one.Open, one.Number.Replace("-", _random.Next(2) == 0 ? " " : "", StringComparison.Ordinal)),
                    "number written otherwise"
                );
            case < 12:
                return Alone(Money(one.Open, "inv " + Mistyped(one.Number)), "number mistyped");
            case < 14:
                var others = open.Where(o => o.CustomerId == one.CustomerId).Take(_random.Next(1, 4)).ToList();
                others.ForEach(o => open.Remove(o));
                var all = others.Prepend(one).ToList();
                return new TrueLine(
                    Money(
                        all.Sum(o => o.Open),
                        _random.Next(2) == 0 ? string.Join(' ', all.Select(o => o.Number)) : "September"
                    ),
                    one.CustomerId,
                    all.ConvertAll(o => (o.Id, o.Open)),
                    "merged"
                );
            case < 17:
                return Alone(Money(one.Open, "payment"), "no reference");
            case 17:
                return Alone(Money(Math.Max(1, one.Open * _random.Next(10, 90) / 100), one.Number), "a part");
            case 19:
                return new TrueLine(
                    Money(one.Open - Math.Max(1, one.Open * _random.Next(5, 30) / 1_000), one.Number),
                    one.CustomerId,
                    [(one.Id, one.Open)],
                    "less a fee"
                );
            case 18:
                return Alone(Money(one.WithEarly(day), one.Number), "early");
            default:
                return Alone(Money(one.Open, "sails", strange: true), "a stranger");
        }
    }

    /// <summary>Lines that look like something else than they are.</summary>
    private TrueLine Misleading(List<Owed> open, Owed one, Payer payer, DateOnly day)
    {
        TrueLine Line(
            string text,
            string how,
            string? name = null,
            string? account = null,
            DateOnly? on = null,
            string reference = ""
        ) =>
            new(
                new IncomingMoney(
                    on ?? day,
                    one.Open,
                    one.Currency,
                    text,
                    reference,
                    name ?? payer.Name.ToUpperInvariant(),
                    account ?? _accounts[one.CustomerId - 1]
                ),
                one.CustomerId,
                [(one.Id, one.Open)],
                how
            );
        var other = Payers[_random.Next(Payers.Count)];
        var twin = open.Find(o => o.CustomerId != one.CustomerId && o.Open == one.Open);
        switch (_random.Next(9))
        {
            // The number of something paid or unknown, while something else of that amount is open: nobody can know.
            case 0:
                return Nobody(Line($"INV-2024-{_random.Next(99_999):D5}", "another number"));
            case 1:
                return Nobody(
                    Line(
                        open.Count > 0 ? open[_random.Next(open.Count)].Number : "INV-2024-00001",
                        "a number of something else"
                    )
                );
            case 2:
                return Nobody(Line("deposit for the new main", "another kind of paper"));
            case 3:
                return Nobody(Line("", "another name on a known account", name: "Quite Different Holdings"));
            case 4:
                return Nobody(Line("payment", "money from before", on: one.Date.AddDays(-1)));
            // Somebody pays for somebody else from their own account, and says so or not.
            case 5 when other.CustomerId != one.CustomerId:
                return Line(one.Number, "paid by another", other.Name, _accounts[other.CustomerId - 1]);
            case 6 when other.CustomerId != one.CustomerId:
                return Line("", "paid by another, without a word", other.Name, _accounts[other.CustomerId - 1]);
            case 7 when twin is not null:
                return Line("payment", "equal amounts of two customers");
            default:
                return Line($"for {one.Number}7 or {one.Number}", "a number within another");
        }
    }

    /// <summary>What nobody could know: no proposal is right, so none may be sure.</summary>
    private static TrueLine Nobody(TrueLine line) => line with { CustomerId = 0, Parts = [] };

    private static Owed Take(List<Owed> open, int at)
    {
        var one = open[at];
        open.RemoveAt(at);
        return one;
    }

    /// <summary>One sign is another, or two neighbours change places.</summary>
    private string Mistyped(string text)
    {
        var signs = text.ToCharArray();
        var digits = Enumerable.Range(4, signs.Length - 4).Where(i => char.IsAsciiDigit(signs[i])).ToList();
        var at = digits[_random.Next(digits.Count)];
        if (_random.Next(2) == 0)
            signs[at] = (char)('0' + _random.Next(10));
        else if (at + 1 < signs.Length && char.IsAsciiDigit(signs[at + 1]))
            (signs[at], signs[at + 1]) = (signs[at + 1], signs[at]);
        return new string(signs);
    }

    private string Mangled(string name)
    {
        var at = 1 + _random.Next(name.Length - 2);
        return name.Remove(at, 1);
    }
}
