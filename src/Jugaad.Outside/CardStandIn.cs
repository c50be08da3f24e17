using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>
/// Stands in for a service that takes cards: its page is played by whoever sits before it, what it tells is signed,
/// and told again until it is taken; two days after a payment it pays out, less a fee. What it knows lies in a file of
/// its own, as another's books would.
/// </summary>
public sealed class CardStandIn(BooksFile file) : ICardService, ICardPage
{
    /// <summary>Of each payment, half away from zero, in percent.</summary>
    public const decimal FeePercent = 1.4m;

    /// <summary>Of each payment, in minor units.</summary>
    public const long FeeFixed = 25;

    private const int DaysToPayout = 2;

    private static readonly JsonSerializerOptions Shape = new(JsonSerializerDefaults.Web);

    private readonly Lock _turn = new();

    private sealed record Payment(string Id, string Key, CardAsk Ask, string Currency)
    {
        public CardNews? News { get; set; }

        public DateOnly? Day { get; set; }

        public bool PaidOut { get; set; }

        public List<Back> Backs { get; init; } = [];
    }

    private sealed record Back(string Id, string Key, long Amount, DateOnly Day)
    {
        public bool PaidOut { get; set; }
    }

    private sealed record Told(string Key, string Body, DateOnly Day)
    {
        public bool Taken { get; set; }
    }

    private sealed class Known
    {
        public List<Payment> Payments { get; init; } = [];

        public List<Told> Told { get; init; } = [];

        public int Payouts { get; set; }
    }

    /// <summary>What goes over the line: the words of <see cref="CardTold"/>, as JSON.</summary>
    private sealed record Wire(
        string Key,
        string News,
        string About,
        long Amount,
        string Currency,
        DateOnly Day,
        IReadOnlyList<CardToldPart>? Parts
    );

    /// <summary>A currency as its code.</summary>
    private sealed class CurrencyAsCode : System.Text.Json.Serialization.JsonConverter<Currency>
    {
        public override Currency Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            Currency.Of(reader.GetString()!);

        public override void Write(Utf8JsonWriter writer, Currency value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Code);
    }

    static CardStandIn() => Shape.Converters.Add(new CurrencyAsCode());

    /// <inheritdoc/>
    public bool IsStandIn => true;

    private string Place => Path.Combine(file.Folder, "cards", "payments.json");

    /// <inheritdoc/>
    public Task<CardAsked> AskAsync(CardAsk ask, string secret, CancellationToken stop) =>
        Task.FromResult(
            Change(known =>
            {
                var payment = known.Payments.Find(p => p.Key == ask.Key);
                if (payment is null)
                    known.Payments.Add(
                        payment = new Payment(
                            $"CP{Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(ask.Key)))[..20]}",
                            ask.Key,
                            ask,
                            ask.Currency.Code
                        )
                    );
                return new CardAsked(payment.Id, $"/card-stand-in/{payment.Id}");
            })
        );

    /// <inheritdoc/>
    public CardTold Read(CardMessage message, string secret)
    {
        var right = Sign(message.Body, secret);
        if (
            !CryptographicOperations.FixedTimeEquals(
                Encoding.ASCII.GetBytes(right),
                Encoding.ASCII.GetBytes(message.Signature.Trim().ToLowerInvariant())
            )
        )
            throw new RefusalException("signature", "The signature is not right. Nothing was done.");
        try
        {
            var wire =
                JsonSerializer.Deserialize<Wire>(message.Body, Shape)
                ?? throw new RefusalException("", "Nothing was told.");
            return
                Enum.TryParse<CardNews>(wire.News, out var news)
                && Enum.IsDefined(news)
                && wire is { Key.Length: > 0 and <= 100, About.Length: > 0 and <= 100, Currency: not null }
                ? new CardTold(wire.Key, news, wire.About, wire.Amount, wire.Currency, wire.Day, wire.Parts ?? [])
                : throw new RefusalException("", "This tells nothing that we know.");
        }
        catch (JsonException)
        {
            throw new RefusalException("", "This is not what the service tells.");
        }
    }

    /// <inheritdoc/>
    public Task<string> PayBackAsync(
        string serviceId,
        long amount,
        string key,
        DateOnly day,
        string secret,
        CancellationToken stop
    ) =>
        Task.FromResult(
            Change(known =>
            {
                var payment =
                    known.Payments.Find(p => p.Id == serviceId && p.News == CardNews.Paid)
                    ?? throw new CarrierException("There is no such payment.", CarrierFate.Refused);
                if (payment.Backs.Find(b => b.Key == key) is { } before)
                    return before.Amount == amount
                        ? before.Id
                        : throw new CarrierException(
                            $"When this was asked before, {new Money(before.Amount, Currency.Of(payment.Currency))} {payment.Currency} was paid back. Pay just that back to have it booked.",
                            CarrierFate.Refused
                        );
                if (amount <= 0 || amount > payment.Ask.Amount - payment.Backs.Sum(b => b.Amount))
                    throw new CarrierException("That is more than was paid.", CarrierFate.Refused);
                var back = new Back($"{payment.Id}-B{payment.Backs.Count + 1}", key, amount, day);
                payment.Backs.Add(back);
                Tell(
                    known,
                    new Wire(back.Id, nameof(CardNews.PaidBack), payment.Id, amount, payment.Currency, day, null)
                );
                return back.Id;
            })
        );

