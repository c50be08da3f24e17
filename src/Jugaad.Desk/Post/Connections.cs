using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Post;

/// <summary>
/// Tells what of the outside world is connected. In the demo stand-ins play it; in books of one's own nothing that a
/// stand-in kept is called sent, and it is said what to do.
/// </summary>
public sealed class Connections(
    BooksContext db,
    BooksHead head,
    IMailCarrier carrier,
    IMessageGateway gateway,
    IAccessPoint network
)
{
    public const string NoMailServer =
        "No mail server is connected. Connect one under Setup, mail settings; it goes then.";
    public const string NoMessages =
        "No gateway for short messages is connected to this program. Send it by mail, or print it.";

    public const string NoNetwork =
        "No access point is connected to this program. Send the file by hand, or the paper by mail.";

    /// <summary>Why no post of a way leaves the house; null where it does, or where the demo plays it.</summary>
    public async Task<string?> HeldAsync(PostWay way, CancellationToken stop = default)
    {
        if (way == PostWay.Print || await PlaysAsync(stop))
            return null;
        if (way == PostWay.Network)
            return network.IsStandIn ? NoNetwork : null;
        if (way == PostWay.Message)
            return gateway.IsStandIn ? NoMessages : null;
        return carrier.IsStandIn(await db.MailSettings.AsNoTracking().FirstOrDefaultAsync(stop) ?? new MailSettings())
            ? NoMailServer
            : null;
    }

    /// <summary>Where something that was put into the tray is now, in words.</summary>
    public async Task<string> WhereAsync(PostWay way, string to, CancellationToken stop = default) =>
        way == PostWay.Print ? "in the pile to print"
        : await HeldAsync(way, stop) is { } held ? $"waiting in the post tray: {held}"
        : $"on its way to {to}";

    private async Task<bool> PlaysAsync(CancellationToken stop) =>
        (await head.FindBusinessAsync(stop))?.PinnedDay is not null;
}
