using Jugaad.Core.Trade;

namespace Jugaad.Core.Matching;

/// <summary>
/// What speaks against being sure, although much speaks for it: a number of something else in the text, a name that is
/// not the known account's, money from before the invoice, a word that means another kind of paper, or others that the
/// money would fit.
/// </summary>
internal sealed class Doubts
{
    /// <summary>
    /// Words for papers and payments that are not invoices being paid, in the languages in which payers write here.
    /// </summary>
    private static readonly string[] OtherKinds =
    [
        "deposit",
        "prepayment",
        "prepaid",
        "advance",
        "downpayment",
        "quote",
        "quotation",
        "offer",
        "order",
        "proforma",
        "refund",
        "credit",
        "return",
        "ettemaks",
        "pakkumine",
        "tellimus",
        "ennakko",
        "tarjous",
        "tilaus",
        "anzahlung",
        "vorkasse",
        "angebot",
        "auftrag",
        "gutschrift",
        "forskott",
        "offert",
        "forskudd",
        "tilbud",
        "acompte",
        "devis",
        "commande",
        "avoir",
    ];

    private readonly HashSet<string> _prefixes;
    private readonly HashSet<int> _plainLengths;
    private readonly NumberIndex _numbers;

    /// <param name="prefixes">The letters with which the business's numbers begin.</param>
    internal Doubts(IReadOnlyList<Owed> owed, IEnumerable<string> prefixes, NumberIndex numbers)
    {
        var plain = owed.Select(o => StructuredReference.Plain(o.Number)).ToList();
        _prefixes = prefixes
            .Concat(plain)
            .Select(p => string.Concat(StructuredReference.Plain(p).TakeWhile(char.IsAsciiLetter)))
            .Where(p => p.Length >= 2)
            .ToHashSet();
        // Numbers without letters are known by how long they are.
        _plainLengths = plain.Where(p => p.All(char.IsAsciiDigit) && p.Length >= 5).Select(p => p.Length).ToHashSet();
        _numbers = numbers;
    }

    /// <returns>What speaks against it, in words; null where nothing does.</returns>
    /// <param name="fitting">Open items that have exactly this amount, whoever owes them.</param>
    /// <param name="byPayer">Whether only the payer and the amount speak for it.</param>
    internal string? Of(
        IncomingMoney money,
        Proposal proposal,
        Payer payer,
        bool byPayer,
        IEnumerable<Owed> fitting,
        IReadOnlyDictionary<int, Owed> owed
    )
    {
        if (AnotherNumber(money, proposal) is { } number)
            return $"the text names {number} too";
        if (OtherKind(money.Text) is { } word)
            return $"the text says “{word}”";
        if (IsKnownOtherwise(money, payer))
            return $"the account is {payer.Name}'s, and the name is not";
        if (proposal.Parts.FirstOrDefault(p => owed[p.ItemId].Date > money.Date) is { } early)
            return $"the money came before {early.Number} was written";
        return byPayer && fitting.Any(o => o.CustomerId != proposal.CustomerId)
            ? "another customer has exactly this amount open"
            : null;
    }

    /// <summary>
    /// A number or reference of ours in the text that is not of what is proposed: open, paid or unknown.
    /// </summary>
    private string? AnotherNumber(IncomingMoney money, Proposal proposal)
    {
        var own = proposal.Parts.Select(p => StructuredReference.Plain(p.Number)).ToHashSet();
        var references = proposal
            .Parts.Select(p => StructuredReference.Of(p.Number))
            .Where(r => r.Length > 0)
            .ToHashSet();
        var (whole, byDigits) = _numbers.ByNumber($"{money.Text} {money.Reference}");
        if (
            whole.Concat(byDigits).FirstOrDefault(o => !own.Contains(StructuredReference.Plain(o.Number))) is { } other
            && !own.Any(n => n.Contains(StructuredReference.Plain(other.Number), StringComparison.Ordinal))
        )
            return other.Number;
        if (
            _numbers
                .ByReference(money.Reference, money.Text)
                .FirstOrDefault(o => !own.Contains(StructuredReference.Plain(o.Number))) is
            { } referred
        )
            return referred.Number;
        foreach (var text in new[] { money.Text, money.Reference })
        {
            var chunks = NumberIndex.Chunks(text);
            for (var i = 0; i < chunks.Count; i++)
            {
                var (longest, taken) = Longest(chunks, i);
                if (longest is null)
                    continue;
                if (!own.Contains(longest) && !references.Contains(longest))
                    return longest;
                i += taken - 1;
            }
        }

        return null;
    }

    /// <summary>The longest run of chunks from a place on that looks like a number or reference of ours.</summary>
    private (string? Number, int Chunks) Longest(List<string> chunks, int from)
    {
        string? found = null;
        var taken = 0;
        var joined = "";
        for (var k = from; k < chunks.Count && k < from + 4; k++)
        {
            joined += chunks[k];
            if (!LooksLikeOurs(joined))
                continue;
            (found, taken) = (joined, k - from + 1);
        }

        return (found, taken);
    }

    private bool LooksLikeOurs(string text)
    {
        var letters = string.Concat(text.TakeWhile(char.IsAsciiLetter));
        var digits = text[letters.Length..];
        if (digits.Length < 3 || !digits.All(char.IsAsciiDigit))
            return false;
        return letters.Length == 0 ? _plainLengths.Contains(digits.Length) : _prefixes.Contains(letters);
    }

    private static string? OtherKind(string text) =>
        Alike.Words(text).FirstOrDefault(w => OtherKinds.Contains(w, StringComparer.Ordinal));

    /// <summary>
    /// Money from a known account under a name that is neither the customer's nor one that was learned with it.
    /// </summary>
    private static bool IsKnownOtherwise(IncomingMoney money, Payer payer)
    {
        if (
            money.PayerName.Trim().Length == 0
            || !payer.Accounts.Any(a => StructuredReference.Plain(a) == StructuredReference.Plain(money.PayerAccount))
        )
            return false;
        return payer
            .Names.Append(payer.Name)
            .Append(payer.OtherName)
            .Where(n => n.Length > 0)
            .All(n => Alike.Nearness(n, money.PayerName) < Alike.Near);
    }
}
