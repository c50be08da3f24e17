using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Layouts of one's own: drawn, tried, put to use, chosen, and kept with what was issued with them.</summary>
public sealed class LayoutKeepingTests : IAsyncLifetime
{
    private static readonly byte[] RedSquare = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAQAAAAECAIAAAAmkwkpAAAAEElEQVR4nGM4IaAHRwzEcQCzoxBhZVk9nQAAAABJRU5ErkJggg=="
    );

    private static readonly byte[] BlueStrip = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAkAAAADCAIAAADOaLIhAAAAEUlEQVR4nGNQd5uACzGQKQcAVjMasC2GR0oAAAAASUVORK5CYII="
    );

    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> CopyAsync(string of = "plain", string name = "Ours") =>
        _loft.WithAsync<LayoutRoom, int>(r => r.CopyAsync(of, name));

    private Task<KeptLayout> FindAsync(int id) => _loft.WithAsync<LayoutRoom, KeptLayout>(r => r.FindAsync(id));

    private async Task ChangeAsync(int id, Func<Layout, Layout> change)
    {
        var kept = await FindAsync(id);
        await _loft.WithAsync<LayoutRoom, int>(r =>
            r.KeepAsync(id, kept.Version, LayoutFile.Write(change(LayoutFile.Parse(kept.Work))))
        );
    }

    private static Func<Layout, Layout> Piece(string id, Func<Piece, Piece> change) =>
        layout =>
            layout with
            {
                Bands =
                [
                    .. layout.Bands.Select(b =>
                        b with
                        {
                            Pieces = [.. b.Pieces.Select(p => p.Id == id ? change(p) : p)],
                        }
                    ),
                ],
            };

    private static Func<Layout, Layout> Words(string words) =>
        layout =>
            layout with
            {
                Bands =
                [
                    .. layout.Bands.Select(b =>
                        b.Kind == BandKind.FirstHead
                            ? b with
                            {
                                Pieces =
                                [
                                    .. b.Pieces.Where(p => p.Id != "own"),
                                    new Piece
                                    {
                                        Id = "own",
                                        X = 120,
                                        Y = 60,
                                        Width = 60,
                                        Height = 5,
                                        Text = words,
                                    },
                                ],
                            }
                            : b
                    ),
                ],
            };

    private async Task<int> UseAsync(int id) =>
        await _loft.WithAsync<LayoutRoom, int>(async r => await r.UseAsync(id, (await r.FindAsync(id)).Version));

    private Task<int> RuleAsync(int id, PaperAsk ask) =>
        _loft.WithAsync<LayoutRules, int>(r => r.AddAsync($"{id}", ask));

    private static PaperAsk All => new("", null, "", 0, "");

    private async Task<string> TextAsync(int id, PaperStyle? style = null) =>
        string.Join(
            '\n',
            (await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(id, style)))
                .Pages.SelectMany(p => p.Marks)
                .OfType<TextMark>()
                .Select(t => t.Text)
        );

    private static async Task<string> RefusedAsync(Func<Task> work) =>
        string.Join('\n', (await Should.ThrowAsync<RefusalException>(work)).Refusals.Select(r => r.Message));

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_copy_is_drawn_tried_put_to_use_and_the_next_invoice_has_it()
    {
        var before = await _loft.IssuedAsync();
        var id = await CopyAsync();
        await ChangeAsync(id, Words("Fax +372 555 0000"));
        await RuleAsync(id, All).ShouldThrowAsync<RefusalException>();
        (await UseAsync(id)).ShouldBe(1);
        await RuleAsync(id, All with { Kind = "Invoice" });
        var after = await _loft.IssuedAsync();
        (await TextAsync(after.Id)).ShouldContain("Fax +372 555 0000");
        (await TextAsync(before.Id)).ShouldNotContain("Fax");
        var quote = await _loft.IssuedAsync(kind: DocumentKind.Quote);
        (await TextAsync(quote.Id)).ShouldNotContain("Fax");
        (await _loft.WithAsync<PaperRoom, (string, string)>(p => p.WhyAsync(after.Id))).ShouldBe(
            ("Ours", "by the rule for invoices")
        );
        (await _loft.WithAsync<PaperRoom, (string, string)>(p => p.WhyAsync(before.Id))).ShouldBe(
            ("Plain", "no rule fits, so it is the plain one")
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task An_issued_paper_keeps_the_state_and_the_pictures_it_was_issued_with()
    {
        var id = await CopyAsync();
        await ChangeAsync(id, Words("First state"));
        await UseAsync(id);
        var rule = await RuleAsync(id, All);
        await LogoAsync(RedSquare);
        var first = await _loft.IssuedAsync();
        var printed = await PdfAsync(first.Id);
        await ChangeAsync(id, Words("Second state"));
        (await TextAsync(first.Id)).ShouldContain("First state");
        var between = await _loft.IssuedAsync();
        (await TextAsync(between.Id)).ShouldContain("First state", customMessage: "work is not in use yet");
        (await UseAsync(id)).ShouldBe(2);
        (await UseAsync(id)).ShouldBe(2, "what did not change makes no state");
        await LogoAsync(BlueStrip);
        var second = await _loft.IssuedAsync();
        (await TextAsync(second.Id)).ShouldContain("Second state");
        (await PdfAsync(first.Id)).ShouldBe(printed, "years later it looks the same");
        await LogoAsync(null);
        await _loft.WithAsync<LayoutRules, int>(r => r.RemoveAsync(rule));
        await _loft.WithAsync<LayoutRoom, int>(r => r.RemoveAsync(id));
        (await PdfAsync(first.Id)).ShouldBe(printed);
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldNotContain("state");
        var svg = string.Concat(await _loft.WithAsync<PaperRoom, IReadOnlyList<string>>(p => p.SvgAsync(first.Id)));
        svg.ShouldContain("data:image/png;base64,");
        await HealthyAsync();
    }

    private Task<byte[]> PdfAsync(int id) =>
        _loft.WithAsync<PaperRoom, byte[]>(async p => (await p.PdfAsync(id)).Content);

    private Task LogoAsync(byte[]? png) =>
        _loft.WithAsync<BooksContext>(async db =>
        {
            (await db.Businesses.SingleAsync()).SetLogo(png);
            await db.SaveChangesAsync();
        });

    [Fact]
    public async Task The_first_rule_that_fits_decides_and_the_narrower_goes_before()
    {
        var names = new Dictionary<string, PaperAsk>
        {
            ["All"] = All,
            ["Invoices"] = All with { Kind = "Invoice" },
            ["Swedish"] = All with { Language = "sv" },
            ["Kronor"] = All with { Currency = "SEK" },
            ["Yard"] = All with { CustomerId = _loft.Yard },
            ["Statements"] = All with { Kind = "Statement" },
        };
        foreach (var (name, ask) in names)
        {
            var id = await CopyAsync("plain", name);
            await ChangeAsync(id, Words($"By {name}"));
            await UseAsync(id);
            await RuleAsync(id, ask);
        }

        async Task<string> NameAsync(PaperAsk ask) =>
            await _loft.WithAsync<LayoutChoice, string>(async c => (await c.ForAsync(ask)).Layout.Name);
        (await NameAsync(new PaperAsk("Invoice", null, "en", _loft.Yard, "EUR"))).ShouldBe("Yard");
        (await NameAsync(new PaperAsk("Invoice", null, "sv", 0, "SEK"))).ShouldBe("Invoices");
        (await NameAsync(new PaperAsk("Quote", null, "sv", 0, "SEK"))).ShouldBe("Kronor");
        (await NameAsync(new PaperAsk("Quote", null, "sv", 0, "EUR"))).ShouldBe("Swedish");
        (await NameAsync(new PaperAsk("Quote", null, "en", 0, "EUR"))).ShouldBe("All");
        var rules = await _loft.WithAsync<LayoutRules, IReadOnlyList<ListedRule>>(r => r.AllAsync());
        rules.Select(r => r.Layout).ShouldBe(["Yard", "Invoices", "Statements", "Kronor", "Swedish", "All"]);
        await _loft.WithAsync<LayoutRules, int>(r => r.EarlierAsync(rules[3].Id));
        await _loft.WithAsync<LayoutRules, int>(r => r.EarlierAsync(rules[3].Id));
        (await NameAsync(new PaperAsk("Invoice", null, "sv", 0, "SEK"))).ShouldBe("Kronor");
        var statement = (
            await _loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s =>
                s.ComposeAsync(_loft.Yard, new StatementWish(null, Loft.Today))
            )
        ).Single();
        statement.Pages[0].Marks.OfType<TextMark>().ShouldContain(t => t.Text == "By Yard");
        foreach (
            var ask in new[]
            {
                All with
                {
                    Kind = "Bill",
                },
                All with
                {
                    Language = "xx",
                },
                All with
                {
                    Currency = "EURO",
                },
                All with
                {
                    CustomerId = 99_999,
                },
                All with
                {
                    SeriesId = 99_999,
                },
            }
        )
            (
                await RefusedAsync(() => _loft.WithAsync<LayoutRules, int>(r => r.AddAsync("plain", ask)))
            ).ShouldNotBeEmpty();
        await HealthyAsync();
    }

    [Fact]
    public async Task What_cannot_be_sent_is_not_put_to_use_and_says_why_with_the_piece_and_the_paper()
    {
        var invoice = await _loft.IssuedAsync();
        var id = await CopyAsync();
        await ChangeAsync(id, Piece("number", p => p with { Hidden = true }));
        (await RefusedAsync(() => UseAsync(id))).ShouldContain($"The number is missing. Seen on {invoice.Number}.");
        await ChangeAsync(id, Piece("number", p => p with { Hidden = false, Width = -3 }));
        (await RefusedAsync(() => UseAsync(id))).ShouldContain("not below 0 mm");
        (await FindAsync(id)).StateId.ShouldBeNull();
        await ChangeAsync(id, Piece("number", p => p with { Width = 60 }));
        (await UseAsync(id)).ShouldBe(1);
        await ChangeAsync(id, Piece("customer", p => p with { Y = 85 }));
        (
            await _loft.WithAsync<LayoutTrials, IReadOnlyList<LayoutFinding>>(async t =>
                await t.TryAsync(LayoutFile.Parse((await FindAsync(id)).Work))
            )
        ).ShouldContain(f => !f.Refused && f.Words.StartsWith("it stands over", StringComparison.Ordinal));
        (await UseAsync(id)).ShouldBe(2, "what only looks odd is said, and may stand");
    }

    [Fact]
    public async Task There_is_a_way_back_to_each_earlier_state_and_two_at_once_lose_nothing()
    {
        var id = await CopyAsync();
        foreach (var words in new[] { "one", "two", "three" })
        {
            await ChangeAsync(id, Words(words));
            await UseAsync(id);
        }

        (await _loft.WithAsync<LayoutRoom, IReadOnlyList<LayoutState>>(r => r.StatesAsync(id)))
            .Select(s => s.No)
            .ShouldBe([3, 2, 1]);
        await _loft.WithAsync<LayoutRoom, int>(r => r.BackAsync(id, 1));
        (await FindAsync(id)).Work.ShouldContain("\"text\":\"one\"");
        (await _loft.WithAsync<LayoutRoom, IReadOnlyList<ListedLayout>>(r => r.AllAsync()))
            .Single()
            .Changed.ShouldBeTrue("what is in use stays in use until that is said");
        (await UseAsync(id)).ShouldBe(4);
        (await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.BackAsync(id, 9)))).ShouldContain(
            "no state 9"
        );
        var seen = await FindAsync(id);
        await ChangeAsync(id, Words("mine"));
        (
            await RefusedAsync(() =>
                _loft.WithAsync<LayoutRoom, int>(r =>
                    r.KeepAsync(id, seen.Version, LayoutFile.Write(ShippedLayouts.Plain))
                )
            )
        ).ShouldContain("worked on this layout while you had it open");
        (await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.UseAsync(id, seen.Version)))).ShouldContain(
            "Somebody else"
        );
        (await FindAsync(id)).Work.ShouldContain("mine");
        (
            await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.KeepAsync(id, 0, "{\"layers\":1}")))
        ).ShouldContain("“layers” is not known");
        await HealthyAsync();
    }

    [Fact]
    public async Task Names_are_free_once_and_files_come_in_and_go_out()
    {
        var id = await CopyAsync();
        (await RefusedAsync(() => CopyAsync())).ShouldContain("There is a layout Ours already");
        (await RefusedAsync(() => CopyAsync("plain", "Plain"))).ShouldContain("There is a layout Plain already");
        (await RefusedAsync(() => CopyAsync("grand", "A"))).ShouldContain("no layout “grand”");
        var other = await CopyAsync($"{id}", "");
        (await FindAsync(other)).Name.ShouldBe("Ours, ours 1");
        await _loft.WithAsync<LayoutRoom, int>(r => r.RenameAsync(other, "  Second  "));
        LayoutFile.Parse((await FindAsync(other)).Work).Name.ShouldBe("Second");
        (await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.RenameAsync(other, "Ours")))).ShouldContain(
            "already"
        );
        var taken = await _loft.WithAsync<LayoutRoom, int>(async r => await r.TakeInAsync((await FindAsync(id)).Work));
        (await FindAsync(taken)).Name.ShouldBe("Ours, ours 1");
        (
            await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.TakeInAsync("{\"version\":1}")))
        ).ShouldContain("name");
        await UseAsync(id);
        await RuleAsync(id, All);
        (await RefusedAsync(() => _loft.WithAsync<LayoutRoom, int>(r => r.RemoveAsync(id)))).ShouldContain(
            "A rule gives"
        );
        (await _loft.WithAsync<LayoutRoom, Layout>(r => r.FindAsync("Second"))).Name.ShouldBe("Second");
        (await _loft.WithAsync<LayoutRoom, Layout>(r => r.FindAsync("dense"))).Name.ShouldBe("Dense");
        (await RefusedAsync(() => _loft.WithAsync<LayoutRoom, Layout>(r => r.FindAsync("nothing.json")))).ShouldContain(
            "There is no layout and no file"
        );
        Loft.ActAs(PersonRole.Seller);
        try
        {
            await Should.ThrowAsync<NotAllowedException>(() => CopyAsync("plain", "Theirs"));
        }
        finally
        {
            Loft.ActAs(null);
        }
    }

    [Fact]
    public async Task A_picture_of_a_layout_is_read_anew_and_what_is_none_is_refused_by_its_place()
    {
        var id = await CopyAsync();
        static Func<Layout, Layout> With(byte[] data) =>
            l => l with { Pictures = new Dictionary<string, LayoutPicture> { ["seal"] = new("image/webp", data) } };
        var before = (await FindAsync(id)).Work;
        var refused = (
            await Should.ThrowAsync<RefusalException>(() => ChangeAsync(id, With("<svg onload='x'/>"u8.ToArray())))
        ).Refusals.Single();
        refused.Field.ShouldBe("pictures.seal.data");
        (await FindAsync(id)).Work.ShouldBe(before);
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<LayoutRoom, int>(r =>
                r.TakeInAsync(LayoutFile.Write(With([1, 2, 3])(ShippedLayouts.Plain)))
            )
        );
        await ChangeAsync(id, With(RedSquare));
        var kept = LayoutFile.Parse((await FindAsync(id)).Work).Pictures["seal"];
        kept.Type.ShouldBe("image/png");
        await ChangeAsync(id, Words("more"));
        LayoutFile.Parse((await FindAsync(id)).Work).Pictures["seal"].Data.ShouldBe(kept.Data);
    }

    [Fact]
    public async Task A_statement_has_both_languages_of_its_layout()
    {
        var id = await CopyAsync();
        await ChangeAsync(id, l => l with { SecondLanguage = "sv" });
        await UseAsync(id);
        await RuleAsync(id, All);
        await _loft.IssuedAsync();
        var paper = (
            await _loft.WithAsync<Statements, IReadOnlyList<DisplayList>>(s =>
                s.ComposeAsync(_loft.Yard, new StatementWish(null, Loft.Today))
            )
        ).Single();
        paper.Pages[0].Marks.OfType<TextMark>().ShouldContain(t => t.Text == "Owed in all / Skuld totalt");
    }

    [Fact]
    public async Task The_studio_draws_a_long_paper_whose_sum_is_that_of_its_lines_and_an_empty_one()
    {
        await _loft.IssuedAsync();
        var json = LayoutFile.Write(ShippedLayouts.Plain);
        var drawn = await _loft.WithAsync<LayoutStudio, DrawnLayout>(s => s.DrawAsync(json, "long"));
        drawn.Pages.Count.ShouldBeGreaterThanOrEqualTo(3);
        drawn.Examples["TotalNumber"].Where(char.IsDigit).ShouldBe("700000", "70 lines of 100.00");
        drawn.Found.Where(f => f.Refused).ShouldBeEmpty();
        (await _loft.WithAsync<LayoutStudio, DrawnLayout>(s => s.DrawAsync(json, "empty"))).Pages.Count.ShouldBe(1);
        var samples = await _loft.WithAsync<LayoutStudio, IReadOnlyList<LayoutSample>>(s => s.SamplesAsync());
        foreach (var sample in samples)
            (await _loft.WithAsync<LayoutStudio, byte[]>(s => s.PdfAsync(json, sample.Key)))[..5]
                .ShouldBe("%PDF-"u8.ToArray());
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<LayoutStudio, DrawnLayout>(s => s.DrawAsync(json, "99999"))
        );
    }

    [Fact]
    public async Task A_merged_customer_takes_its_rule_along()
    {
        var other = await _loft.WithAsync<BooksContext, int>(async db =>
        {
            var customer = new Customer(
                new CustomerDetails
                {
                    Code = "OLD",
                    Name = "Old Yard",
                    Currency = "EUR",
                    TermsId = await db.Terms.Select(t => t.Id).FirstAsync(),
                }
            );
            db.Customers.Add(customer);
            await db.SaveChangesAsync();
            return customer.Id;
        });
        await _loft.WithAsync<LayoutRules, int>(r => r.AddAsync("dense", All with { CustomerId = other }));
        await _loft.WithAsync<CustomersDesk, int>(d => d.MergeAsync(_loft.Yard, other));
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldContain(
            "\n1\n",
            customMessage: "the dense one counts its lines"
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task Papers_from_before_layouts_were_chosen_get_the_look_of_those_days()
    {
        var invoice = await _loft.IssuedAsync();
        await _loft.ExecuteAsync("DELETE FROM IssuedLooks");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains("how it looked when it was issued", StringComparison.Ordinal)
        );
        await _loft.WithAsync<BooksContext>(db => KeptLooks.FillAsync(db));
        await _loft.WithAsync<BooksContext>(db => KeptLooks.FillAsync(db));
        await HealthyAsync();
        (await _loft.WithAsync<PaperRoom, (string Layout, string)>(p => p.WhyAsync(invoice.Id))).Layout.ShouldBe(
            "Plain"
        );
    }

    [Fact]
    public async Task A_layout_is_tried_for_the_kinds_that_it_is_meant_for()
    {
        var invoice = await _loft.IssuedAsync();
        var credit = await _loft.WithAsync<Issuing.Credits, int>(c => c.DraftAsync(invoice.Id, "returned"));
        var id = await CopyAsync();
        // Fit for invoices, and for nothing that corrects another paper.
        await ChangeAsync(id, Piece("facts", p => p with { When = new ShownWhen { Kinds = ["Invoice"] } }));
        (await UseAsync(id)).ShouldBe(1, "it is fit for one kind at least");
        var said = await _loft.WithAsync<LayoutTrials, IReadOnlyList<LayoutFinding>>(async t =>
            await t.TryAsync(LayoutFile.Parse((await FindAsync(id)).Work))
        );
        said.ShouldContain(f =>
            !f.Refused && f.Words.StartsWith("It is not fit for credit notes:", StringComparison.Ordinal)
        );
        await RuleAsync(id, All with { Kind = "Invoice" });
        foreach (var kind in new[] { "CreditNote", "" })
            (await RefusedAsync(() => RuleAsync(id, All with { Kind = kind }))).ShouldContain("is missing");
        (await _loft.WithAsync<BooksContext, int>(db => db.LayoutRules.CountAsync())).ShouldBe(1);
        // Once it is meant for credit notes, it must stay fit for them.
        await ChangeAsync(id, Piece("facts", p => p with { When = new ShownWhen() }));
        await UseAsync(id);
        await RuleAsync(id, All with { Kind = "CreditNote" });
        await ChangeAsync(id, Piece("facts", p => p with { When = new ShownWhen { Kinds = ["Invoice"] } }));
        (await RefusedAsync(() => UseAsync(id))).ShouldContain("is missing");
        credit.ShouldBeGreaterThan(invoice.Id);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_typeface_of_ones_own_is_looked_at_and_stays_with_what_was_issued_in_it()
    {
        var id = await CopyAsync();
        Task WithAsync(byte[] file) =>
            ChangeAsync(
                id,
                l =>
                    l with
                    {
                        Face = "house",
                        Typefaces = new Dictionary<string, LayoutTypeface>
                        {
                            ["house"] = new() { Name = "House", Regular = file },
                        },
                    }
            );
        (await RefusedAsync(() => WithAsync([1, 2, 3]))).ShouldContain("no typeface");
        await WithAsync(Formats.Papers.PaperFonts.File("typewriter", "regular")!);
        await UseAsync(id);
        await RuleAsync(id, All);
        var invoice = await _loft.IssuedAsync();
        async Task<bool> IsOwnAsync(int document) =>
            (await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(document)))
                .Pages[0]
                .Marks.OfType<TextMark>()
                .Any(t => t.Face.StartsWith("own-", StringComparison.Ordinal));
        (await IsOwnAsync(invoice.Id)).ShouldBeTrue();
        await ChangeAsync(id, l => l with { Face = "clear", Typefaces = new Dictionary<string, LayoutTypeface>() });
        await UseAsync(id);
        (await IsOwnAsync(invoice.Id)).ShouldBeTrue();
        (await IsOwnAsync((await _loft.IssuedAsync()).Id)).ShouldBeFalse();
        await HealthyAsync();
    }

    [Theory]
    [InlineData("UPDATE LayoutStates SET Json = replace(Json, 'Ours', 'Hers')", "it was changed after it was kept")]
    [InlineData("UPDATE LayoutStates SET Hash = Hash || '0' WHERE Id = 1", "it was changed after it was kept")]
    [InlineData("UPDATE LayoutStates SET No = 7 WHERE Key = ''", "not counted one by one")]
    [InlineData("UPDATE LayoutStates SET Key = 'plain' WHERE Key = ''", "not of both")]
    [InlineData("UPDATE KeptPictures SET Data = x'00'", "it was changed after it was kept")]
    [InlineData("DELETE FROM KeptPictures", "that it was issued with are gone")]
    [InlineData("UPDATE IssuedLooks SET StateId = 999", "that it was issued with are gone")]
    [InlineData("UPDATE IssuedLooks SET LogoId = 999", "that it was issued with are gone")]
    [InlineData("DELETE FROM IssuedLooks", "how it looked when it was issued is not kept")]
    [InlineData("UPDATE Layouts SET StateId = 999", "the state that is in use is none of its own")]
    [InlineData("UPDATE Layouts SET Work = 'x'", "what is worked on cannot be read")]
    [InlineData("UPDATE LayoutRules SET LayoutId = 999", "it leads to no layout that is in use")]
    [InlineData("UPDATE LayoutRules SET Key = 'plain'", "it leads to no layout that is in use")]
    [InlineData("UPDATE LayoutRules SET Kind = 'Bill'", "there is no kind of paper Bill")]
    public async Task What_was_tampered_with_is_found(string sql, string found)
    {
        var id = await CopyAsync();
        await UseAsync(id);
        await RuleAsync(id, All);
        await LogoAsync(RedSquare);
        await _loft.IssuedAsync();
        await HealthyAsync();
        await _loft.ExecuteAsync($"PRAGMA foreign_keys = OFF; {sql}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found, StringComparison.Ordinal));
    }
}
