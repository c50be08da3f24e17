using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Post;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>How mail is to leave the house, as typed; an empty password keeps the one that is there.</summary>
public sealed record MailSetup(bool UseServer, string Host, int Port, MailEncryption Encryption, string User, string Password, string FromName, string FromAddress);

/// <summary>Changes what the business is described by and how it sends.</summary>
public sealed class BusinessDesk(BooksContext db, BookWriter writer, BooksHead head, IPictureCleaner pictures, ISecretKeeper secrets)
{
    /// <param name="logo">A picture to take as the logo; null to leave it as it is.</param>
    public Task<int> DescribeAsync(BusinessDetails details, byte[]? logo, bool removeLogo, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var business = await head.BusinessAsync(stop);
        var refusals = new Refusals();
        refusals.Try(() => business.Describe(details));
        byte[]? clean = null;
        if (logo is not null) refusals.Try(() => clean = pictures.Clean(logo, "logo"));
        refusals.ThrowIfAny();
        if (clean is not null) business.SetLogo(clean);
        else if (removeLogo) business.SetLogo(null);
        await writer.TrailAsync("The business's details changed");
        return business.Id;
    }, stop);

    public Task<int> SetMailAsync(MailSetup typed, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var refusals = new Refusals();
        if (typed.UseServer) Texts.Required(refusals, "host", typed.Host, 200, "Give the name of the mail server.");
        if (typed.Host.Any(char.IsWhiteSpace)) refusals.Add("host", "A server's name has no blanks.");
        if (typed.Port is < 1 or > 65535) refusals.Add("port", "A port is 1 to 65535; mail servers mostly listen on 587 or 465.");
        Texts.Short(refusals, "fromName", typed.FromName, 100);
        Texts.Email(refusals, "fromAddress", typed.FromAddress);
        if (typed.UseServer && typed.FromAddress.Trim().Length == 0) refusals.Add("fromAddress", "Give the address that mails are sent from.");
        refusals.ThrowIfAny();
        var settings = await db.MailSettings.FirstOrDefaultAsync(stop);
        if (settings is null) db.MailSettings.Add(settings = new MailSettings());
        (settings.UseServer, settings.Host, settings.Port, settings.Encryption) = (typed.UseServer, typed.Host.Trim(), typed.Port, typed.Encryption);
        (settings.User, settings.FromName, settings.FromAddress) = (typed.User.Trim(), typed.FromName.Trim(), typed.FromAddress.Trim());
        if (typed.Password.Length > 0) settings.ProtectedPassword = secrets.Protect(typed.Password);
        if (settings.User.Length == 0) settings.ProtectedPassword = "";
        await writer.TrailAsync("Mail settings changed");
        await writer.SaveAsync(stop);
        return settings.Id;
    }, stop);

    /// <summary>Enters the home currency's worth of one unit of a currency from a day on.</summary>
    public Task<int> EnterRateAsync(string currency, DateOnly from, decimal rate, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var unit = Currency.Of(currency);
        if (unit.Equals((await head.BusinessAsync(stop)).HomeCurrency)) throw new RefusalException("currency", "The home currency needs no rate.");
        if (await db.ExchangeRates.AnyAsync(r => r.Currency == unit && r.From == from, stop)) throw new RefusalException("from", $"There is a rate for {unit} from {from:yyyy-MM-dd} already.");
        var made = new ExchangeRate(unit, from, rate);
        db.ExchangeRates.Add(made);
        await writer.TrailAsync($"Exchange rate of {unit} from {from:yyyy-MM-dd}: {PlainDecimal.Text(rate)}");
        await writer.SaveAsync(stop);
        return made.Id;
    }, stop);
}
