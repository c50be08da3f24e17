using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Machine;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>How this machine is reached from outside.</summary>
[Needs(Right.Keep)]
[Posts(Right.Keep)]
public sealed class MachineModel(MachineSetup setup, BooksFile file, KeyFromOutside key) : DeskPage
{
    public MachineSettings Settings { get; private set; } = new();

    public string Folder => file.Folder;

    public bool KeyIsOutside => key.IsThere;

    /// <summary>Who asks for this page, as far as can be told.</summary>
    public string Visitor => HttpContext.Connection.RemoteIpAddress?.ToString() ?? "";

    /// <summary>What a proxy says that is not believed; empty where none is in between.</summary>
    public string Unbelieved => Request.Headers["X-Forwarded-For"].ToString();

    protected override async Task<bool> ShowAsync()
    {
        Settings = await setup.SettingsAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var https = Form.Text("httpsOnly") == "true";
        var outside = HttpContext.RequestServices.GetRequiredService<Shell.Outside>();
        // Whoever turns it on from outside while the proxy is not believed would shut out themselves.
        if (
            https
            && !Request.IsHttps
            && string.Equals(Request.Host.Value, outside.Last.Host, StringComparison.OrdinalIgnoreCase)
        )
            throw new RefusalException(
                "httpsOnly",
                "This page came by plain HTTP, as far as can be told. Name the proxy to believe first and save; once “how this page came” says HTTPS, choose this."
            );
        await setup.SaveAsync(Form.Text("outsideAddress"), Form.Text("proxies"), https, Form.Key);
        outside.Forget();
        return Done("Saved. It counts from now on.");
    }
}
