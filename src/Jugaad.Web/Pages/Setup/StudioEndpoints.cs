using System.Text;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Web.Shell;

namespace Jugaad.Web.Pages.Setup;

/// <summary>A layout as it is worked on.</summary>
/// <param name="Layout">Its JSON.</param>
/// <param name="Sample">The paper that it is drawn with.</param>
/// <param name="Version">That whoever works on it saw.</param>
internal sealed record StudioForm(string? Layout, string? Sample, int Version, string? FormKey) : ICheckedForm
{
    string? ICheckedForm.Missing() => string.IsNullOrEmpty(Layout) ? "layout" : null;
}

/// <summary>Another name for a layout.</summary>
internal sealed record NameForm(string? Name, string? FormKey);

/// <summary>Says that a layout is used from now on.</summary>
internal sealed record UseForm(int Version, string? FormKey);

/// <summary>A picture or a typeface that is to go with a layout.</summary>
/// <param name="Data">The file.</param>
/// <param name="Name">As it is called.</param>
internal sealed record FileForm(byte[]? Data, string? Name) : ICheckedForm
{
    string? ICheckedForm.Missing() => Data is null or { Length: 0 } ? "data" : null;
}

/// <summary>What the layout studio asks for.</summary>
internal static class StudioEndpoints
{
    internal static void MapStudio(this WebApplication app, RouteGroupBuilder api)
    {
        api.MapPost(
                "/layouts/draw",
                async (StudioForm form, LayoutStudio studio, CancellationToken stop) =>
                {
                    var drawn = await studio.DrawAsync(form.Layout!, form.Sample ?? "empty", stop);
                    return new
                    {
                        drawn.Pages,
                        drawn.Width,
                        drawn.Height,
                        drawn.Spots,
                        bands = drawn.Bands.Select(b => new
                        {
                            band = Named(b.Band),
                            b.Page,
                            b.Y,
                            b.Height,
                        }),
                        found = drawn.Found.Select(f => new
                        {
                            f.Refused,
                            f.Piece,
                            f.Words,
                        }),
                        drawn.Examples,
                    };
                }
            )
            .Needs(Right.Setup);
        api.MapPost(
                "/layouts/picture",
                (FileForm form, IPictureCleaner pictures) =>
                    LayoutPicture.Kept(pictures.Clean(form.Data!, form.Name ?? ""))
            )
            .Needs(Right.Setup);
        api.MapPost(
                "/layouts/typeface",
                (FileForm form, IPaperPrinter printer) =>
                {
                    printer.CheckTypeface(form.Data!, form.Name ?? "");
                    return new { ok = true };
                }
            )
            .Needs(Right.Setup);
        api.MapPost(
                "/layouts/{id:int}/keep",
                async (int id, StudioForm form, LayoutRoom layouts, CancellationToken stop) =>
                    new
                    {
                        version = await layouts.KeepAsync(id, form.Version, form.Layout!, new Once(form.FormKey, stop)),
                    }
            )
            .Needs(Right.Setup);
        api.MapPost(
                "/layouts/{id:int}/name",
                async (int id, NameForm form, LayoutRoom layouts, CancellationToken stop) =>
                {
                    await layouts.RenameAsync(id, form.Name ?? "", new Once(form.FormKey, stop));
                    var kept = await layouts.FindAsync(id, stop);
                    return new { kept.Name, kept.Version };
                }
            )
            .Needs(Right.Setup);
        api.MapPost(
                "/layouts/{id:int}/use",
                async (int id, UseForm form, LayoutRoom layouts, LayoutTrials trials, CancellationToken stop) =>
                {
                    var state = await layouts.UseAsync(id, form.Version, new Once(form.FormKey, stop));
                    var layout = LayoutFile.Parse((await layouts.FindAsync(id, stop)).Work);
                    return new
                    {
                        state,
                        warned = (await trials.TryAsync(layout, null, stop))
                            .Where(f => !f.Refused)
                            .Select(LayoutTrials.Words),
                    };
                }
            )
            .Needs(Right.Setup);
        app.MapGet(
                "/setup/layouts/{id:int}/paper.pdf",
                async (int id, string? sample, LayoutRoom layouts, LayoutStudio studio, CancellationToken stop) =>
                    await FoundAsync(async () =>
                        Results.File(
                            await studio.PdfAsync((await layouts.FindAsync(id, stop)).Work, sample ?? "empty", stop),
                            "application/pdf"
                        )
                    )
            )
            .Needs(Right.See);
        app.MapGet(
                "/setup/layouts/{id:int}/layout.json",
                async (int id, LayoutRoom layouts, CancellationToken stop) =>
                    await FoundAsync(async () =>
                    {
                        var kept = await layouts.FindAsync(id, stop);
                        return Results.File(
                            Encoding.UTF8.GetBytes(LayoutFile.WriteIndented(LayoutFile.Parse(kept.Work))),
                            "application/json",
                            $"{string.Concat(kept.Name.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-')).Trim('-')}.json"
                        );
                    })
            )
            .Needs(Right.See);
    }

    private static async Task<IResult> FoundAsync(Func<Task<IResult>> work)
    {
        try
        {
            return await work();
        }
        catch (RefusalException)
        {
            return Results.NotFound();
        }
    }

    internal static string Named(BandKind band) => $"{char.ToLowerInvariant($"{band}"[0])}{$"{band}"[1..]}";
}
