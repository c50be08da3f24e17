using CsCheck;
using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Formats.Papers;
using static Jugaad.Formats.Tests.SampleContent;

namespace Jugaad.Formats.Tests;

/// <summary>A layout is data: what is in it comes on the paper, where it says, and nothing is lost.</summary>
public sealed class LayoutTests
{
    private static DisplayList Compose(Layout layout, PaperContent content) =>
        Composer.Compose(layout, content, PaperFonts.Shared);

    private static Layout With(Layout layout, string id, Func<Piece, Piece> change) =>
        layout with
        {
            Bands =
            [
                .. layout.Bands.Select(b => b with { Pieces = [.. b.Pieces.Select(p => p.Id == id ? change(p) : p)] }),
            ],
        };

    private static Layout Adding(Layout layout, BandKind band, Piece piece) =>
        layout with
        {
            Bands = [.. layout.Bands.Select(b => b.Kind == band ? b with { Pieces = [.. b.Pieces, piece] } : b)],
        };

    private static TextMark Mark(DisplayList paper, string text) =>
        paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().First(t => t.Text == text);

    public static TheoryData<string> Shipped() => [.. ShippedLayouts.Keys];

    [Theory]
    [MemberData(nameof(Shipped))]
    public void Each_layout_that_ships_can_be_used_as_it_is(string key)
    {
        var layout = ShippedLayouts.Of(key);
        LayoutCheck.Of(layout).ShouldBeEmpty();
        var strip = layout.IsStrip;
        foreach (
            var content in new[]
            {
                Invoice(1),
                Invoice(23),
                Invoice(80, note: string.Join(' ', Enumerable.Repeat("note", 300))),
                Invoice(2) with
                {
                    ShowsPrices = false,
                    Kind = nameof(DocumentKind.DeliveryNote),
                },
                Invoice(3) with
                {
                    TransferCode = "BCD\n002\n1\nSCT",
                    HasLogo = true,
                    HasSignature = !strip,
                },
                Invoice(3) with
                {
                    Addressee = new Addressee(
                        string.Join(' ', Enumerable.Repeat("Harbour", 25)),
                        "Slip 2\nQuay\nHarbour\nPort\nIsland\nCountry",
                        "EE",
                        "EE9",
                        "",
                        ""
                    ),
                },
                Invoice(3) with
                {
                    Taxes = [.. Enumerable.Range(1, 40).Select(i => new PaperTax($"Tax {i} %", "1.00", "0.01"))],
                },
            }
        )
        {
            var paper = Compose(layout, content);
            var found = LayoutTrial.Of(layout, content, paper, PaperFonts.Shared);
            // A strip for the till leaves out the addresses; that is said, and is no reason against it.
            found
                .Where(f => !strip || f.Refused)
                .ShouldBeEmpty(string.Join('\n', found.Select(f => $"{f.Piece}: {f.Words}")));
            var text = TextOf(paper);
            foreach (var line in content.Lines)
                text.ShouldContain(line.Text);
            foreach (var tax in content.Taxes.Where(_ => content.ShowsPrices))
                text.ShouldContain(tax.Label);
        }
    }

    [Fact]
    public void Layouts_that_ship_are_of_several_sizes_and_of_names_of_their_own()
    {
        var all = ShippedLayouts.Keys.Select(ShippedLayouts.Of).ToList();
        all.Select(l => l.Name).Distinct().Count().ShouldBe(all.Count);
        all.Select(l => (l.Width, l.Height)).Distinct().ShouldBe([(210, 297), (215.9, 279.4), (80, 0), (58, 0)]);
        all.ShouldAllBe(l => l.About.Length > 20);
    }

    [Fact]
    public void What_grows_moves_what_is_below_and_leaves_what_is_beside()
    {
        var plain = Compose(Layout.BuiltIn, Invoice(1));
        var longer = Compose(
            Layout.BuiltIn,
            Invoice(1) with
            {
                Addressee = new Addressee("Õige & Ärimees <b>", "a\nb\nc\nd\ne\nf\ng", "EE", "EE9", "", ""),
            }
        );
        Mark(longer, "Invoice").Y.ShouldBeGreaterThan(Mark(plain, "Invoice").Y + 5);
        Mark(longer, "Little Loft OÜ").ShouldBe(Mark(plain, "Little Loft OÜ"));
        // Fixed, it stays where it was drawn.
        var layout = With(Layout.BuiltIn, "heading", p => p with { Fixed = true });
        Mark(Compose(layout, Invoice(1)), "Invoice").Y.ShouldBe(Mark(plain, "Invoice").Y);
    }

