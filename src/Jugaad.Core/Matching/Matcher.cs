using Jugaad.Core.Amounts;

namespace Jugaad.Core.Matching;

/// <summary>
/// Proposes what money that came in is for, with the reason in words. The same question always gets the same answer. It
/// is sure only where two things that do not hang together say the same: a reference or number, or a known payer, and
/// the exact amount, with nothing else that the money could be.
/// </summary>
public sealed class Matcher
{
    private readonly ILookup<int, Owed> _byCustomer;
    private readonly ILookup<(long, string), Owed> _byAmount;
    private readonly ILookup<(long, string), Expected> _expected;
    private readonly Dictionary<int, Payer> _customers;
    private readonly NumberIndex _numbers;
    private readonly PayerIndex _payers;
    private readonly DisplayFormat _format;
    private readonly ElsewhereMatcher? _elsewhere;
    private readonly Doubts _doubts;
    private readonly Dictionary<int, Owed> _owed;

    /// <param name="owed">All that is open.</param>
    /// <param name="expected">Receipts entered by hand for the account that the money came into.</param>
    /// <param name="format">How the reasons write amounts.</param>
    /// <param name="elsewhere">Looks at what is owed in other currencies; null where nothing is.</param>
    /// <param name="prefixes">The letters with which the business's numbers begin, so that those of other papers are
    /// known too.</param>
    public Matcher(
        IReadOnlyList<Owed> owed,
        IReadOnlyList<Payer> payers,
        IReadOnlyList<Expected> expected,
        DisplayFormat format,
        IReadOnlyList<string>? prefixes = null,
        ElsewhereMatcher? elsewhere = null
    )
    {
        _elsewhere = elsewhere;
        _owed = owed.ToDictionary(o => o.Id);
        _byCustomer = owed.OrderBy(o => o.Due)
            .ThenBy(o => o.Date)
            .ThenBy(o => o.Number, StringComparer.Ordinal)
            .ToLookup(o => o.CustomerId);
        _byAmount = owed.SelectMany(o =>
                new[] { o.Open, o.Open - o.Early }.Distinct().Select(a => (Amount: a, Owed: o))
            )
            .ToLookup(p => (p.Amount, p.Owed.Currency.Code), p => p.Owed);
        _expected = expected.ToLookup(e => (e.Amount, e.Currency.Code));
        _customers = payers.ToDictionary(p => p.CustomerId);
        _numbers = new NumberIndex(owed);
        _doubts = new Doubts(owed, prefixes ?? [], _numbers);
        _payers = new PayerIndex(payers);
        _format = format;
    }

    /// <summary>The best proposals, the best first; none where nothing speaks for anything.</summary>
    public IReadOnlyList<Proposal> Propose(IncomingMoney money)
    {
        var payers = _payers.Find(money.PayerName, money.PayerAccount);
        var proposals = new List<Proposal>();
        Joins(money, payers, proposals);
        ByReference(money, payers, proposals);
        ByNumbers(money, payers, proposals);
        if (proposals.Count == 0)
            _elsewhere?.Propose(money, payers, proposals);
        var named = proposals.Count;
        foreach (var (payer, how) in payers)
            ByPayer(money, payer, how, payers.Count == 1, proposals);
        if (proposals.Count == 0)
            ByAmountAlone(money, proposals);
        return Best([.. proposals.Select((p, i) => Doubted(money, p, byPayer: i >= named))]);
    }

    /// <summary>A sure one against which something speaks is likely, and says what that is.</summary>
    private Proposal Doubted(IncomingMoney money, Proposal proposal, bool byPayer)
    {
        if (proposal.Certainty != Certainty.Sure)
            return proposal;
        var fitting = _byAmount[(money.Amount, money.Currency.Code)]
            .Where(o => o.Open == money.Amount || o.WithEarly(money.Date) == money.Amount);
        return _doubts.Of(money, proposal, _customers[proposal.CustomerId], byPayer, fitting, _owed) is { } doubt
            ? proposal with
            {
                Certainty = Certainty.Likely,
                Why = $"{proposal.Why}; but {doubt}",
            }
            : proposal;
    }

