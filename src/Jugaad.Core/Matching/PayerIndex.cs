using Jugaad.Core.Trade;

namespace Jugaad.Core.Matching;

/// <summary>How well it is known whose money it is.</summary>
internal enum PayerKnown
{
    /// <summary>By the account that their money came from before.</summary>
    ByAccount,

    /// <summary>By the same name, signs and legal forms aside.</summary>
    ByName,

    /// <summary>By a name like it.</summary>
    ByLikeName,
}

/// <summary>Finds customers by the account or the name that money comes from.</summary>
internal sealed class PayerIndex
{
    private readonly Dictionary<string, List<Payer>> _accounts = [];
    private readonly Dictionary<string, List<Payer>> _words = [];
    private readonly Dictionary<string, IReadOnlyList<(Payer, PayerKnown)>> _asked = [];

    internal PayerIndex(IEnumerable<Payer> payers)
    {
        foreach (var payer in payers)
        {
            foreach (var account in payer.Accounts)
                Add(_accounts, StructuredReference.Plain(account), payer);
            foreach (var word in NamesOf(payer).SelectMany(Alike.Words).Where(w => w.Length > 2).Distinct())
                Add(_words, word, payer);
        }
    }

    /// <summary>Who it may be, the best known first; all are equally well known.</summary>
    internal IReadOnlyList<(Payer Payer, PayerKnown How)> Find(string name, string account)
    {
        if (_accounts.TryGetValue(StructuredReference.Plain(account), out var known))
            return known.ConvertAll(p => (p, PayerKnown.ByAccount));
        if (name.Trim().Length == 0)
            return [];
        return _asked.TryGetValue(name, out var before) ? before : _asked[name] = ByName(name);
    }

    private IReadOnlyList<(Payer, PayerKnown)> ByName(string name)
    {
        var words = Alike.Words(name).ToHashSet();
        var near = words.SelectMany(w => _words.GetValueOrDefault(w) ?? []).Distinct().ToList();
        var same = near.Where(p => NamesOf(p).Any(n => words.SetEquals(Alike.Words(n)))).ToList();
        if (same.Count > 0)
            return same.ConvertAll(p => (p, PayerKnown.ByName));
        return near.Select(p => (Payer: p, Nearness: NamesOf(p).Max(n => Alike.Nearness(name, n))))
            .Where(p => p.Nearness >= Alike.Near)
            .OrderByDescending(p => p.Nearness)
            .ThenBy(p => p.Payer.CustomerId)
            .Take(3)
            .Select(p => (p.Payer, PayerKnown.ByLikeName))
            .ToList();
    }

    private static IEnumerable<string> NamesOf(Payer payer) =>
        payer.Names.Append(payer.Name).Append(payer.OtherName).Where(n => n.Length > 0);

    private static void Add(Dictionary<string, List<Payer>> index, string key, Payer payer)
    {
        if (key.Length == 0)
            return;
        if (!index.TryGetValue(key, out var list))
            index[key] = list = [];
        if (!list.Contains(payer))
            list.Add(payer);
    }
}
