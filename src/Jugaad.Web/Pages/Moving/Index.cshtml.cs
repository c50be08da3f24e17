using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Moving;

/// <summary>What can be moved in and out.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class IndexModel(Importing importing) : DeskPage
{
    public IReadOnlyList<ImportRun> Runs { get; private set; } = [];

    public IEnumerable<(string, string)> KindChoices =>
        Enum.GetValues<MovingKind>().Select(k => (k.ToString(), MovingFields.Words(k)));

    protected override async Task<bool> ShowAsync()
    {
        Runs = await importing.LatestAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (!Enum.TryParse<MovingKind>(Form.Text("kind"), out var kind) || !Enum.IsDefined(kind))
            throw new RefusalException("kind", "Say what the rows of the file are.");
        importing.Allow(kind);
        var file = await UploadAsync("file") ?? throw new RefusalException("file", "Choose the file to move in.");
        return Redirect(
            $"/moving/{await importing.BeginAsync(kind, Path.GetFileName(Request.Form.Files["file"]!.FileName), file, Form.Key)}"
        );
    }
}