    /// <inheritdoc/>
    public Task<IReadOnlyList<CardMessage>> MissedAsync(DateOnly today, string secret, CancellationToken stop) =>
        Task.FromResult(
            Change(known =>
            {
                PayOut(known, today);
                return (IReadOnlyList<CardMessage>)
                    [.. known.Told.Where(t => !t.Taken && t.Day <= today).Select(t => Signed(t, secret))];
            })
        );

    /// <inheritdoc/>
    public Task TakenAsync(string key, CancellationToken stop)
    {
        Change(known =>
        {
            foreach (var told in known.Told.Where(t => t.Key == key))
                told.Taken = true;
            return 0;
        });
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public PlayedPayment? Find(string id) =>
        Change(known =>
            known.Payments.Find(p => p.Id == id) is { } payment
                ? new PlayedPayment(
                    payment.Id,
                    payment.Ask.Payee,
                    payment.Ask.Purpose,
                    payment.Ask.Amount,
                    payment.Currency,
                    payment.Ask.ReturnTo,
                    payment.News == CardNews.Paid
                )
                : null
        );

    /// <inheritdoc/>
    public CardMessage? Play(string id, CardNews news, DateOnly day, string secret) =>
        Change(known =>
        {
            // Whoever was declined or turned back may try again; what is paid is paid.
            if (known.Payments.Find(p => p.Id == id) is not { News: not CardNews.Paid } payment)
                return null;
            (payment.News, payment.Day) = (news, day);
            var tries = known.Told.Count(t => t.Key.StartsWith(payment.Id + "-N", StringComparison.Ordinal));
            return Signed(
                Tell(
                    known,
                    new Wire(
                        $"{payment.Id}-N{tries + 1}",
                        news.ToString(),
                        payment.Id,
                        payment.Ask.Amount,
                        payment.Currency,
                        day,
                        null
                    )
                ),
                secret
            );
        });

    /// <summary>What was paid two days ago, and what was paid back since, goes to the bank.</summary>
    private static void PayOut(Known known, DateOnly today)
    {
        var due = today.AddDays(-DaysToPayout);
        var parts = new List<CardToldPart>();
        var tries = new HashSet<string>(StringComparer.Ordinal);
        foreach (var payment in known.Payments.Where(p => p.News == CardNews.Paid && p.Day <= due))
        {
            // What nobody asked for, as a try of the set-up, is no part of anybody's books.
            if (payment.Key.StartsWith("try-", StringComparison.Ordinal))
                continue;
            if (!payment.PaidOut)
            {
                parts.Add(
                    new CardToldPart(
                        payment.Id,
                        payment.Ask.Amount,
                        Rounding.Percent(payment.Ask.Amount, FeePercent) + FeeFixed
                    )
                );
                tries.Add(payment.Id);
            }

            foreach (var back in payment.Backs.Where(b => !b.PaidOut && b.Day <= due))
            {
                parts.Add(new CardToldPart(payment.Id, -back.Amount, 0));
                tries.Add(back.Id);
            }
        }

        var net = parts.Sum(p => p.Amount - p.Fee);
        // What is owed to the service waits for payments to come.
        if (net <= 0)
            return;
        foreach (var payment in known.Payments)
        {
            payment.PaidOut |= tries.Contains(payment.Id);
            foreach (var back in payment.Backs)
                back.PaidOut |= tries.Contains(back.Id);
        }

        // Told apart also from those of before this file was begun.
        var first = Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(parts[0].About)))[..4];
        var reference = $"KM{today:yyMMdd}{first}{++known.Payouts % 100:D2}";
        Tell(
            known,
            new Wire(
                reference,
                nameof(CardNews.PaidOut),
                reference,
                net,
                known.Payments.First(p => p.Id == parts[0].About).Currency,
                today,
                parts
            )
        );
    }

    private static Told Tell(Known known, Wire wire)
    {
        var told = new Told(wire.Key, JsonSerializer.Serialize(wire, Shape), wire.Day);
        known.Told.Add(told);
        return told;
    }

    private static CardMessage Signed(Told told, string secret)
    {
        var body = Encoding.UTF8.GetBytes(told.Body);
        return new CardMessage(body, Sign(body, secret));
    }

    /// <summary>HMAC-SHA256 over the body, in lower hexadecimal.</summary>
    public static string Sign(byte[] body, string secret) =>
        Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), body));

    private T Change<T>(Func<Known, T> change)
    {
        lock (_turn)
        {
            var known = File.Exists(Place)
                ? JsonSerializer.Deserialize<Known>(File.ReadAllBytes(Place), Shape) ?? new Known()
                : new Known();
            var answer = change(known);
            OwnersOnly.Folder(Directory.CreateDirectory(Path.GetDirectoryName(Place)!).FullName);
            File.WriteAllBytes(Place + ".part", JsonSerializer.SerializeToUtf8Bytes(known, Shape));
            File.Move(Place + ".part", Place, overwrite: true);
            return answer;
        }
    }
}
