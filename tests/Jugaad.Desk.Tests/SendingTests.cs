using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;
using UglyToad.PdfPig;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Checking and issuing many, mail to the right contacts in the right words, the pile to print, messages, files.
/// </summary>
public sealed class SendingTests
{
    private static Task<MailToSend> ComposeAsync(Loft loft, int id) =>
        loft.WithAsync<MailComposing, MailToSend>(m => m.ForDocumentAsync(id));

    [Fact]
    public async Task Many_drafts_are_issued_and_one_that_is_refused_holds_no_other_up()
    {
        await using var loft = await Loft.OpenAsync();
        var good = new[] { await loft.DraftAsync(), await loft.DraftAsync() };
        var bad = await loft.DraftAsync(
            loft.Content() with
            {
                Particulars = new Particulars(),
            },
            DocumentKind.CreditNote
        );
        var results = await loft.WithAsync<IssuingMany, IReadOnlyList<IssuedOne>>(m =>
            m.IssueAsync([(good[0], 1), (bad, 1), (good[1], 1)], true, "key")
        );
        results.Select(r => r.Refused.Length > 0).ShouldBe([false, true, false]);
        (await loft.DocumentAsync(good[1])).Number.ShouldBe("INV-2025-0002");
        (await loft.WithAsync<BooksContext, int>(db => db.Post.CountAsync())).ShouldBe(2);
        await loft.WithAsync<IssuingMany>(m => m.IssueAsync([(good[0], 1)], true, "key"));
        (await loft.WithAsync<BooksContext, int>(db => db.Post.CountAsync())).ShouldBe(2);
    }