    [Fact]
    public void A_block_closes_up_where_a_line_of_it_is_empty_and_what_follows_moves_up()
    {
        var sender = Invoice(1).Sender with { Contact = "" };
        var full = Compose(Layout.BuiltIn, Invoice(1));
        var without = Compose(Layout.BuiltIn, Invoice(1) with { Sender = sender });
        Mark(without, "Reg. no. 123 · Tax no. EE123").Y.ShouldBe(Mark(full, "loft@little.example").Y);
        var shorter = Compose(
            Layout.BuiltIn,
            Invoice(1) with
            {
                Addressee = new Addressee("Ärimees", "Slip 2", "EE", "EE9", "", ""),
            }
        );
        Mark(shorter, "Tax number EE9").Y.ShouldBe(Mark(full, "Tax number EE9").Y - 4.8, 0.01);
    }

    [Fact]
    public void A_hidden_piece_keeps_its_place_and_one_that_is_not_shown_now_has_none()
    {
        var layout = With(Layout.BuiltIn, "heading", p => p with { Hidden = true });
        var paper = Compose(layout, Invoice(1));
        TextOf(paper).ShouldNotContain("Invoice\n");
        Mark(paper, "INV-2025-0001").X.ShouldBe(Mark(Compose(Layout.BuiltIn, Invoice(1)), "INV-2025-0001").X);
        paper.Spots.Single(s => s.Piece == "heading" && s.Page == 0).Shown.ShouldBeFalse();
        paper.Said.ShouldContain("Number");
        // The number follows the heading; without that it stands where the heading would.
        var swedish = With(Layout.BuiltIn, "heading", p => p with { When = p.When with { Languages = ["sv"] } });
        Mark(Compose(swedish, Invoice(1)), "INV-2025-0001").X.ShouldBe(20);
    }

    [Theory]
    [InlineData("draft")]
    [InlineData("kind")]
    [InlineData("not-kind")]
    [InlineData("language")]
    [InlineData("currency")]
    [InlineData("customer")]
    [InlineData("has")]
    [InlineData("has-not")]
    public void A_piece_is_shown_only_when_all_that_it_asks_for_holds(string asked)
    {
        var (when, yes, no) = asked switch
        {
            "draft" => (new ShownWhen { Draft = true }, Invoice(1) with { IsDraft = true }, Invoice(1)),
            "kind" => (
                new ShownWhen { Kinds = ["Statement"] },
                Invoice(1) with
                {
                    Kind = PaperKinds.Statement,
                },
                Invoice(1)
            ),
            "not-kind" => (
                new ShownWhen { Kinds = ["!Invoice"] },
                Invoice(1) with
                {
                    Kind = PaperKinds.Letter,
                },
                Invoice(1)
            ),
            "language" => (
                new ShownWhen { Languages = ["sv", "de"] },
                Invoice(1) with
                {
                    Words = PaperWords.Of("de"),
                },
                Invoice(1)
            ),
            "currency" => (
                new ShownWhen { Currencies = ["SEK"] },
                Invoice(1) with
                {
                    CurrencyCode = "SEK",
                },
                Invoice(1)
            ),
            "customer" => (new ShownWhen { Customer = "person" }, Invoice(1) with { ToBusiness = false }, Invoice(1)),
            "has" => (new ShownWhen { Has = "Note" }, Invoice(1, note: "n"), Invoice(1)),
            _ => (new ShownWhen { Has = "!Note" }, Invoice(1), Invoice(1, note: "n")),
        };
        var layout = Adding(
            Layout.BuiltIn,
            BandKind.FirstHead,
            new Piece
            {
                Id = "own",
                X = 120,
                Y = 60,
                Width = 60,
                Height = 5,
                Text = "only then",
                When = when,
            }
        );
        TextOf(Compose(layout, yes)).ShouldContain("only then");
        TextOf(Compose(layout, no)).ShouldNotContain("only then");
    }

