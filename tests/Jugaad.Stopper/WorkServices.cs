using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Tables;
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
            .AddSingleton<IPaperPrinter, PaperPrinter>();
    }
}
