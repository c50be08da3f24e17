using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>
/// How backups are made and where they go, those that there are, and the word that brought-back books are the ones now.
/// </summary>
[Needs(Right.Keep)]
[Posts(Right.Keep)]
public sealed class BackupsModel(
    BackupScreens screens,
    BackupMaking making,
    BackupSetup setup,
    Backups backups,
    TakingUp taking,
    BooksFile file,
    IArchiveSeal seal
) : DeskPage
{
    public BackupSettings Settings { get; private set; } = new();

    public BackupStanding Standing { get; private set; } = null!;

    public IReadOnlyList<BackupRun> Runs { get; private set; } = [];

    /// <summary>Null where the books are in use.</summary>
    public ToTakeUp? Resting { get; private set; }

    /// <summary>The private half of a key that was made just now.</summary>
    public string PrivateKey { get; private set; } = "";

    /// <summary>What was refused may lie where it is not shown at first.</summary>
    public bool WasRefused => HttpContext.RequestServices.GetRequiredService<FieldState>().WasTyped;

    public string Fingerprint => seal.Fingerprint(Settings.PublicKey);

    public string Folder => Backups.FolderOf(Settings, file);

    public bool Lies(string name) => System.IO.File.Exists(Path.Combine(Folder, name));

    public static IEnumerable<(string, string)> PlaceChoices =>
        [
            (nameof(OtherPlace.None), "none"),
            (nameof(OtherPlace.Folder), "a folder, as of another disk"),
            (nameof(OtherPlace.Sftp), "another machine, by SSH"),
            (nameof(OtherPlace.Store), "an object store"),
        ];

    protected override async Task<bool> ShowAsync()
    {
        Settings = await making.SettingsAsync();
        Standing = await screens.StandingAsync();
        Runs = await screens.RunsAsync();
        Resting = await taking.FindAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var wishes = new BackupWishes(
            form.Text("nightly") == "true",
            form.Whole("hour"),
            form.Text("folder"),
            form.Whole("keepDays"),
            form.Whole("keepWeeks"),
            form.Whole("keepMonths"),
            form.Choice<OtherPlace>("other"),
            form.Text("host"),
            form.Whole("port"),
            form.Text("user"),
            form.Text("secret"),
            form.Text("path")
        );
        form.ThrowIfAny();
        await setup.SaveAsync(wishes, form.Key);
        return Done(wishes.Other == OtherPlace.None ? "Saved." : "Saved. Try the other place, to be sure.");
    }

    public async Task<IActionResult> OnPostTryAsync() => Done(await setup.TryOtherAsync(Form.Key));

    public async Task<IActionResult> OnPostMakeAsync()
    {
        var run = await backups.MakeAsync();
        if (run.Problem.Length > 0)
            throw new Core.RefusalException("", run.Problem);
        return Done(
            run.OtherProblem.Length > 0
                ? $"A backup was made here; it did not reach the other place: {run.OtherProblem}"
                : $"A backup was made: {run.Name}"
        );
    }

    public async Task<IActionResult> OnPostKeyAsync()
    {
        PrivateKey = await setup.NewKeyAsync($"Backups of {Business!.Name}", Form.Key);
        return await ShownAsync();
    }

    public async Task<IActionResult> OnPostUseKeyAsync()
    {
        await setup.UseKeyAsync(Form.Text("publicKey"), Form.Key);
        return Done(
            Form.Text("publicKey").Trim().Length == 0
                ? "Backups are plain from now on."
                : "Backups are sealed for this key from now on."
        );
    }

    public async Task<IActionResult> OnPostTakeUpAsync()
    {
        var found = await taking.FindAsync();
        var last = (found?.Series ?? []).ToDictionary(s => s.Id, s => Form.Text($"last{s.Id}"));
        await taking.TakeUpAsync(
            last,
            Form.Text("standing") switch
            {
                "skip" => true,
                "make" => false,
                _ => null,
            },
            Form.Key
        );
        Say("These are the books now. Look at the post tray: what waited there is for you to decide.");
        return Redirect("/");
    }

    /// <summary>For a link that saves the key as a file, without a way to the server and back.</summary>
    public string PrivateKeyAddress =>
        $"data:text/plain;base64,{Convert.ToBase64String(Encoding.ASCII.GetBytes(PrivateKey))}";
}