    [Fact]
    public void A_foot_may_say_something_on_the_first_the_later_or_the_last_page_only()
    {
        var layout = Layout.BuiltIn;
        foreach (var pages in new[] { OnPages.First, OnPages.Later, OnPages.Last })
            layout = Adding(
                layout,
                BandKind.Foot,
                new Piece
                {
                    Id = $"own-{pages}",
                    X = 20,
                    Y = 10,
                    Width = 60,
                    Height = 4,
                    Text = $"on {pages}",
                    When = new ShownWhen { Pages = pages },
                }
            );
        var paper = Compose(layout, Invoice(60));
        paper.Pages.Count.ShouldBeGreaterThan(2);
        for (var i = 0; i < paper.Pages.Count; i++)
        {
            var text = TextOf(paper.Pages[i]);
            text.Contains("on First", StringComparison.Ordinal).ShouldBe(i == 0);
            text.Contains("on Later", StringComparison.Ordinal).ShouldBe(i > 0);
            text.Contains("on Last", StringComparison.Ordinal).ShouldBe(i == paper.Pages.Count - 1);
        }
    }

    [Fact]
    public void Columns_are_taken_away_put_in_another_order_and_called_otherwise()
    {
        var layout = With(
            Layout.BuiltIn,
            "lines",
            p =>
                p with
                {
                    Table = p.Table! with
                    {
                        Columns =
                        [
                            new TableColumn
                            {
                                Key = "Amount",
                                Width = 30,
                                Align = Align.Right,
                                Title = "Sum",
                            },
                            new TableColumn { Key = "Text", Gap = 5 },
                            new TableColumn
                            {
                                Key = "No",
                                Width = 10,
                                Align = Align.Right,
                                Title = "Row",
                            },
                        ],
                    },
                }
        );
        LayoutCheck.Of(layout).ShouldBeEmpty();
        var paper = Compose(layout, Invoice(2));
        var text = TextOf(paper);
        text.ShouldContain("Sum\nWhat\nRow");
        text.ShouldNotContain("64.00");
        Mark(paper, "128.00").X.ShouldBe(50);
        Mark(paper, "Boat cover, made to measure 1").X.ShouldBe(55);
        Mark(paper, "1").X.ShouldBe(190);
    }

    [Fact]
    public void The_sum_is_set_as_it_says_and_the_total_may_stand_anywhere()
    {
        var layout = With(
            Layout.BuiltIn,
            "totals",
            p =>
                p with
                {
                    Table = p.Table! with
                    {
                        Sum = new SumLook { Size = 14, Colour = "#C8102E" },
                    },
                }
        );
        var mark = Mark(Compose(layout, Invoice(1)), "1.24");
        (mark.Size, mark.Bold, mark.Ink.Hex).ShouldBe((14, true, "#C8102E"));
        var own = Adding(
            Layout.BuiltIn,
            BandKind.FirstHead,
            new Piece
            {
                Id = "big",
                Kind = PieceKind.Words,
                X = 120,
                Y = 60,
                Width = 70,
                Height = 8,
                Text = "To pay: {{ Total }}",
                Face = "bookish",
                Italic = true,
                Align = Align.Middle,
            }
        );
        var big = Mark(Compose(own, Invoice(1)), "To pay: 1.24 EUR");
        (big.X, big.Anchor, big.Face, big.Italic).ShouldBe((155, Anchor.Middle, "bookish", true));
    }

    [Fact]
    public void Text_that_shrinks_stays_in_its_box_and_what_becomes_too_small_is_told()
    {
        var layout = Adding(
            Layout.BuiltIn,
            BandKind.FirstHead,
            new Piece
            {
                Id = "own",
                X = 150,
                Y = 60,
                Width = 30,
                Height = 5,
                Text = "{{ Note }}",
                Shrinks = true,
            }
        );
        var paper = Compose(layout, Invoice(1, note: "a note of some words here"));
        var size = paper.Pages[0].Marks.OfType<TextMark>().Where(t => t.Piece == "own").Max(t => t.Size);
        size.ShouldBeLessThan(9.5);
        paper.Tight.ShouldBeEmpty();
        Compose(layout, Invoice(1, note: string.Join(' ', Enumerable.Repeat("word", 90)))).Tight.ShouldBe(["own"]);
    }

