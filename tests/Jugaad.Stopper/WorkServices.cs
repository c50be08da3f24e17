using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Tables;
using Jugaad.Outside;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Stopper;

/// <summary>The desks on a folder of books, with somebody else's mail server beside it.</summary>
public static class WorkServices
{
    public static IServiceCollection On(BooksFile file, string mailbox)
    {
        var otherSide = new OtherSide(mailbox);
        return new ServiceCollection()
            .AddDesks(file)
            .AddLogging()
            .AddScoped<IActor>(_ => new NamedActor("Stopper"))
            .AddSingleton<ITableFiles, TableFiles>()
            .AddSingleton<IMailCarrier>(otherSide)
            .AddSingleton<IMessageGateway>(otherSide)
            .AddSingleton<IEInvoiceFiles, Jugaad.Formats.EInvoices.EInvoicePort>()
            .AddSingleton<IAccessPoint, AccessPointStandIn>()
            .AddSingleton<ISecretKeeper, PlainKeeper>()
            .AddSingleton<ISiteAddress, HarbourAddress>()
            .AddSingleton<ICardService>(new CardStandIn(file))
            .AddSingleton<Jugaad.Desk.Filing.IAuthorityDesk, AuthorityStandIn>()
            .AddSingleton<IPaperPrinter, PaperPrinter>();
    }
}

/// <summary>Keeps secrets as they are, for tests.</summary>
public sealed class PlainKeeper : ISecretKeeper
{
    public string Protect(string secret) => "kept:" + secret;

    public string Reveal(string kept) => kept["kept:".Length..];
}

/// <summary>An address for links.</summary>
public sealed class HarbourAddress : ISiteAddress
{
    public string Address => "http://harbour.example";
}