    [Fact]
    public async Task What_is_missing_is_found_before_with_where_it_is_mended()
    {
        await using var loft = await Loft.OpenAsync();
        var rc = await loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new("RC", "Reverse charge", Core.Taxes.TaxCategory.ReverseCharge, "Reverse charge", []))
        );
        var content = loft.Content();
        var id = await loft.DraftAsync(content with { Lines = [content.Lines[0] with { TaxCodeId = rc }] });
        var found = await loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(id, true));
        found.ShouldContain(f =>
            f.Stops && f.Words.Contains("tax number") && f.Address == $"/customers/{loft.Yard}/edit"
        );
        found.ShouldContain(f => !f.Stops && f.Words.Contains("no address"));
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1)))
        ).Message.ShouldContain("no tax number");
        // What gives money back is held up by no number.
        var back = await loft.DraftAsync(
            content with
            {
                Lines = [content.Lines[0] with { TaxCodeId = rc }],
                Particulars = new Particulars { Reason = "Came twice" },
            },
            DocumentKind.CreditNote
        );
        (await loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(back, true))).ShouldNotContain(
            f => f.Stops
        );
        var empty = await loft.DraftAsync(content with { Lines = [] });
        (await loft.WithAsync<IssueCheck, IReadOnlyList<IssueFinding>>(c => c.OfAsync(empty, false))).ShouldContain(f =>
            f.Stops && f.Address == $"/sell/edit/{empty}"
        );
    }

    [Fact]
    public async Task A_quote_goes_to_whoever_decides_and_an_invoice_to_all_who_get_invoices()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.WithAsync<CustomersDesk, int>(c =>
            c.SaveAsync(
                null,
                0,
                new CustomerDetails
                {
                    Name = "Big Yard",
                    Currency = "EUR",
                    Email = "office@big.example",
                    Contacts =
                    [
                        new("Ada", "ada@big.example", GetsInvoices: true),
                        new("Bo", "bo@big.example", GetsInvoices: true),
                        new("Cy", "cy@big.example", Decides: true),
                    ],
                }
            )
        );
        (await ComposeAsync(loft, await loft.DraftAsync(loft.Content(customer: id)))).To.ShouldBe(
            "ada@big.example, bo@big.example"
        );
        (await ComposeAsync(loft, await loft.DraftAsync(loft.Content(customer: id), DocumentKind.Quote))).To.ShouldBe(
            "cy@big.example"
        );
        (await ComposeAsync(loft, await loft.DraftAsync(loft.Content(customer: id), DocumentKind.Order))).To.ShouldBe(
            "office@big.example"
        );
    }

    [Fact]
    public async Task Own_words_are_used_by_language_with_the_amount_in_words_and_as_a_bare_number()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await loft.DraftAsync(loft.Content(2, 500));
        (await ComposeAsync(loft, id)).Body.ShouldContain("attached is our invoice");
        await loft.WithAsync<MailWordsDesk>(w =>
            w.WriteAsync(MailText.Invoice, "", "{{ Number }}", "{{ Total }} | {{ TotalNumber }} | {{ TotalInWords }}")
        );
        (await ComposeAsync(loft, id)).Body.ShouldContain("1240.00 | one thousand two hundred and forty euros");
        await loft.WithAsync<MailWordsDesk>(w =>
            w.WriteAsync(MailText.Invoice, "en", "In English", "Hello {{ Customer }}")
        );
        (await ComposeAsync(loft, id)).Subject.ShouldBe("In English");
        await loft.WithAsync<MailWordsDesk>(w => w.ForgetAsync(MailText.Invoice, "en"));
        (await ComposeAsync(loft, id)).Subject.ShouldBe("INV-2025-0001");
        var refused = (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<MailWordsDesk>(w => w.WriteAsync(MailText.Quote, "", "Hello", "You owe {{ Amount }}"))
            )
        ).Refusals[0];
        (refused.Field, refused.Message.Contains("TotalNumber", StringComparison.Ordinal)).ShouldBe(("body", true));
    }

    [Fact]
    public async Task An_amount_is_said_in_the_language_of_the_text_around_it()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.ExecuteAsync("UPDATE Customers SET Language = 'sv'");
        var invoice = await loft.IssuedAsync();
        await loft.WithAsync<MailWordsDesk>(w => w.WriteAsync(MailText.Invoice, "", "All", "{{ TotalInWords }}"));
        (await ComposeAsync(loft, invoice.Id)).Body.ShouldContain("one hundred and twenty-four euros");
        await loft.WithAsync<MailWordsDesk>(w => w.WriteAsync(MailText.Invoice, "sv", "Svar", "{{ TotalInWords }}"));
        (await ComposeAsync(loft, invoice.Id)).Body.ShouldContain("etthundratjugofyra euro");
    }

    [Fact]
    public async Task The_pile_waits_for_the_printer_and_is_one_pdf_with_each_mark()
    {
        await using var loft = await Loft.OpenAsync();
        var first = await loft.IssuedAsync();
        var second = await loft.IssuedAsync();
        foreach (var (document, marks) in new[] { (first, "Original,Copy"), (second, "") })
            await loft.WithAsync<PostTray>(t =>
                t.AddAsync(
                    new MailToSend("", "Invoice", "By post")
                    {
                        Way = PostWay.Print,
                        Marks = marks,
                        CustomerId = loft.Yard,
                        DocumentIds = [document.Id],
                    }
                )
            );
        await loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        var waiting = await loft.WithAsync<BooksContext, List<PostItem>>(db => db.Post.ToListAsync());
        waiting.ShouldAllBe(p => p.State == PostState.Waiting);
        var pdf = await loft.WithAsync<PaperRoom, byte[]>(p =>
            p.PileAsync([
                (first.Id, new PaperStyle("Original")),
                (first.Id, new PaperStyle("Copy")),
                (second.Id, new PaperStyle()),
            ])
        );
        using var read = PdfDocument.Open(pdf);
        read.NumberOfPages.ShouldBe(3);
        read.GetPage(2).Text.ShouldContain("Copy");
        await loft.WithAsync<PostTray>(t => t.PrintedAsync([.. waiting.Select(w => w.Id)]));
        (
            await loft.WithAsync<BooksContext, bool>(db => db.Post.AllAsync(p => p.State == PostState.Sent))
        ).ShouldBeTrue();
    }

    [Fact]
    public async Task A_message_has_the_link_and_a_number_not_in_use_comes_back()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var message = await loft.WithAsync<MailComposing, MailToSend>(m => m.MessageAsync(invoice.Id));
        message.Body.ShouldContain("http://harbour.example/p/");
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<PostTray>(t => t.AddAsync(message))))
            .Refusals[0]
            .Field.ShouldBe("to");
        await loft.WithAsync<PostTray>(t => t.AddAsync(message with { To = "+372 5550 0142" }));
        await loft.WithAsync<PostTray>(t => t.AddAsync(message with { To = "+372 5550 0000" }));
        await loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        (await loft.WithAsync<BooksContext, List<PostItem>>(db => db.Post.ToListAsync())).ShouldAllBe(
            p => p.State == PostState.Waiting && p.LastProblem == Connections.NoMessages,
            "outside the demo nothing is called sent that nobody got"
        );
        await loft.BeTheDemoAsync();
        loft.Clock.Advance(TimeSpan.FromHours(1));
        await loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        (
            await loft.WithAsync<BooksContext, List<PostState>>(db =>
                db.Post.OrderBy(p => p.Id).Select(p => p.State).ToListAsync()
            )
        ).ShouldBe([PostState.Sent, PostState.Failed]);
    }

    [Fact]
    public async Task Files_that_go_along_are_attached_and_with_only_a_link_nothing_is()
    {
        await using var loft = await Loft.OpenAsync();
        var invoice = await loft.IssuedAsync();
        var file = await loft.WithAsync<Files, int>(f => f.AddAsync(invoice.Id, "..\\dr<aw>ing.dxf", [1, 2, 3]));
        (await ComposeAsync(loft, invoice.Id)).FileIds.ShouldBeEmpty();
        await loft.WithAsync<Files>(f => f.SendAsync(file, true));
        var mail = await ComposeAsync(loft, invoice.Id);
        await loft.WithAsync<PostTray>(t => t.AddAsync(mail));
        await loft.WithAsync<PostTray>(t => t.AddAsync(mail with { LinkOnly = true, FileIds = [] }));
        await loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        loft.Carrier.Carried.Select(m => string.Join(' ', m.Attachments.Select(a => a.Name)))
            .ShouldBe(["Invoice-INV-2025-0001.pdf drawing.dxf", ""]);
        foreach (var content in new[] { Array.Empty<byte>(), new byte[DocumentFile.MostBytes + 1] })
            (
                await Should.ThrowAsync<RefusalException>(() =>
                    loft.WithAsync<Files>(f => f.AddAsync(invoice.Id, "x.txt", content))
                )
            )
                .Refusals[0]
                .Field.ShouldBe("file");
    }

    [Fact]
    public async Task A_slip_and_a_packing_list_are_set_from_the_same_document()
    {
        await using var loft = await Loft.OpenAsync();
        var note = await loft.IssuedAsync(kind: DocumentKind.Order);
        var packing = await loft.WithAsync<PaperRoom, byte[]>(async p =>
            (await p.PdfAsync(note.Id, [new PaperStyle(WithoutPrices: true)])).Content
        );
        using (var read = PdfDocument.Open(packing))
            (
                read.GetPage(1).Text.Contains("Packing list", StringComparison.Ordinal),
                read.GetPage(1).Text.Contains("124.00", StringComparison.Ordinal)
            ).ShouldBe((true, false));
        var slip = await loft.WithAsync<PaperRoom, byte[]>(async p =>
            (await p.PdfAsync(note.Id, [new PaperStyle(Slip: true)])).Content
        );
        using var strip = PdfDocument.Open(slip);
        Math.Round(strip.GetPage(1).Width / 72 * 25.4).ShouldBe(80);
        strip.GetPage(1).Text.ShouldContain("124.00");
    }
}