    [Fact]
    public void A_trial_says_what_is_missing_outside_or_over_another_with_its_piece()
    {
        IReadOnlyList<LayoutFinding> Try(Layout layout, PaperContent content) =>
            LayoutTrial.Of(layout, content, Compose(layout, content), PaperFonts.Shared);
        foreach (
            var (id, words) in new[]
            {
                ("number", "The number is missing."),
                ("facts", "The date is missing."),
                ("customer", "The name of the customer is missing."),
                ("business", "The name of the business is missing."),
                ("taxes", "The tax by rate is missing."),
                ("totals", "What it comes to is missing."),
                ("lines", "The table of what is sold is missing."),
                ("business-lines", "The tax number of the business is missing."),
            }
        )
            Try(With(Layout.BuiltIn, id, p => p with { Hidden = true }), Invoice(1))
                .Where(f => f.Refused)
                .Select(f => f.Words)
                .ShouldContain(words);
        Try(With(Layout.BuiltIn, "number", p => p with { X = 190, After = "", Align = Align.Right }), Invoice(1))
            .ShouldContain(f =>
                f.Refused && f.Piece == "number" && f.Words.StartsWith("it lies outside", StringComparison.Ordinal)
            );
        Try(With(Layout.BuiltIn, "customer", p => p with { Y = 85 }), Invoice(1))
            .ShouldContain(f => !f.Refused && f.Words.StartsWith("it stands over", StringComparison.Ordinal));
        Try(
                With(Layout.BuiltIn, "facts", p => p with { Hidden = true }),
                Invoice(1) with
                {
                    Kind = nameof(DocumentKind.CreditNote),
                    Values = new Dictionary<string, string> { ["Corrects"] = "INV-2025-0000" },
                }
            )
            .ShouldContain(f =>
                f.Refused && f.Words.StartsWith("The number of the paper that it corrects", StringComparison.Ordinal)
            );
    }

    [Theory]
    [InlineData("{\"version\":1,\"name\":\"a\",\"bandz\":[]}", "bandz", "not known")]
    [InlineData(
        "{\"version\":1,\"name\":\"a\",\"bands\":[{\"kind\":\"lines\",\"pieces\":[{\"id\":\"x\",\"widht\":3}]}]}",
        "bands[0].pieces[0].widht",
        "not known"
    )]
    [InlineData("{\"version\":1,\"name\":\"a\",\"bands\":[{\"kind\":\"middle\"}]}", "bands[0].kind", "can stand here")]
    [InlineData("{\"version\":1,\"name\":\"a\",\"width\":\"wide\"}", "width", "can stand here")]
    [InlineData("{\"version\":1,\"name\":null}", "name", "")]
    [InlineData("{\"version\":2,\"name\":\"a\"}", "version", "version 1")]
    [InlineData("{\"version\":1,\"name\":\"\"}", "name", "a name")]
    [InlineData("{\"version\":1,\"name\":\"a\",\"size\":900}", "size", "between 4 and 72")]
    [InlineData("{\"version\":1,\"name\":\"a\",\"accent\":\"blue\"}", "accent", "a colour is")]
    [InlineData("{\"version\":1,\"name\":\"a\",\"left\":100,\"right\":100}", "left", "less than 20 mm")]
    [InlineData("{\"version\":1,\"name\":\"a\",\"height\":40}", "height", "less than 40 mm")]
    [InlineData(
        "{\"version\":1,\"name\":\"a\",\"bands\":[{\"kind\":\"foot\"},{\"kind\":\"foot\"}]}",
        "bands[1].kind",
        "there once"
    )]
    [InlineData("{\"version\":1,\"name\":\"a\",\"footTop\":3}", "footTop", "not known")]
    [InlineData("not json", "", "cannot be read")]
    [InlineData("[]", "", "cannot be read")]
    [InlineData("{", "", "cannot be read")]
    [InlineData("null", "", "no layout")]
    public void What_is_wrong_in_a_file_is_refused_by_its_place(string json, string place, string words)
    {
        var refused = Should.Throw<RefusalException>(() => LayoutFile.Read(json)).Refusals;
        refused.ShouldContain(
            r => r.Field == place && r.Message.Contains(words, StringComparison.Ordinal),
            string.Join('\n', refused.Select(r => $"{r.Field} | {r.Message}"))
        );
    }

