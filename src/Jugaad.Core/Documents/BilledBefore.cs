using System.Globalization;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>What earlier stages billed of the same thing, which the tax of a stage goes on from.</summary>
/// <param name="Amount">Minor units, in the price mode of the document.</param>
/// <param name="Taxes">
/// What they charged of each component, apart by semicolons; empty where that is what the tax on
/// <paramref name="Amount"/> comes to. The two differ by a cent or so once a stage that others went on from was
/// cancelled.
/// </param>
public readonly record struct BilledBefore(long Amount, string Taxes = "")
{
    public static BilledBefore Nothing { get; } = new(0);

    public bool IsNothing => Amount == 0 && string.IsNullOrEmpty(Taxes);

    /// <summary>What was charged of each component of a treatment.</summary>
    public IReadOnlyList<long> Charged(Treatment treatment, bool includesTax) =>
        string.IsNullOrEmpty(Taxes)
            ? Calculator.TaxesOn(treatment, Amount, includesTax)
            : [.. Taxes.Split(';').Select(t => long.Parse(t, CultureInfo.InvariantCulture))];

    /// <summary>Adds up what earlier stages of one source billed with one treatment.</summary>
    public static BilledBefore By(IEnumerable<EarlierPart> stages, Treatment treatment, bool includesTax)
    {
        var amount = 0L;
        var charged = new long[treatment.Parts.Count];
        foreach (var document in stages.GroupBy(s => s.DocumentId))
        {
            // Only one line of a document notes what went before it; the others have nothing there.
            var before = document.Select(s => s.Before).FirstOrDefault(b => !b.IsNothing, Nothing);
            var now = document.Sum(s => s.Amount);
            var upTo = Calculator.TaxesOn(treatment, before.Amount + now, includesTax);
            var earlier = before.Charged(treatment, includesTax);
            // What was credited again counts as never billed, with its share of the tax.
            var credited = document.Sum(s => s.Credited);
            for (var i = 0; i < charged.Length; i++)
            {
                var own = upTo[i] - earlier[i];
                charged[i] += own - (credited == 0 || now == 0 ? 0 : Rounding.Share(own, credited, now));
            }

            amount += now - credited;
        }

        return new BilledBefore(
            amount,
            charged.SequenceEqual(Calculator.TaxesOn(treatment, amount, includesTax))
                ? ""
                : string.Join(';', charged.Select(c => c.ToString(CultureInfo.InvariantCulture)))
        );
    }
}
