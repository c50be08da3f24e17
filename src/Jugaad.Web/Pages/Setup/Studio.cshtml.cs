using System.Text.Json;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>The layout studio: a paper on the workbench, its pieces and their properties beside it.</summary>
[Needs(Right.Setup)]
[Posts(Right.Setup)]
public sealed class StudioModel(LayoutRoom layouts, LayoutStudio studio, Wordings wordings) : DeskPage
{
    private static readonly JsonSerializerOptions Script = new(JsonSerializerDefaults.Web);

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public KeptLayout Kept { get; private set; } = null!;

    public IReadOnlyList<LayoutState> States { get; private set; } = [];

    public IReadOnlyList<LayoutSample> Samples { get; private set; } = [];

    private IReadOnlyList<(string Code, string Name)> Languages { get; set; } = [];

    /// <summary>All that the script needs to know.</summary>
    public string Data =>
        JsonSerializer.Serialize(
            new
            {
                id = Id,
                version = Kept.Version,
                layout = JsonSerializer.Deserialize<JsonElement>(LayoutFile.WriteWhole(LayoutFile.Parse(Kept.Work))),
                piece = JsonSerializer.Deserialize<JsonElement>(Sample(new Piece())),
                table = JsonSerializer.Deserialize<JsonElement>(
                    Sample(new Piece { Table = new PieceTable { Columns = [new TableColumn()] } })
                ),
                faces = Typefaces.All.Select(f => new[] { f.Key, f.Name }),
                fields = PaperFields.All.Select(f => new[] { f.Name, f.Group, f.Meaning }),
                words = Enum.GetNames<PaperWord>(),
                columns = Enum.GetValues<TableOf>()
                    .ToDictionary(t => $"{char.ToLowerInvariant($"{t}"[0])}{$"{t}"[1..]}", TableColumns.Of),
                kinds = PaperKinds.All.Select(k => new[] { k, PaperKinds.Name(k) }),
                languages = Languages.Select(l => new[] { l.Code, l.Name }),
            },
            Script
        );

    /// <summary>One piece with all that it could say.</summary>
    private static string Sample(Piece piece)
    {
        var layout = new Layout { Bands = [new Band { Pieces = [piece] }] };
        using var whole = JsonDocument.Parse(LayoutFile.WriteWhole(layout));
        return whole.RootElement.GetProperty("bands")[0].GetProperty("pieces")[0].GetRawText();
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    protected override async Task<bool> ShowAsync()
    {
        if ((await layouts.AllAsync()).All(l => l.Id != Id))
            return false;
        Kept = await layouts.FindAsync(Id);
        States = await layouts.StatesAsync(Id);
        Samples = await studio.SamplesAsync();
        Languages = await wordings.LanguagesAsync();
        return true;
    }

    public async Task<IActionResult> OnPostBackAsync()
    {
        var no = Form.Whole("no");
        await layouts.BackAsync(Id, no, Form.Key);
        return Done($"You go on from state {no}. What is in use stays in use until you say otherwise.");
    }
}