    public static TheoryData<string, string, Func<Piece, Piece>> Damages() =>
        new()
        {
            { "heading", "id", p => p with { Id = "number" } },
            { "heading", "id", p => p with { Id = "1st piece" } },
            { "heading", "x", p => p with { X = 300 } },
            { "heading", "x", p => p with { Y = double.NaN } },
            { "heading", "y", p => p with { Y = 290 } },
            { "heading", "width", p => p with { Width = 195 } },
            { "heading", "width", p => p with { Width = 0 } },
            { "heading", "height", p => p with { Height = -1 } },
            { "heading", "face", p => p with { Face = "gothic" } },
            { "heading", "size", p => p with { Size = 2 } },
            { "heading", "leading", p => p with { Leading = 0.5 } },
            { "heading", "stroke", p => p with { Stroke = 11 } },
            { "heading", "colour", p => p with { Colour = "#12345" } },
            { "heading", "background", p => p with { Background = "red" } },
            { "heading", "field", p => p with { Field = "Nummer" } },
            { "heading", "text", p => p with { Text = "{{ Nummer }}" } },
            { "heading", "text", p => p with { Text = "{{ Number }" } },
            { "heading", "text", p => p with { Text = "{% if Number %}" } },
            { "heading", "after", p => p with { After = "number" } },
            { "number", "after", p => p with { After = "banks" } },
            { "heading", "table", p => p with { Kind = PieceKind.Table } },
            { "logo", "picture", p => p with { Picture = "photo" } },
            { "heading", "when.has", p => p with { When = new ShownWhen { Has = "Nummer" } } },
            { "heading", "when.kinds", p => p with { When = new ShownWhen { Kinds = ["Bill"] } } },
            { "heading", "when.languages", p => p with { When = new ShownWhen { Languages = ["swe"] } } },
            { "heading", "when.currencies", p => p with { When = new ShownWhen { Currencies = ["euro"] } } },
            { "heading", "when.customer", p => p with { When = new ShownWhen { Customer = "friend" } } },
            { "lines", "table.columns", p => p with { Width = 60 } },
            { "lines", "table.columns", p => p with { Table = p.Table! with { Columns = [] } } },
            {
                "lines",
                "table.columns[0].key",
                p => p with { Table = p.Table! with { Columns = [new TableColumn { Key = "Colour" }] } }
            },
            { "facts", "table.perRow", p => p with { Table = p.Table! with { PerRow = 0 } } },
            {
                "totals",
                "table.sum.colour",
                p => p with { Table = p.Table! with { Sum = new SumLook { Colour = "x" } } }
            },
        };

    [Theory]
    [MemberData(nameof(Damages), DisableDiscoveryEnumeration = true)]
    public void A_piece_that_cannot_be_is_refused_by_its_place(string id, string place, Func<Piece, Piece> damage)
    {
        var layout = With(Layout.BuiltIn, id, damage);
        LayoutCheck
            .Of(layout)
            .ShouldContain(r =>
                r.Field.EndsWith($".{place}", StringComparison.Ordinal)
                && r.Field.StartsWith("bands[", StringComparison.Ordinal)
            );
        Compose(layout with { Bands = layout.Bands }, Invoice(2))
            .Pages.ShouldNotBeEmpty("work that is half done is drawn too");
    }

    [Theory]
    [MemberData(nameof(Shipped))]
    public void A_layout_goes_out_and_in_and_stays_the_same(string key)
    {
        var layout = ShippedLayouts.Of(key) with
        {
            Pictures = new Dictionary<string, LayoutPicture> { ["ground"] = new("image/png", [1, 2, 3]) },
            Ground = new Ground { Picture = "ground", FirstOnly = true },
            GuidesAcross = [20, 30.5],
        };
        var json = LayoutFile.Write(layout);
        var back = LayoutFile.Read(json);
        LayoutFile.Write(back).ShouldBe(json);
        LayoutFile.Write(LayoutFile.Read(LayoutFile.WriteIndented(layout))).ShouldBe(json);
        back.Height.ShouldBe(layout.Height, "a strip has no height, and that is written");
        TextOf(Compose(back, Invoice(3))).ShouldBe(TextOf(Compose(layout, Invoice(3))));
        LayoutFile.Write(layout with { Bands = [] }).ShouldNotContain("null");
    }

