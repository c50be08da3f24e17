using Jugaad.Desk.Outside;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace Jugaad.Web.Shell;

/// <summary>The address that the outside uses; where none is said, where the server listens, or before it does, where it is going to.</summary>
internal sealed class SiteAddress(IServer server, Outside outside, int port) : ISiteAddress
{
    public string Address => outside.Last.Address?.GetLeftPart(UriPartial.Authority)
        ?? server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()?.TrimEnd('/') ?? $"http://127.0.0.1:{port}";
}
