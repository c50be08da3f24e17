using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;

namespace Jugaad.Demo;

/// <summary>
/// The loft's papers: a layout of its own for most, and others for customers who are written to in Swedish and German,
/// and for those who pay in pounds.
/// </summary>
internal sealed class DemoLayouts(LayoutRoom layouts, LayoutRules rules, CustomersDesk customers)
{
    private static PaperAsk All { get; } = new("", null, "", 0, "");

    internal async Task MakeAsync(int termsId, CancellationToken stop)
    {
        await UseAsync("plain", "The loft", Lofts, All, stop);
        await UseAsync(
            "window-right",
            "Swedish letters",
            l => l with { Accent = "#2F566B", About = "For Sweden: the window at the right, in the sea's colour." },
            All with
            {
                Language = "sv",
            },
            stop
        );
        await UseAsync(
            "window-left",
            "German letters",
            l => l with { Accent = "#3F5F33", About = "For Germany: the window at the left, with marks for folding." },
            All with
            {
                Language = "de",
            },
            stop
        );
        await UseAsync(
            "margin",
            "In pounds",
            l => l with { About = "For Britain: a broad margin, and amounts in pounds." },
            All with
            {
                Currency = "GBP",
            },
            stop
        );
        await customers.SaveAsync(
            null,
            0,
            new CustomerDetails
            {
                Code = "FOERDE",
                Language = "de",
                Name = "Fördeberg Bootsbau GmbH",
                Kind = CustomerKind.Business,
                TaxNumber = "DE136695976",
                ContactName = "Jule Petersen",
                Email = "rechnung@foerdeberg.example",
                Phone = "+49 5550 0215",
                Address = new("Werftweg 4", "24159", "Kiel", "DE"),
                Currency = "EUR",
                TermsId = termsId,
            },
            stop
        );
    }

    private async Task UseAsync(
        string of,
        string name,
        Func<Layout, Layout> drawn,
        PaperAsk papers,
        CancellationToken stop
    )
    {
        var id = await layouts.CopyAsync(of, name, stop);
        var kept = await layouts.FindAsync(id, stop);
        var version = await layouts.KeepAsync(
            id,
            kept.Version,
            LayoutFile.Write(drawn(LayoutFile.Parse(kept.Work))),
            stop
        );
        await layouts.UseAsync(id, version, stop);
        await rules.AddAsync($"{id}", papers, stop);
    }

    /// <summary>
    /// The loft's own: its sign larger, a thin wash behind the facts, what it comes to in the colour of the sails, and
    /// the amount in words.
    /// </summary>
    private static Layout Lofts(Layout plain) =>
        plain with
        {
            About = "The loft's own: a larger sign, the facts on a wash, and the sum in words.",
            Bands =
            [
                .. plain.Bands.Select(b =>
                    b.Kind switch
                    {
                        BandKind.FirstHead => b with
                        {
                            Pieces =
                            [
                                .. b.Pieces.Select(p =>
                                    p.Id switch
                                    {
                                        "logo" => p with { Y = 12, Width = 58, Height = 26 },
                                        "facts" => p with { Background = "wash" },
                                        _ => p,
                                    }
                                ),
                            ],
                        },
                        BandKind.Totals => b with
                        {
                            Height = b.Height + 4,
                            Pieces =
                            [
                                .. b.Pieces.Select(p =>
                                    p.Id == "totals"
                                        ? p with
                                        {
                                            Table = p.Table! with { Sum = p.Table.Sum with { Colour = "accent" } },
                                        }
                                        : p
                                ),
                                new Piece
                                {
                                    Id = "in-words",
                                    Kind = PieceKind.Field,
                                    Field = "TotalInWords",
                                    X = 20,
                                    Y = 12.6,
                                    Width = 170,
                                    Height = 3.8,
                                    Size = 8,
                                    Italic = true,
                                    Colour = "quiet",
                                    Align = Align.Right,
                                    ClosesUp = true,
                                    When = new ShownWhen { Has = "Totals", Kinds = ["Invoice"] },
                                },
                            ],
                        },
                        _ => b,
                    }
                ),
            ],
        };
}
