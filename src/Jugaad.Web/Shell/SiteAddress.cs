using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace Jugaad.Web.Shell;

/// <summary>Where the server listens; before it does, where it is going to.</summary>
internal sealed class SiteAddress(IServer server, int port) : ISiteAddress
{
    public string Address =>
        server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()?.TrimEnd('/')
        ?? $"http://127.0.0.1:{port}";
}