    /// <summary>A sure one is sure only as long as no other says something else as strongly.</summary>
    private static List<Proposal> Best(List<Proposal> proposals)
    {
        var different = proposals
            .DistinctBy(p =>
                (
                    p.CustomerId,
                    p.JoinsReceiptId,
                    p.Credit,
                    p.Fee,
                    string.Join(',', p.Parts.OrderBy(x => x.ItemId).Select(x => $"{x.ItemId}:{x.Amount}"))
                )
            )
            .ToList();
        var sure = different.Where(p => p.Certainty == Certainty.Sure).ToList();
        if (sure.Count > 1)
            different = different.ConvertAll(p =>
                p.Certainty == Certainty.Sure ? p with { Certainty = Certainty.Likely } : p
            );
        return different.OrderBy(p => p.Certainty).Take(4).ToList();
    }

    private void Joins(
        IncomingMoney money,
        IReadOnlyList<(Payer Payer, PayerKnown How)> payers,
        List<Proposal> proposals
    )
    {
        var same = _expected[(money.Amount, money.Currency.Code)]
            .Where(e => Math.Abs(e.Date.DayNumber - money.Date.DayNumber) <= 10)
            .OrderBy(e => Math.Abs(e.Date.DayNumber - money.Date.DayNumber))
            .ThenBy(e => e.ReceiptId)
            .ToList();
        foreach (
            var receipt in same.Where(e => payers.Count == 0 || payers.Any(p => p.Payer.CustomerId == e.CustomerId))
                .Take(2)
        )
        {
            var known = payers.Any(p => p.Payer.CustomerId == receipt.CustomerId && p.How != PayerKnown.ByLikeName);
            var sure = known && same.Count == 1 && Math.Abs(receipt.Date.DayNumber - money.Date.DayNumber) <= 5;
            proposals.Add(
                new Proposal(
                    sure ? Certainty.Sure : Certainty.Likely,
                    receipt.CustomerId,
                    [],
                    0,
                    receipt.ReceiptId,
                    $"{receipt.Number} of {_format.Date(receipt.Date)}, entered by hand, is the same amount{(known ? " from the same payer" : "")}: the same money"
                )
            );
        }
    }

    private void ByReference(
        IncomingMoney money,
        IReadOnlyList<(Payer Payer, PayerKnown How)> payers,
        List<Proposal> proposals
    )
    {
        var found = _numbers
            .ByReference(money.Reference, money.Text)
            .Where(o => o.Currency.Equals(money.Currency))
            .ToList();
        if (found.Count == 0)
            return;
        Together(
            money,
            found,
            payers,
            found.Count == 1 ? $"our reference of {found[0].Number}" : $"our references of {Listed(found)}",
            true,
            proposals
        );
    }

    private void ByNumbers(
        IncomingMoney money,
        IReadOnlyList<(Payer Payer, PayerKnown How)> payers,
        List<Proposal> proposals
    )
    {
        var (whole, byDigits) = _numbers.ByNumber(money.Text);
        var named = whole.Where(o => o.Currency.Equals(money.Currency)).ToList();
        if (named.Count > 0)
            Together(money, named, payers, $"{Listed(named)} in the text", false, proposals);
        var likely = byDigits.Where(o => o.Currency.Equals(money.Currency)).ToList();
        if (named.Count == 0 && likely.Count > 0)
            Together(
                money,
                likely,
                payers,
                $"the digits of {Listed(likely)} in the text",
                false,
                proposals,
                weak: true
            );
    }