    private static readonly Gen<Piece> RandomPiece = Gen.Select(
        Gen.Int[0, 7],
        Gen.Double[0, 150],
        Gen.Double[0, 60],
        Gen.Double[2, 60],
        Gen.Double[0, 40],
        Gen.Int[0, 255],
        Gen.Int[0, 3],
        Gen.Int[0, 5].Select(i => new[] { "Number", "Note", "CustomerAddress", "Opening", "Heading", "Banks" }[i]),
        (kind, x, y, width, height, flags, face, field) =>
            new Piece
            {
                Kind = (PieceKind)(kind == 3 ? 8 : kind),
                X = Math.Round(x, 1),
                Y = Math.Round(y, 1),
                Width = Math.Round(width, 1),
                Height = Math.Round(height, 1),
                Field = field,
                Text = $"Own words {{{{ {field} }}}}",
                Lines = ["{{ Business }}", "", $"{{{{ {field} }}}} and more"],
                Picture = "logo",
                Bold = (flags & 1) > 0,
                Italic = (flags & 2) > 0,
                ClosesUp = (flags & 4) > 0,
                Fixed = (flags & 8) > 0,
                Shrinks = (flags & 16) > 0,
                Hidden = (flags & 32) > 0,
                Align = (Align)(flags >> 6 & 1),
                Stroke = (flags & 128) > 0 ? 0.3 : 0,
                Face = Typefaces.All[face].Key,
                Size = face == 0 ? 0 : 5 + (face * 4),
            }
    );

    private static readonly Gen<Layout> RandomLayout = Gen.Select(
        RandomPiece.List[0, 14],
        Gen.Bool,
        Gen.Double[60, 190],
        Gen.Int[0, 2],
        (pieces, across, head, bare) =>
        {
            var stood = pieces.Select((p, i) => p with { Id = $"piece-{i}" }).ToList();
            Band Of(BandKind kind, double height, params Piece[] own) =>
                new()
                {
                    Kind = kind,
                    Height = height,
                    Pieces = [.. own, .. stood.Where((_, i) => i % 6 == (int)kind)],
                };
            var plain = Layout.BuiltIn;
            Piece Table(BandKind kind, string id) => plain.Of(kind).Pieces.First(p => p.Id == id);
            return plain with
            {
                Width = across ? 297 : 210,
                Height = across ? 210 : 297,
                Bands =
                [
                    Of(BandKind.FirstHead, head / 2),
                    Of(BandKind.LaterHead, 20),
                    Of(BandKind.Lines, 28, Table(BandKind.Lines, "lines")),
                    Of(BandKind.Totals, 15, Table(BandKind.Totals, "taxes"), Table(BandKind.Totals, "totals")),
                    Of(BandKind.Closing, 20, Table(BandKind.Closing, "closing")),
                    Of(BandKind.Foot, bare == 0 ? 0 : 15),
                ],
            };
        }
    );

    [Fact]
    public void Any_layout_composes_any_paper_and_loses_no_line_and_no_figure() =>
        Gen.Select(RandomLayout, Gen.Int[0, 70], Gen.Int[0, 60], Gen.Int[0, 45])
            .Sample(
                (layout, lines, words, taxes) =>
                {
                    var note = string.Join(' ', Enumerable.Range(1, words).Select(i => $"note{i}"));
                    var content = Invoice(lines, note: note) with
                    {
                        Taxes =
                        [
                            .. Enumerable.Range(1, taxes).Select(i => new PaperTax($"Tax-{i}", $"{i}.01", $"0.{i:00}")),
                        ],
                        Opening = string.Join('\n', Enumerable.Range(1, words / 4).Select(i => $"opening {i}")),
                    };
                    var paper = Compose(layout, content);
                    // Every line, every figure of it and every tax, each as often as it is there.
                    var texts = paper.Pages.SelectMany(p => p.Marks).OfType<TextMark>().ToList();
                    var table = texts.Where(t => t.Piece == "lines").Select(t => t.Text).ToList();
                    table.Count(t => t.StartsWith("Boat cover", StringComparison.Ordinal)).ShouldBe(lines);
                    table.Count(t => t == "64.00").ShouldBe(lines);
                    texts
                        .Count(t => t.Piece == "taxes" && t.Text.StartsWith("Tax-", StringComparison.Ordinal))
                        .ShouldBe(taxes);
                    texts.Count(t => t.Piece == "totals" && t.Text == "1.24").ShouldBe(1);
                    var closing = string.Join(' ', texts.Where(t => t.Piece == "closing").Select(t => t.Text));
                    closing.ShouldBe($"Please pay by 1 Oct 2025. {note}".Trim());
                    // What flows stays above the foot of its page.
                    if (LayoutCheck.Of(layout).Count > 0 || paper.Tight.Contains(""))
                        return;
                    var foot = paper.Bands.Last(b => b.Band == BandKind.Foot).Y;
                    texts.Where(t => t.Piece is "lines" or "totals" or "closing").ShouldAllBe(t => t.Y < foot);
                    LayoutFile.Write(LayoutFile.Parse(LayoutFile.Write(layout))).ShouldBe(LayoutFile.Write(layout));
                },
                iter: 300
            );

