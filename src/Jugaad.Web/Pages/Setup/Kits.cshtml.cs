using Jugaad.Core;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>Ready sets of taxes: those that ship, from a file, and to a file.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class KitsModel(ITaxKits kits, TaxKitsDesk desk) : DeskPage
{
    public IReadOnlyList<(string Key, TaxKit Kit)> Kits => kits.All;

    public string CodeWords(TaxKit kit, KitCode code)
    {
        var rates = string.Join(
            " + ",
            code.Parts.Select(p =>
                Format.Percent(kit.Components.First(c => c.Name == p.Component).Rates.MaxBy(r => r.From)!.Percent)
                + (p.Compound ? " on top" : "")
            )
        );
        return $"{code.Code} {(rates.Length > 0 ? rates : code.Category.Word())}";
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnGetExportAsync() =>
        File(kits.Write(await desk.MakeAsync()), "application/json", "taxes.json");

    public Task<IActionResult> OnPostAdoptAsync() =>
        AdoptAsync(
            kits.Find(Form.Text("key")) ?? throw new RefusalException("", "There is no such kit. Load the page again.")
        );

    public async Task<IActionResult> OnPostFileAsync() =>
        await AdoptAsync(
            kits.Read(await UploadAsync("file") ?? throw new RefusalException("file", "Choose the kit's JSON file."))
        );

    private async Task<IActionResult> AdoptAsync(TaxKit kit)
    {
        var form = Form;
        var from = form.OptionalDate("registeredFrom");
        form.ThrowIfAny();
        var took = await desk.AdoptAsync(kit, from, form.Key);
        Say(
            took == 0
                ? "All of the kit was there already; nothing has changed."
                : $"Taken: {took} new. Look over the rates, the authorities and the rules."
        );
        return Redirect("/setup/taxes");
    }
}