    /// <summary>What was named, taken together; where the amount is not theirs, as much of it as fits.</summary>
    private void Together(
        IncomingMoney money,
        List<Owed> named,
        IReadOnlyList<(Payer Payer, PayerKnown How)> payers,
        string why,
        bool checkedByDigits,
        List<Proposal> proposals,
        bool weak = false
    )
    {
        var several = named.DistinctBy(o => o.CustomerId).Count() > 1;
        if (several)
        {
            // Numbers of several customers: whoever the payer is says which of them are meant.
            named = named.Where(o => payers.Any(p => p.Payer.CustomerId == o.CustomerId)).ToList();
            if (named.DistinctBy(o => o.CustomerId).Count() != 1)
                return;
        }

        var customer = named[0].CustomerId;
        var confirmed = payers.Any(p =>
            p.Payer.CustomerId == customer && (p.How != PayerKnown.ByLikeName || payers.Count == 1)
        );
        var contradicted = payers.Count > 0 && !payers.Any(p => p.Payer.CustomerId == customer);
        if (Exactly(money, named) is { } exact)
        {
            // A mistyped number may be another that is open with the same amount; check digits rule that out.
            var twin =
                !checkedByDigits
                && _byCustomer[customer]
                    .Any(o =>
                        !named.Contains(o)
                        && named.Exists(n => n.Open == o.Open || n.WithEarly(money.Date) == o.WithEarly(money.Date))
                    );
            var certain = !contradicted && !weak && !several && (checkedByDigits || (confirmed && !twin));
            proposals.Add(
                new Proposal(
                    certain ? Certainty.Sure : Certainty.Likely,
                    customer,
                    exact.Parts,
                    0,
                    null,
                    $"{why}, and the amount is exact{exact.Early}{(contradicted ? $"; but the payer looks like {payers[0].Payer.Name}" : confirmed ? $"; the payer is {_customers[customer].Name}" : "")}"
                )
            );
            return;
        }

        if (FeeOf(named, money.Amount) is { } fee)
        {
            proposals.Add(
                new Proposal(
                    weak ? Certainty.Possible : Certainty.Likely,
                    customer,
                    named.ConvertAll(o => new ProposedPart(o.Id, o.Number, o.Open, false)),
                    0,
                    null,
                    $"{why}, less {FeeWords(fee, money)}"
                )
                {
                    Fee = fee,
                }
            );
            return;
        }

        var (parts, left) = AsFarAsItReaches(money.Amount, named);
        proposals.Add(
            new Proposal(
                contradicted || weak ? Certainty.Possible : Certainty.Likely,
                customer,
                parts,
                left,
                null,
                left > 0
                    ? $"{why}; {_format.WithCode(left, money.Currency)} is over and stays as credit"
                    : $"{why}; it is a part of what is open"
            )
        );
    }

    private void ByPayer(IncomingMoney money, Payer payer, PayerKnown how, bool only, List<Proposal> proposals)
    {
        var owed = _byCustomer[payer.CustomerId].Where(o => o.Currency.Equals(money.Currency)).ToList();
        var who = how switch
        {
            PayerKnown.ByAccount => $"money from this account was {payer.Name}'s before",
            PayerKnown.ByName => $"the payer is {payer.Name} by name",
            _ => $"the payer's name is like {payer.Name}",
        };
        if (!payer.Currencies.Contains(money.Currency))
            return;
        var alone = owed.Where(o => o.Open == money.Amount || o.WithEarly(money.Date) == money.Amount).ToList();
        var sums = Sums.Of(owed.ConvertAll(o => o.Open), money.Amount);
        foreach (var one in alone.Take(2))
        {
            var early = one.Open != money.Amount;
            // Known by the account, and nothing else of theirs comes to the amount: then it can be nothing else.
            var certain =
                how == PayerKnown.ByAccount && only && alone.Count == 1 && sums.Count == 0 && owed.Count <= Sums.Most;
            var among = alone.Count > 1 ? ", one of several of that amount" : "";
            proposals.Add(
                new Proposal(
                    certain ? Certainty.Sure : Certainty.Likely,
                    payer.CustomerId,
                    [new ProposedPart(one.Id, one.Number, money.Amount, early)],
                    0,
                    null,
                    $"{who}, and {one.Number} is open with exactly this amount{(early ? " less the early-payment discount" : "")}{among}"
                )
            );
        }

        foreach (var sum in sums.Take(alone.Count == 0 ? 2 : 1))
        {
            var parts = sum.Select(i => owed[i]).ToList();
            proposals.Add(
                new Proposal(
                    alone.Count > 0 || sums.Count > 1 ? Certainty.Possible : Certainty.Likely,
                    payer.CustomerId,
                    parts.ConvertAll(o => new ProposedPart(o.Id, o.Number, o.Open, false)),
                    0,
                    null,
                    $"{who}, and {Listed(parts)} come to exactly this amount together"
                )
            );
        }

        if (alone.Count > 0 || sums.Count > 0)
            return;
        var withEarly = owed.Where(o => o.WithEarly(money.Date) != o.Open).ToList();
        if (withEarly.Count > 1 && withEarly.Sum(o => o.WithEarly(money.Date)) == money.Amount)
        {
            proposals.Add(
                new Proposal(
                    Certainty.Likely,
                    payer.CustomerId,
                    withEarly.ConvertAll(o => new ProposedPart(o.Id, o.Number, o.WithEarly(money.Date), true)),
                    0,
                    null,
                    $"{who}, and {Listed(withEarly)} come to this amount, each less its early-payment discount"
                )
            );
            return;
        }

        if (owed.Where(o => FeeOf([o], money.Amount) is not null).ToList() is [var netted])
        {
            proposals.Add(
                new Proposal(
                    Certainty.Possible,
                    payer.CustomerId,
                    [new ProposedPart(netted.Id, netted.Number, netted.Open, false)],
                    0,
                    null,
                    $"{who}, and {netted.Number} is open with this amount and {FeeWords(netted.Open - money.Amount, money)} more"
                )
                {
                    Fee = netted.Open - money.Amount,
                }
            );
        }

        var (oldest, left) = AsFarAsItReaches(money.Amount, owed);
        // Who owes in another currency as well does not owe "nothing", nor is "all" paid.
        var inIt = _byCustomer[payer.CustomerId].Count() > owed.Count ? $" in {money.Currency.Code}" : "";
        proposals.Add(
            new Proposal(
                how == PayerKnown.ByAccount ? Certainty.Likely : Certainty.Possible,
                payer.CustomerId,
                oldest,
                left,
                null,
                owed.Count == 0 ? $"{who}, who owes nothing{inIt} now: it stays as credit"
                    : left > 0
                        ? $"{who}; all that they owe{inIt} is paid, and {_format.WithCode(left, money.Currency)} stays as credit"
                    : $"{who}; no invoice has this amount, so the oldest are paid first"
            )
        );
    }