    [Fact]
    public void A_typeface_weight_and_slant_are_painted_as_they_are_measured()
    {
        var style = new TypeStyle("narrow", true, true);
        PaperFonts.Shared.Width("Sail", 10, style).ShouldNotBe(PaperFonts.Shared.Width("Sail", 10, true));
        var paper = new DisplayList(
            "Faces",
            100,
            50,
            [
                new PaperPage([
                    new TextMark(10, 10, "Sail one", 10) { Face = "bookish", Italic = true },
                    new TextMark(10, 20, "Sail two Привет", 10, true) { Face = "typewriter" },
                    new TextMark(50, 30, "Middle", 10, Anchor: Anchor.Middle) { Face = "narrow" },
                    new StripesMark(10, 35, 40, 10, "INV-2025-0001"),
                ]),
            ]
        );
        var svg = SvgPainter.Paint(paper, _ => null).Single();
        svg.ShouldContain("font-style=\"italic\" class=\"face-bookish\">Sail one");
        svg.ShouldContain("text-anchor=\"middle\"");
        var pdf = PdfPainter.Paint(
            [paper],
            new Desk.Outside.PaperPictures(null, null),
            new DateOnly(2025, 9, 17),
            "Loft"
        );
        using var read = UglyToad.PdfPig.PdfDocument.Open(pdf);
        var fonts = read.GetPage(1).Letters.Select(l => l.FontName!).Distinct().ToList();
        foreach (var name in new[] { "SourceSerif4", "CourierPrime", "FiraSansCondensed", "NotoSans" })
            fonts.ShouldContain(
                f => f.Replace("-", "", StringComparison.Ordinal).Contains(name, StringComparison.OrdinalIgnoreCase),
                string.Join(' ', fonts)
            );
    }

    [Fact]
    public void A_border_around_the_page_takes_no_room_and_sends_nothing_to_the_next()
    {
        var border = new Piece
        {
            Id = "border",
            Kind = PieceKind.Frame,
            X = 5,
            Y = 5,
            Width = 200,
            Height = 287,
            Stroke = 0.3,
        };
        var layout = Adding(
            Adding(Layout.BuiltIn, BandKind.FirstHead, border),
            BandKind.LaterHead,
            border with
            {
                Id = "border-later",
            }
        );
        LayoutCheck.Of(layout).ShouldBeEmpty();
        foreach (var lines in new[] { 3, 60 })
        {
            var (with, without) = (Compose(layout, Invoice(lines)), Compose(Layout.BuiltIn, Invoice(lines)));
            with.Pages.Count.ShouldBe(without.Pages.Count);
            with.Pages.Select(TextOf).ShouldBe(without.Pages.Select(TextOf));
            with.Pages.ShouldAllBe(p => p.Marks.OfType<BoxMark>().Count() == 1);
        }
    }

