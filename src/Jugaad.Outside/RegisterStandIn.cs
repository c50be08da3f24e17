using System.Text.Json;
using Jugaad.Core.Trade;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>
/// A small business register of made-up businesses, kept beside this code. It finds as a real one would: by number, or
/// by part of a name.
/// </summary>
public sealed class RegisterStandIn : IBusinessRegister
{
    private const int Most = 10;

    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web);
    private readonly Lazy<IReadOnlyList<RegisterEntry>> _entries = new(Read);

    /// <summary>All that the register knows.</summary>
    public IReadOnlyList<RegisterEntry> All => _entries.Value;

    /// <inheritdoc/>
    public bool IsStandIn => true;

    public Task<IReadOnlyList<RegisterEntry>> FindAsync(string text, string country, CancellationToken stop)
    {
        var wanted = text.Trim();
        if (wanted.Length < 2)
            return Task.FromResult<IReadOnlyList<RegisterEntry>>([]);
        var number = string.Concat(wanted.Where(char.IsLetterOrDigit)).ToUpperInvariant();
        IReadOnlyList<RegisterEntry> found = All.Where(e => country.Length == 0 || e.Address.Country == country)
            .Select(e => (Entry: e, Score: Score(e, wanted, number)))
            .Where(e => e.Score > 0)
            .OrderByDescending(e => e.Score)
            .ThenBy(e => e.Entry.Name, StringComparer.Ordinal)
            .Take(Most)
            .Select(e => e.Entry)
            .ToList();
        return Task.FromResult(found);
    }

    private static double Score(RegisterEntry entry, string wanted, string number)
    {
        if (Plain(entry.RegistrationNumber) == number || Plain(entry.TaxNumber) == number)
            return 3;
        if (entry.Name.Contains(wanted, StringComparison.OrdinalIgnoreCase))
            return 2;
        var nearness = Alike.Nearness(entry.Name, wanted);
        return nearness >= 0.5 ? nearness : 0;
    }

    private static string Plain(string number) => string.Concat(number.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    private static List<RegisterEntry> Read()
    {
        using var stream =
            typeof(RegisterStandIn).Assembly.GetManifestResourceStream("Jugaad.Outside.register.json")
            ?? throw new InvalidOperationException("The register's data is not shipped.");
        return JsonSerializer.Deserialize<List<RegisterEntry>>(stream, Options)!;
    }
}
