namespace Jugaad.Core.Returns;

/// <summary>What became of what a filed return asks for; minor units of the home currency.</summary>
/// <param name="Owed">What it asks for; below zero for what comes back.</param>
/// <param name="Charged">What the authority charged besides.</param>
/// <param name="Paid">What was paid, less what came back.</param>
/// <param name="Over">What of it was paid knowingly beyond what was left.</param>
/// <param name="CarriedIn">What other returns left over that was set against it.</param>
/// <param name="CarriedOut">What it left over that was set against other returns.</param>
public sealed record ReturnBalance(long Owed, long Charged, long Paid, long Over, long CarriedIn, long CarriedOut)
{
    /// <summary>What is left to be paid; below zero for what is to come back or to be carried on.</summary>
    public long Left => Owed + Charged - Paid - CarriedIn + CarriedOut;

    /// <summary>Whether more was paid of it than it asks for.</summary>
    public bool IsOverpaid => Owed + Charged >= 0 && Left < 0;

    /// <summary>Sets what is left over against what others ask for, in their order.</summary>
    /// <param name="over">What is left over, above zero.</param>
    /// <param name="left">What is left of each, above zero.</param>
    public static IEnumerable<(int Return, long Amount)> Spread(long over, IEnumerable<(int Return, long Left)> left)
    {
        foreach (var (one, open) in left)
        {
            var amount = Math.Min(over, open);
            if (amount <= 0)
                yield break;
            yield return (one, amount);
            over -= amount;
        }
    }
}