    private void ByAmountAlone(IncomingMoney money, List<Proposal> proposals)
    {
        var same = _byAmount[(money.Amount, money.Currency.Code)]
            .Where(o => o.Open == money.Amount || o.WithEarly(money.Date) == money.Amount)
            .Distinct()
            .ToList();
        if (same.Count is 0 or > 3)
            return;
        foreach (var one in same)
        {
            proposals.Add(
                new Proposal(
                    Certainty.Possible,
                    one.CustomerId,
                    [new ProposedPart(one.Id, one.Number, money.Amount, one.Open != money.Amount)],
                    0,
                    null,
                    $"{one.Number} of {_customers[one.CustomerId].Name} is {(same.Count == 1 ? "the only one" : "one of the few")} open with exactly this amount"
                )
            );
        }
    }

    /// <summary>
    /// Up to how much of an amount, in thousandths, is taken for a fee that a bank or card company kept.
    /// </summary>
    private const long MostFee = 35;

    /// <returns>What is missing from what was owed, where it is as much as a fee may be, and is not a discount that was
    /// taken too late; null otherwise.</returns>
    private static long? FeeOf(List<Owed> owed, long came)
    {
        var missing = owed.Sum(o => o.Open) - came;
        return missing > 0 && missing * 1_000 <= owed.Sum(o => o.Open) * MostFee && missing != owed.Sum(o => o.Early)
            ? missing
            : null;
    }

    private string FeeWords(long fee, IncomingMoney money) =>
        $"{_format.WithCode(fee, money.Currency)} that a bank or card company may have kept";

    private static (IReadOnlyList<ProposedPart> Parts, string Early)? Exactly(IncomingMoney money, List<Owed> named)
    {
        if (named.Sum(o => o.Open) == money.Amount)
            return (named.ConvertAll(o => new ProposedPart(o.Id, o.Number, o.Open, false)), "");
        if (named.Sum(o => o.WithEarly(money.Date)) == money.Amount)
            return (
                named.ConvertAll(o => new ProposedPart(
                    o.Id,
                    o.Number,
                    o.WithEarly(money.Date),
                    o.WithEarly(money.Date) != o.Open
                )),
                " with the early-payment discount"
            );
        return null;
    }

    private static (IReadOnlyList<ProposedPart> Parts, long Left) AsFarAsItReaches(long amount, IEnumerable<Owed> owed)
    {
        var parts = new List<ProposedPart>();
        foreach (var one in owed)
        {
            if (amount == 0)
                break;
            var part = Math.Min(amount, one.Open);
            parts.Add(new ProposedPart(one.Id, one.Number, part, false));
            amount -= part;
        }

        return (parts, amount);
    }

    private static string Listed(List<Owed> owed) =>
        owed.Count switch
        {
            1 => owed[0].Number,
            <= 4 => string.Join(", ", owed.SkipLast(1).Select(o => o.Number)) + " and " + owed[^1].Number,
            _ => $"{owed[0].Number}, {owed[1].Number} and {owed.Count - 2} more",
        };
}
