using System.Security.Cryptography;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Journal;
using Jugaad.Core.Paying;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Paying;

/// <summary>How customers can pay online, as it was typed.</summary>
/// <param name="Secret">The key that signs what the service tells; empty to keep the one that there is.</param>
/// <param name="SurchargeFixed">Minor units of the home currency.</param>
public sealed record PayingToSet(
    string Pattern,
    bool Card,
    int? ClearingAccountId,
    string Secret,
    decimal SurchargePercent,
    long SurchargeFixed,
    int? SurchargeAccountId
);

/// <summary>Says how customers can pay online.</summary>
public sealed class PaySetup(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    ISecretKeeper secrets,
    ICardService service
)
{
    private const int ShortestSecret = 16;

    public Task<int> SetAsync(PayingToSet typed, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var refusals = new Refusals();
                PayPattern.Check(refusals, "pattern", typed.Pattern.Trim());
                var settings = await db.PayingSettings.FirstOrDefaultAsync(stop);
                if (settings is null)
                    db.PayingSettings.Add(settings = new PayingSettings());
                var secret = typed.Secret.Trim();
                if (secret.Length is > 0 and (< ShortestSecret or > 200))
                    refusals.Add("secret", $"A signing key has {ShortestSecret} to 200 characters.");
                if (typed.Card && secret.Length == 0 && settings.ProtectedSecret.Length == 0 && !service.IsStandIn)
                    refusals.Add("secret", "Give the key with which the service signs what it tells.");
                if (
                    typed.ClearingAccountId is { } clearing
                    && !await db.LedgerAccounts.AnyAsync(
                        a => a.Id == clearing && a.Role == AccountRole.Money && a.Kind == MoneyKind.CardClearing,
                        stop
                    )
                )
                    refusals.Add("clearing", "Choose a money account of the kind card clearing.");
                if (typed.Card && typed.ClearingAccountId is null && await ClearingAsync(stop) is null)
                    refusals.Add(
                        "clearing",
                        "There is no account for card clearing. Add one under Setup, accounts, first."
                    );
                if (typed.Card && (await head.BusinessAsync(stop)).FeeAccountId is null)
                    refusals.Add(
                        "card",
                        "Say under Setup, ways of payment and closing, on which account fees go that card companies keep; then take cards."
                    );
                if (
                    typed.SurchargeAccountId is { } account
                    && !await db.LedgerAccounts.AnyAsync(
                        a => a.Id == account && a.Role == AccountRole.Sales && !a.Retired,
                        stop
                    )
                )
                    refusals.Add("surchargeAccount", "Choose a sales account.");
                refusals.Try(() =>
                    settings.Charge(typed.SurchargePercent, typed.SurchargeFixed, typed.SurchargeAccountId)
                );
                refusals.ThrowIfAny();
                settings.PayBy(typed.Pattern);
                if (secret.Length == 0 && typed.Card && settings.ProtectedSecret.Length == 0)
                    secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
                settings.TakeCards(
                    typed.Card,
                    typed.ClearingAccountId,
                    secret.Length > 0 ? secrets.Protect(secret) : null
                );
                await writer.TrailAsync(
                    $"Paying online: {(settings.Pattern.Length > 0 ? "an address of our own" : "no address of our own")}, {(typed.Card ? "cards" : "no cards")}{(settings.Surcharge.IsNone ? "" : ", with a surcharge")}"
                );
                await writer.SaveAsync(stop);
                return settings.Id;
            }
        );

    /// <summary>Where card payments stand until they are paid out; null where there is no such account.</summary>
    public async Task<int?> ClearingAsync(CancellationToken stop = default) =>
        await db
            .LedgerAccounts.AsNoTracking()
            .Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.CardClearing && !a.Retired)
            .OrderByDescending(a => db.PayingSettings.Any(s => s.ClearingAccountId == a.Id))
            .ThenBy(a => a.Code)
            .Select(a => (int?)a.Id)
            .FirstOrDefaultAsync(stop);

    /// <summary>The key that both sides have.</summary>
    /// <exception cref="RefusalException">When cards are not taken.</exception>
    public async Task<string> SecretAsync(CancellationToken stop = default) =>
        await db.PayingSettings.AsNoTracking().FirstOrDefaultAsync(stop) is { ProtectedSecret.Length: > 0 } settings
            ? secrets.Reveal(settings.ProtectedSecret)
            : throw new RefusalException("", "Cards are not taken here.");

    /// <summary>Asks the service for a payment that nobody makes.</summary>
    /// <returns>The page that a payer would be sent to.</returns>
    /// <exception cref="CarrierException">When it could not be asked.</exception>
    public async Task<string> TryAsync(string returnTo, CancellationToken stop = default)
    {
        writer.Must(Right.Setup);
        var business = await head.BusinessAsync(stop);
        var ask = new CardAsk(
            $"try-{Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8))}",
            business.HomeCurrency.MinorPerUnit,
            business.HomeCurrency,
            business.PaperName,
            "A try: do not pay this",
            returnTo,
            await head.TodayAsync(stop)
        );
        return (await service.AskAsync(ask, await SecretAsync(stop), stop)).Page;
    }

    /// <summary>The address that a pattern makes of an amount, before it is kept.</summary>
    public static string Preview(string pattern, Money amount, string reference, string customer) =>
        PayPattern.Fill(pattern, new PayFields(amount, reference, customer));
}
