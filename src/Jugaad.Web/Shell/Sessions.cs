using System.Collections.Concurrent;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Shell;

/// <summary>
/// Keeps sessions here and gives browsers only a word that stands for one: so each can be seen and ended, and one that
/// was signed out of is of no use to whoever kept its cookie.
/// </summary>
internal sealed class Sessions(
    IServiceScopeFactory scopes,
    IHttpContextAccessor http,
    IDataProtectionProvider protection,
    TimeProvider clock
) : ITicketStore
{
    private static readonly TimeSpan BetweenNotes = TimeSpan.FromMinutes(5);
    private static readonly TimeSpan Usual = TimeSpan.FromHours(12);
    private readonly IDataProtector _protector = protection.CreateProtector("sessions");

    /// <summary>When a session was last noted as seen, so that not every click is written.</summary>
    private readonly ConcurrentDictionary<string, (DateTime At, string Who)> _noted = new();

    private static readonly object OfRequest = new();

    /// <summary>The hash by which the session of a request is kept; empty where there is none.</summary>
    internal static string HashOf(HttpContext request) => request.Items[OfRequest] as string ?? "";

    public async Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        var key = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        var now = clock.GetUtcNow().UtcDateTime;
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<BooksContext>();
        db.OpenSessions.RemoveRange(await db.OpenSessions.Where(s => s.Until < now).ToListAsync());
        db.OpenSessions.Add(
            new OpenSession
            {
                PersonId = int.Parse(
                    ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier)!,
                    System.Globalization.CultureInfo.InvariantCulture
                ),
                KeyHash = HashOf(key),
                Ticket = Packed(ticket),
                Device = Devices.Words(http.HttpContext?.Request.Headers.UserAgent.ToString() ?? ""),
                Address = http.HttpContext?.Connection.RemoteIpAddress?.ToString() ?? "",
                At = now,
                SeenAt = now,
                Until = Until(ticket, now),
            }
        );
        await db.SaveChangesAsync();
        return key;
    }

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        var (hash, now) = (HashOf(key), clock.GetUtcNow().UtcDateTime);
        await using var scope = scopes.CreateAsyncScope();
        var kept = await scope
            .ServiceProvider.GetRequiredService<BooksContext>()
            .OpenSessions.AsNoTracking()
            .Where(s => s.KeyHash == hash && s.Until > now)
            .Select(s => s.Ticket)
            .SingleOrDefaultAsync();
        if (kept is null)
            return null;
        try
        {
            if (http.HttpContext is { } request)
                request.Items[OfRequest] = hash;
            return TicketSerializer.Default.Deserialize(_protector.Unprotect(kept));
        }
        catch (CryptographicException)
        {
            // Of keys that are not here any more.
            return null;
        }
    }

    public async Task RenewAsync(string key, AuthenticationTicket ticket)
    {
        var (hash, now) = (HashOf(key), clock.GetUtcNow().UtcDateTime);
        // Whoever has a new role or stamp is noted at once.
        var who = string.Join(
            '\n',
            ticket.Principal.Claims.Select(c => $"{c.Type} {c.Value}").Order(StringComparer.Ordinal)
        );
        if (_noted.TryGetValue(hash, out var before) && now - before.At < BetweenNotes && before.Who == who)
            return;
        _noted[hash] = (now, who);
        var (kept, until) = (Packed(ticket), Until(ticket, now));
        await using var scope = scopes.CreateAsyncScope();
        try
        {
            await scope
                .ServiceProvider.GetRequiredService<BooksContext>()
                .OpenSessions.Where(s => s.KeyHash == hash)
                .ExecuteUpdateAsync(s =>
                    s.SetProperty(x => x.Ticket, kept).SetProperty(x => x.SeenAt, now).SetProperty(x => x.Until, until)
                );
        }
        catch (Microsoft.Data.Sqlite.SqliteException busy) when (BooksTrouble.Of(busy) is not null)
        {
            // It is noted at a later click.
            _noted.TryRemove(hash, out _);
        }
    }

    public async Task RemoveAsync(string key)
    {
        var hash = HashOf(key);
        _noted.TryRemove(hash, out _);
        await using var scope = scopes.CreateAsyncScope();
        await scope
            .ServiceProvider.GetRequiredService<BooksContext>()
            .OpenSessions.Where(s => s.KeyHash == hash)
            .ExecuteDeleteAsync();
    }

    private byte[] Packed(AuthenticationTicket ticket) =>
        _protector.Protect(TicketSerializer.Default.Serialize(ticket));

    private static DateTime Until(AuthenticationTicket ticket, DateTime now) =>
        ticket.Properties.ExpiresUtc?.UtcDateTime ?? now + Usual;

    private static string HashOf(string key) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(key)));
}

/// <summary>What a browser says of itself, in a few words.</summary>
internal static class Devices
{
    private static readonly (string Mark, string Words)[] Browsers =
    [
        ("Edg/", "Edge"),
        ("Firefox/", "Firefox"),
        ("Chrome/", "a Chromium browser"),
        ("Safari/", "Safari"),
    ];
    private static readonly (string Mark, string Words)[] Systems =
    [
        ("Android", "Android"),
        ("iPhone", "iPhone"),
        ("iPad", "iPad"),
        ("Windows", "Windows"),
        ("Mac OS", "macOS"),
        ("Linux", "Linux"),
    ];

    internal static string Words(string agent)
    {
        var browser =
            Browsers.FirstOrDefault(b => agent.Contains(b.Mark, StringComparison.Ordinal)).Words ?? "some program";
        var system = Systems.FirstOrDefault(s => agent.Contains(s.Mark, StringComparison.Ordinal)).Words;
        return system is null ? browser : $"{browser} on {system}";
    }
}
