using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>
/// A small network of made-up receivers with a directory, kept beside this code. It checks what it gets by every rule on
/// its own; some receivers take it, some slowly, some refuse it for a named reason, and one has vanished.
/// </summary>
public sealed class AccessPointStandIn(BooksFile file, IEInvoiceFiles files) : IAccessPoint
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter() },
    };

    private readonly Lazy<IReadOnlyList<Entry>> _entries = new(Read);

    private sealed record Entry(
        string Scheme,
        string Number,
        string Name,
        string RegistrationNumber,
        string TaxNumber,
        EInvoiceSyntax[] Takes,
        string Behaves
    );

    private sealed record Delivery(
        string Key,
        DateOnly Day,
        string Scheme,
        string Number,
        string Invoice,
        string Lacks
    );

    public bool IsStandIn => true;

    private string Folder => Path.Combine(file.Folder, "network");

    public Task<NetworkReceiver?> FindAsync(string scheme, string number, CancellationToken stop) =>
        Task.FromResult(EntryOf(scheme, number) is { } entry ? Told(entry) : null);

    public Task<IReadOnlyList<NetworkReceiver>> SearchAsync(string registrationOrTaxNumber, CancellationToken stop)
    {
        var wanted = Plain(registrationOrTaxNumber);
        return Task.FromResult<IReadOnlyList<NetworkReceiver>>(
            wanted.Length < 4
                ? []
                :
                [
                    .. _entries
                        .Value.Where(e => Plain(e.RegistrationNumber) == wanted || Plain(e.TaxNumber) == wanted)
                        .Select(Told),
                ]
        );
    }

    public async Task<string> SendAsync(NetworkMessage message, CancellationToken stop)
    {
        if (EntryOf(message.Scheme, message.Number) is not { } entry)
            throw new CarrierException($"No receiver {message.Scheme}:{message.Number}.", CarrierFate.Refused);
        if (entry.Behaves == "vanished")
            throw new CarrierException(
                $"{entry.Name} is in the directory, and their access point does not know them any more.",
                CarrierFate.Refused
            );
        if (!entry.Takes.Contains(message.Syntax))
            throw new CarrierException($"{entry.Name} does not take this syntax.", CarrierFate.Refused);
        EInvoice invoice;
        try
        {
            invoice = files.Read(message.Content);
        }
        catch (RefusalException refused)
        {
            throw new CarrierException(refused.Message, CarrierFate.Refused, refused);
        }

        if (files.Check(message.Content) is [var breach, ..])
            throw new CarrierException($"{breach.Rule} at {breach.Place}: {breach.Problem}", CarrierFate.Refused);
        Directory.CreateDirectory(Folder);
        var place = Path.Combine(Folder, message.Key + ".json");
        // The same message once more is the same delivery.
        if (!File.Exists(place))
        {
            await File.WriteAllBytesAsync(Path.Combine(Folder, message.Key + ".xml"), message.Content, stop);
            var delivery = new Delivery(
                message.Key,
                DateOnly.FromDateTime(message.Date.DateTime),
                message.Scheme,
                message.Number,
                invoice.Number,
                Lacking(entry, invoice)
            );
            await File.WriteAllTextAsync(place, JsonSerializer.Serialize(delivery, Options), stop);
        }

        return $"Taken over for {entry.Name}, receipt {message.Key[..Math.Min(8, message.Key.Length)]}.";
    }

    public async Task<IReadOnlyList<ReceiversAnswer>> AnswersAsync(DateOnly until, CancellationToken stop)
    {
        if (!Directory.Exists(Folder))
            return [];
        var answers = new List<ReceiversAnswer>();
        foreach (var place in Directory.EnumerateFiles(Folder, "*.json").Order(StringComparer.Ordinal))
        {
            var delivery = JsonSerializer.Deserialize<Delivery>(await File.ReadAllTextAsync(place, stop), Options)!;
            answers.AddRange(OfReceiver(delivery));
        }

        return [.. answers.Where(a => a.Day <= until).OrderBy(a => a.Day)];
    }

    private IEnumerable<ReceiversAnswer> OfReceiver(Delivery delivery)
    {
        ReceiversAnswer Says(AnswerKind kind, int days, string reason = "") =>
            new(delivery.Key, $"{delivery.Key}-{kind}".ToLowerInvariant(), kind, reason, delivery.Day.AddDays(days));
        return EntryOf(delivery.Scheme, delivery.Number)?.Behaves switch
        {
            "slowly" => [Says(AnswerKind.InWork, 0), Says(AnswerKind.Taken, 3)],
            "pays" => [Says(AnswerKind.Taken, 0), Says(AnswerKind.Paid, 10)],
            "needs-order" or "needs-reference" when delivery.Lacks.Length > 0 =>
            [
                Says(AnswerKind.Refused, 0, delivery.Lacks),
            ],
            null => [],
            _ => [Says(AnswerKind.Taken, 0)],
        };
    }

    private static string Lacking(Entry entry, EInvoice invoice) =>
        entry.Behaves switch
        {
            "needs-order" when invoice.PurchaseOrder.Length == 0 =>
                "We pay nothing without the number of our order (BT-13).",
            "needs-reference" when invoice.BuyerReference.Length == 0 =>
                "Our reference (BT-10) is missing, and we do not know who ordered this.",
            _ => "",
        };

    private Entry? EntryOf(string scheme, string number) =>
        _entries.Value.FirstOrDefault(e =>
            e.Scheme == scheme && e.Number.Equals(number, StringComparison.OrdinalIgnoreCase)
        );

    private static NetworkReceiver Told(Entry entry) => new(entry.Scheme, entry.Number, entry.Name, entry.Takes);

    private static string Plain(string number) => string.Concat(number.Where(char.IsLetterOrDigit)).ToUpperInvariant();

    private static List<Entry> Read()
    {
        using var stream =
            typeof(AccessPointStandIn).Assembly.GetManifestResourceStream("Jugaad.Outside.network.json")
            ?? throw new InvalidOperationException("The directory of the network is not shipped.");
        return JsonSerializer.Deserialize<List<Entry>>(stream, Options)!;
    }
}
