using Jugaad.Core.Amounts;
using Jugaad.Core.Paying;

namespace Jugaad.Desk.Outside;

/// <summary>A payment that a card service is asked to take.</summary>
/// <param name="Key">The same on every try, so that nobody is asked twice.</param>
/// <param name="Amount">Minor units.</param>
/// <param name="Purpose">What the payer sees that it is for.</param>
/// <param name="ReturnTo">Where the payer goes afterwards.</param>
public sealed record CardAsk(
    string Key,
    long Amount,
    Currency Currency,
    string Payee,
    string Purpose,
    string ReturnTo,
    DateOnly Day
);

/// <summary>The service's name for the payment, and its page to which the payer goes.</summary>
public sealed record CardAsked(string ServiceId, string Page);

/// <summary>What the service told, once its signature was found right.</summary>
/// <param name="Key">The service's name for what happened; the same however often it is told.</param>
/// <param name="About">Its name for the payment; a payout's reference.</param>
/// <param name="Amount">Minor units: what was paid or paid back; the net of a payout.</param>
/// <param name="Parts">Of a payout.</param>
public sealed record CardTold(
    string Key,
    CardNews News,
    string About,
    long Amount,
    string Currency,
    DateOnly Day,
    IReadOnlyList<CardToldPart> Parts
);

/// <summary>A payment within a payout, below zero for what was paid back, and what is kept of it. Minor units.</summary>
public sealed record CardToldPart(string About, long Amount, long Fee);

/// <summary>Something told, as it goes over the line.</summary>
/// <param name="Signature">HMAC-SHA256 (RFC 2104) over the body by the key that both sides have, in hexadecimal.</param>
public sealed record CardMessage(byte[] Body, string Signature);

/// <summary>A service that takes payments by card.</summary>
public interface ICardService
{
    /// <summary>Whether it only plays a service: nobody's money moves.</summary>
    bool IsStandIn { get; }

    /// <exception cref="CarrierException">When it could not be asked.</exception>
    Task<CardAsked> AskAsync(CardAsk ask, string secret, CancellationToken stop);

    /// <summary>Checks the signature and reads what was told.</summary>
    /// <exception cref="Core.RefusalException">When the signature is wrong, or it is nothing that we read.</exception>
    CardTold Read(CardMessage message, string secret);

    /// <summary>Pays back to the card that paid.</summary>
    /// <param name="amount">Minor units.</param>
    /// <param name="key">Asked again with the same key and amount, it is paid back once and has the same name.</param>
    /// <returns>The service's name for it.</returns>
    /// <exception cref="CarrierException">When it could not be asked, or another amount was paid back under this
    /// key.</exception>
    Task<string> PayBackAsync(
        string serviceId,
        long amount,
        string key,
        DateOnly day,
        string secret,
        CancellationToken stop
    );

    /// <summary>What it told and nobody took.</summary>
    /// <param name="today">Up to which day.</param>
    Task<IReadOnlyList<CardMessage>> MissedAsync(DateOnly today, string secret, CancellationToken stop);

    /// <summary>Tells it that something was taken.</summary>
    Task TakenAsync(string key, CancellationToken stop);
}

/// <summary>A payment as the stand-in's page shows it. Minor units.</summary>
public sealed record PlayedPayment(
    string Id,
    string Payee,
    string Purpose,
    long Amount,
    string Currency,
    string ReturnTo,
    bool IsDone
);

/// <summary>The page of the stand-in, on which somebody plays the payer.</summary>
public interface ICardPage
{
    /// <summary>Null where there is no such payment.</summary>
    PlayedPayment? Find(string id);

    /// <summary>The payer pays, is declined or turns back.</summary>
    /// <returns>What is told of it; null where it was done before.</returns>
    CardMessage? Play(string id, CardNews news, DateOnly day, string secret);
}
