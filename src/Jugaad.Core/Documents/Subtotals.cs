namespace Jugaad.Core.Documents;

/// <summary>What sections and subtotals come to, in minor units, in the price mode of the document.</summary>
public static class Subtotals
{
    /// <summary>
    /// One for each line, in their order: what a subtotal shows, what a section comes to, and nothing for all others.
    /// </summary>
    public static IReadOnlyList<long?> Of(IReadOnlyList<DocumentLine> lines)
    {
        var shown = new long?[lines.Count];
        var sum = 0L;
        var section = -1;
        for (var i = 0; i < lines.Count; i++)
        {
            var line = lines[i];
            switch (line.Role)
            {
                case LineRole.Section:
                    (section, sum, shown[i]) = (i, 0, 0);
                    break;
                case LineRole.Subtotal:
                    (shown[i], sum) = (sum, 0);
                    break;
                default:
                    if (!line.Counts)
                        break;
                    sum += line.Amount;
                    if (section >= 0)
                        shown[section] += line.Amount;
                    break;
            }
        }

        return shown;
    }
}