    [Fact]
    public void A_code_that_nothing_could_read_is_left_away_and_said_and_the_paper_is_made()
    {
        foreach (var stripes in new[] { false, true })
        {
            var layout = Adding(
                Layout.BuiltIn,
                BandKind.Closing,
                new Piece
                {
                    Id = "own",
                    Kind = PieceKind.Code,
                    X = 20,
                    Y = 40,
                    Width = 30,
                    Height = 30,
                    Field = "Note",
                    Stripes = stripes,
                }
            );
            foreach (var note in new[] { "short", "Straße Ω", new string('x', 5_000), "日本語 한국 \u0001" })
            {
                var paper = Compose(layout, Invoice(2, note: note));
                PdfPainter
                    .Paint([paper], new Desk.Outside.PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft")
                    .Length.ShouldBeGreaterThan(1_000);
                SvgPainter.Paint(paper, _ => null).ShouldNotBeEmpty();
                paper.Tight.Contains("own").ShouldBe(note.Length > 4_000);
            }
        }
    }

    [Fact]
    public void Totals_that_say_nothing_take_no_room()
    {
        var with = Compose(Layout.BuiltIn, Invoice(2));
        var without = Compose(Layout.BuiltIn, Invoice(2) with { ShowsPrices = false });
        var bottom =
            without.Spots.Single(s => s.Piece == "lines").Y + without.Spots.Single(s => s.Piece == "lines").Height;
        (Mark(without, "Please pay by 1 Oct 2025.").Y - bottom).ShouldBeLessThan(6);
        (Mark(with, "Please pay by 1 Oct 2025.").Y - bottom).ShouldBeGreaterThan(20);
        // Nor is there a rule above no totals.
        Compose(ShippedLayouts.Strip, Invoice(2) with { ShowsPrices = false })
            .Pages[0]
            .Marks.OfType<RuleMark>()
            .Count(m => m.Piece == "beneath")
            .ShouldBe(0);
    }

    [Fact]
    public void The_pieces_of_a_paper_stand_in_groups_where_that_is_asked_for()
    {
        var paper = Compose(Layout.BuiltIn, Invoice(60));
        SvgPainter.Paint(paper, _ => null, pieces: true)[0].ShouldContain("<g data-piece=\"heading\"><text");
        SvgPainter.Paint(paper, _ => null)[0].ShouldNotContain("<g");
        foreach (var piece in Layout.BuiltIn.Pieces.Where(p => p.Kind != PieceKind.Picture))
            paper.Spots.ShouldContain(s => s.Piece == piece.Id, piece.Id);
    }

    [Fact]
    public void Labels_stand_each_on_its_own_and_what_is_long_becomes_smaller()
    {
        var addressees = Enumerable
            .Range(1, 50)
            .Select(i => new Addressee(
                i == 7 ? string.Join(' ', Enumerable.Repeat("Harbour", 12)) : $"Yard {i}",
                i == 7 ? "a\nb\nc\nd\ne\nf" : $"Quay {i}\n93815 Harbour\nEstonia",
                "EE",
                "",
                "",
                ""
            ))
            .ToList();
        foreach (var shape in LabelShape.All)
        {
            var skip = Math.Min(5, shape.PerSheet - 1);
            var sheet = LabelSheet.Compose(addressees, shape, skip, PaperFonts.Shared);
            sheet.Pages.Count.ShouldBe((int)Math.Ceiling((50.0 + skip) / shape.PerSheet));
            TextOf(sheet).Split('\n').Count(t => t.StartsWith("Yard", StringComparison.Ordinal)).ShouldBe(49);
            foreach (var mark in sheet.Pages.SelectMany(p => p.Marks).OfType<TextMark>())
            {
                var column = Math.Floor((mark.X - shape.Left) / shape.Across);
                var row = Math.Floor((mark.Y - shape.Top) / shape.Down);
                (mark.X + PaperFonts.Shared.Width(mark.Text, mark.Size, mark.Bold)).ShouldBeLessThanOrEqualTo(
                    shape.Left + (column * shape.Across) + shape.Width
                );
                mark.Y.ShouldBeLessThan(shape.Top + (row * shape.Down) + shape.Height);
                mark.Y.ShouldBeLessThan(shape.PageHeight);
            }

            // The first are used up.
            var first = sheet.Pages[0].Marks.OfType<TextMark>().First();
            first.X.ShouldBe(shape.Left + (skip % shape.Columns * shape.Across) + 5, 0.01);
            Should.Throw<RefusalException>(() =>
                LabelSheet.Compose(addressees, shape, shape.PerSheet, PaperFonts.Shared)
            );
        }

        Should.Throw<RefusalException>(() => LabelSheet.Compose([], LabelShape.All[0], 0, PaperFonts.Shared));
    }

    [Fact]
    public void Two_languages_stand_side_by_side_where_that_is_wanted()
    {
        var words = PaperWords.Of("sv").With("en");
        words[PaperWord.Price].ShouldBe("Pris / Price");
        words.Fill(PaperWord.PageOf, 1, 2).ShouldBe("Sida 1 av 2");
        words.Language.ShouldBe("sv");
        PaperWords.Of("en").With("en").ShouldBe(PaperWords.Of("en"));
    }
}
