using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Papers in the language that is asked for, in words of our own, and as they were on their day.</summary>
public sealed class WordingTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync() => _loft = await Loft.OpenAsync();

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private async Task<string> TextAsync(int id, PaperStyle? style = null) =>
        string.Join(
            '\n',
            (await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(id, style)))
                .Pages.SelectMany(p => p.Marks)
                .OfType<TextMark>()
                .Select(t => t.Text)
        );

    private Task<int> WriteAsync(string language, params WordingToSet[] words) =>
        _loft.WithAsync<WordingsDesk, int>(d => d.WriteAsync(language, words));

    private static WordingToSet Word(PaperWord word, string text) => new(WordingOf.Word, $"{word}", text);

    private async Task<Document> WrittenInAsync(string language, DocumentKind kind = DocumentKind.Invoice) =>
        await _loft.IssuedAsync(
            _loft.Content() with
            {
                Particulars = new Particulars
                {
                    Language = language,
                    Reason = kind == DocumentKind.CreditNote ? "x" : "",
                },
            },
            kind
        );

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task A_document_is_written_in_a_language_of_its_own_and_so_is_what_is_made_of_it()
    {
        var quote = await WrittenInAsync("de", DocumentKind.Quote);
        quote.Language.ShouldBe("de");
        (await TextAsync(quote.Id)).ShouldContain("Angebot");
        await _loft.WithAsync<Making.Quotes, int>(d => d.AnswerAsync(quote.Id, true));
        var invoice = await _loft.WithAsync<Making.MakingDesk, int>(d => d.InvoiceAsync(quote.Id));
        (await TextAsync(invoice)).ShouldContain("Rechnung", customMessage: "a draft is too");
        await _loft.WithAsync<IssuingDesk>(d => d.IssueAsync(invoice, 1));
        var credit = await _loft.WithAsync<Credits, int>(d => d.DraftAsync(invoice, "returned"));
        (await TextAsync(credit)).ShouldContain("Gutschrift");
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldContain("Invoice");
        (await Should.ThrowAsync<RefusalException>(() => WrittenInAsync("xx"))).Refusals.ShouldContain(r =>
            r.Field == "language"
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task Words_of_our_own_stand_on_new_papers_and_those_of_its_day_on_an_issued_one()
    {
        var before = await WrittenInAsync("sv");
        await WriteAsync("sv", Word(PaperWord.Invoice, "Räkning"), Word(PaperWord.ToPay, "Betala nu"));
        var after = await WrittenInAsync("sv");
        (await TextAsync(before.Id)).ShouldContain("Faktura");
        (await TextAsync(before.Id)).ShouldNotContain("Betala nu");
        (await TextAsync(after.Id)).ShouldContain("Räkning");
        (await TextAsync(after.Id)).ShouldContain("Betala nu");
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldContain("Invoice");
        (await TextAsync(before.Id, new PaperStyle { Language = "de" })).ShouldContain("Rechnung");

        // As it ships is not of our own; nothing typed goes back to what ships.
        (await WriteAsync("sv", Word(PaperWord.Invoice, "Faktura"))).ShouldBe(1);
        (await WriteAsync("sv", Word(PaperWord.ToPay, " "))).ShouldBe(1);
        (await _loft.WithAsync<BooksContext, int>(db => db.Wordings.CountAsync())).ShouldBe(0);
        (await TextAsync(after.Id)).ShouldContain("Räkning");
        (await TextAsync((await WrittenInAsync("sv")).Id)).ShouldContain("Faktura");
        await HealthyAsync();
    }

    [Fact]
    public async Task A_word_must_say_what_is_put_into_it()
    {
        foreach (
            var (word, text, said) in new[]
            {
                (PaperWord.PageOf, "Sida", "{0} and {1}"),
                (PaperWord.PageOf, "Sida {0} av {2}", "{0} and {1}"),
                (PaperWord.Invoice, "Faktura {0}", "without gaps"),
                (PaperWord.Invoice, "Faktura {", "Braces stand only"),
                (PaperWord.Invoice, new string('x', 401), "longer than 400"),
                (PaperWord.Invoice, "a\tb", "marks that cannot be seen"),
            }
        )
            (await Should.ThrowAsync<RefusalException>(() => WriteAsync("sv", Word(word, text))))
                .Refusals.ShouldHaveSingleItem()
                .Message.ShouldContain(said);
        await Should.ThrowAsync<RefusalException>(() =>
            WriteAsync("sv", new WordingToSet(WordingOf.Word, "Bill", "x"))
        );
        await Should.ThrowAsync<RefusalException>(() => WriteAsync("xx", Word(PaperWord.Invoice, "x")));
        (await WriteAsync("sv", Word(PaperWord.PageOf, "{1} sidor, denna {0}"))).ShouldBe(1);
        (await TextAsync((await WrittenInAsync("sv")).Id)).ShouldContain("1 sidor, denna 1");
    }

    [Fact]
    public async Task What_a_tax_code_says_is_said_in_the_language_of_the_paper()
    {
        var code = await _loft.WithAsync<TaxDesk, int>(t =>
            t.AddCodeAsync(new TaxCodeToAdd("EX", "Exempt", Core.Taxes.TaxCategory.Exempt, "Exempt by law.", []))
        );
        Task SayAsync(string swedish, string german = "") =>
            _loft.WithAsync<WordingsDesk>(w =>
                w.WriteTaxReasonAsync(code, new Dictionary<string, string> { ["sv"] = swedish, ["de"] = german })
            );
        var content = _loft.Content();
        content = content with { Lines = [content.Lines[0] with { TaxCodeId = code }] };
        DraftContent In(string language) => content with { Particulars = new Particulars { Language = language } };
        await SayAsync("Undantaget.", "Steuerfrei.");
        var draft = await _loft.DraftAsync(In("sv"));
        var issued = await _loft.IssuedAsync(In("sv"));
        (await TextAsync((await _loft.IssuedAsync(In("fi"))).Id)).ShouldContain("Exempt by law.");
        await SayAsync("Ingen moms.");
        (await TextAsync(issued.Id)).ShouldContain("Undantaget.", customMessage: "it is issued");
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(draft, 1));
        (await TextAsync(draft)).ShouldContain("Ingen moms.", customMessage: "a draft follows");
        (await TextAsync((await _loft.IssuedAsync(In("de"))).Id)).ShouldContain("Exempt by law.");
        // So it does where the code's own words change.
        var own = await _loft.DraftAsync(In("de"));
        await _loft.ExecuteAsync($"UPDATE TaxCodes SET Reason = 'Exempt, section 7.' WHERE Id = {code}");
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(own, 1));
        (await TextAsync(own)).ShouldContain("Exempt, section 7.");
        await HealthyAsync();
        (await Should.ThrowAsync<RefusalException>(() => SayAsync(new string('x', 501))))
            .Refusals.ShouldHaveSingleItem()
            .Field.ShouldBe("text-sv");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<WordingsDesk>(w => w.WriteTaxReasonAsync(999, new Dictionary<string, string>()))
        );
        await _loft.ExecuteAsync("UPDATE Wordings SET Key = '999' WHERE Of = 'TaxReason'");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("nothing that is printed"));
    }

    [Fact]
    public async Task Notes_footers_and_items_are_said_in_the_language_of_the_paper()
    {
        await _loft.WithAsync<BusinessDesk, int>(d =>
            d.WriteTextsAsync([
                (DocumentKind.Invoice, "Thank you.", "Own foot."),
                (DocumentKind.CreditNote, "Sorry.", ""),
            ])
        );
        await WriteAsync(
            "sv",
            new WordingToSet(WordingOf.Note, "Invoice", "Tack."),
            new WordingToSet(WordingOf.Note, "CreditNote", "Förlåt."),
            new WordingToSet(WordingOf.Footer, Wording.Usual, "Vanlig fot.")
        );
        (await TextAsync((await WrittenInAsync("sv")).Id)).ShouldContain("Own foot.", customMessage: "of its kind");
        (await TextAsync((await WrittenInAsync("sv", DocumentKind.Quote)).Id)).ShouldContain("Vanlig fot.");
        await WriteAsync("sv", new WordingToSet(WordingOf.Footer, "Invoice", "Egen fot."));
        var invoice = await WrittenInAsync("sv");
        (await TextAsync(invoice.Id)).ShouldContain("Egen fot.");
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldContain("Own foot.");
        var credit = await _loft.WithAsync<Credits, int>(d => d.DraftAsync(invoice.Id, "fel"));
        (await _loft.DocumentAsync(credit)).Note.ShouldBe("Förlåt.");

        var item = await _loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "ROPE",
                    Name = "Rope",
                    Price = 3,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );
        await _loft.WithAsync<WordingsDesk, int>(d =>
            d.WriteItemAsync(item, new Dictionary<string, string> { ["sv"] = "Rep", ["de"] = "Seil" })
        );
        Task<(IReadOnlyList<string> Texts, string Note)> RewordAsync(string from, string to, params string[] texts) =>
            _loft.WithAsync<Wordings, (IReadOnlyList<string>, string)>(w =>
                w.RewordAsync(DocumentKind.Invoice, [.. texts.Select(t => ((int?)item, t))], "Tack.", from, to)
            );
        (await RewordAsync("sv", "de", "Rep", "Rep, rött")).Texts.ShouldBe(["Seil", "Rep, rött"]);
        (await RewordAsync("sv", "fi", "Rep")).Texts.ShouldBe(["Rope"]);
        (await RewordAsync("", "sv", "Rope")).Texts.ShouldBe(["Rep"]);
        (await RewordAsync("sv", "de", "Rep")).Note.ShouldBe("Thank you.");
        (await RewordAsync("de", "fi", "Rep")).Note.ShouldBe("Tack.", "it is not as the kind has it, so it was typed");
        await HealthyAsync();
    }

    [Fact]
    public async Task A_language_of_our_own_is_written_in_and_what_it_lacks_is_in_english()
    {
        Task<int> AddAsync(string code, string name, string mark = ",", string dates = "dd.MM.yyyy") =>
            _loft.WithAsync<WordingsDesk, int>(d => d.AddLanguageAsync(code, name, mark, dates));
        (await Should.ThrowAsync<RefusalException>(() => WrittenInAsync("is"))).Message.ShouldContain("language");
        await AddAsync("IS", "Icelandic");
        foreach (
            var (code, name, mark, dates) in new[]
            {
                ("is", "Other", ",", "dd.MM.yyyy"),
                ("sv", "Sw", ",", "dd.MM.yyyy"),
                ("fo", "Swedish", ",", "dd.MM.yyyy"),
                ("fao", "Faroese", ",", "dd.MM.yyyy"),
                ("fo", "Faroese", "'", "dd.MM.yyyy"),
                ("fo", "Faroese", ",", "yy"),
            }
        )
            await Should.ThrowAsync<RefusalException>(() => AddAsync(code, name, mark, dates));
        await WriteAsync("is", Word(PaperWord.Invoice, "Reikningur"));
        var text = await TextAsync((await WrittenInAsync("is")).Id);
        text.ShouldContain("Reikningur");
        text.ShouldContain("17.09.2025");
        text.ShouldContain("124,00");
        text.ShouldContain("To pay", customMessage: "it has no word of its own for that");
        var details = await _loft.WithAsync<BooksContext, CustomerDetails>(async db =>
            (await db.Customers.Include(c => c.Contacts).SingleAsync(c => c.Id == _loft.Yard)).Details()
        );
        var version = await _loft.NumberAsync($"SELECT Version FROM Customers WHERE Id = {_loft.Yard}");
        await _loft.WithAsync<CustomersDesk, int>(d =>
            d.SaveAsync(_loft.Yard, (int)version, details with { Language = "is" })
        );
        (await TextAsync((await _loft.IssuedAsync()).Id)).ShouldContain("Reikningur");
        await Should.ThrowAsync<RefusalException>(() =>
            _loft.WithAsync<CustomersDesk, int>(d =>
                d.SaveAsync(_loft.Yard, (int)version + 1, details with { Language = "fo" })
            )
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task Mails_speak_the_language_of_the_paper_and_reminders_that_of_the_customer()
    {
        await _loft.ExecuteAsync("UPDATE Customers SET Language = 'de', ContactName = 'Ann'");
        var invoice = await _loft.IssuedAsync(_loft.Content(date: Loft.Today.AddDays(-40)));
        var swedish = await WrittenInAsync("sv");
        var mail = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(invoice.Id));
        mail.Subject.ShouldStartWith("Rechnung INV-");
        mail.Body.ShouldStartWith("Guten Tag Ann,");
        mail.Body.ShouldContain("124,00\u00a0EUR");
        var other = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(swedish.Id));
        other.Subject.ShouldStartWith("Faktura INV-");
        other.Body.ShouldContain("senast 2025-10-01");
        var message = await _loft.WithAsync<MailComposing, MailToSend>(c => c.MessageAsync(swedish.Id));
        message.Subject.ShouldBe($"faktura {swedish.Number}");
        var reminder = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ReminderAsync(_loft.Yard));
        reminder.Body.ShouldContain(
            $"  {invoice.Number} vom 08.08.2025, fällig am 22.08.2025, Tage überfällig: 26: 124,00"
        );
        var receipt = await _loft.ReceiveAsync(100_00, ((await _loft.ItemOfAsync(invoice.Id)).Id, 100_00));
        var thanks = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForReceiptAsync(receipt));
        thanks.Body.ShouldContain($"  {invoice.Number}: 100,00\u00a0EUR, 24,00\u00a0EUR noch offen");

        // Our own words for all languages are taken for English.
        await _loft.WithAsync<MailWordsDesk, int>(d =>
            d.WriteAsync(MailText.Invoice, "", "Bill {{ Number }}", "{{ Greeting }}: {{ TotalInWords }}, {{ Until }}")
        );
        (await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(invoice.Id))).Body.ShouldBe(
            "Dear Ann: one hundred and twenty-four euros, 22 Aug 2025"
        );
    }

    [Fact]
    public async Task What_was_sent_is_kept_as_it_was_sent()
    {
        var invoice = await _loft.IssuedAsync();
        var file = await _loft.WithAsync<Files, int>(f => f.AddAsync(invoice.Id, "drawing.dxf", [1, 2, 3]));
        await _loft.WithAsync<Files>(f => f.SendAsync(file, true));
        async Task<int> SendAsync(bool linkOnly = false)
        {
            var mail = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(invoice.Id));
            var id = await _loft.WithAsync<PostTray, int>(t => t.AddAsync(mail with { LinkOnly = linkOnly }));
            await _loft.WithAsync<PostCarrying>(c => c.CarryAsync());
            return id;
        }

        var first = await SendAsync();
        var carried = _loft.Carrier.Carried[0].Attachments;
        await _loft.ExecuteAsync($"UPDATE DocumentFiles SET Content = x'09' WHERE Id = {file}");
        var kept = await _loft.WithAsync<SentPapers, IReadOnlyList<SentPaper>>(s => s.OfAsync(first));
        kept.Select(k => k.Name).ShouldBe(["Invoice-INV-2025-0001.pdf", "drawing.dxf"]);
        for (var i = 0; i < carried.Count; i++)
        {
            var at = i;
            var found = await _loft.WithAsync<SentPapers, (string Name, byte[] Data)?>(s => s.FindAsync(first, at));
            found!.Value.Data.ShouldBe(carried[i].Content);
        }

        (await _loft.WithAsync<SentPapers, (string, byte[])?>(s => s.FindAsync(first, 2))).ShouldBeNull();
        await SendAsync();
        (await _loft.NumberAsync("SELECT count(*) FROM SentPapers")).ShouldBe(4);
        var link = await SendAsync(linkOnly: true);
        (await _loft.WithAsync<SentPapers, IReadOnlyList<SentPaper>>(s => s.OfAsync(link)))
            .Select(s => s.Name)
            .ShouldBe(["drawing.dxf"]);
        (await _loft.NumberAsync("SELECT count(DISTINCT FileId) FROM SentPapers WHERE Name = 'drawing.dxf'")).ShouldBe(
            2,
            "three went, of which two were the same file"
        );
        await HealthyAsync();
    }

    [Fact]
    public async Task What_went_with_a_try_that_came_back_gives_way_to_what_went_with_the_next()
    {
        var invoice = await _loft.IssuedAsync();
        var tries = 0;
        _loft.Carrier.Before = _ =>
        {
            if (tries++ == 0)
                throw new Outside.CarrierException("busy", Outside.CarrierFate.NotTaken);
        };
        var mail = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(invoice.Id));
        var id = await _loft.WithAsync<PostTray, int>(t => t.AddAsync(mail));
        await _loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        _loft.Clock.Advance(TimeSpan.FromMinutes(2));
        await _loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        tries.ShouldBe(2);
        (await _loft.WithAsync<SentPapers, IReadOnlyList<SentPaper>>(s => s.OfAsync(id))).Count.ShouldBe(1);
        await HealthyAsync();
    }

    [Theory]
    [InlineData("UPDATE KeptWords SET Text = replace(Text, 'Faktura', 'Kvitto')", "were changed after they were kept")]
    [InlineData("UPDATE KeptWords SET Text = 'x'", "they cannot be read")]
    [InlineData("DELETE FROM KeptWords", "the words that it was issued with are gone")]
    [InlineData("UPDATE IssuedLooks SET WordsId = 1 WHERE DocumentId = 2", "was not issued with the layout")]
    [InlineData("UPDATE IssuedLooks SET LogoId = NULL, Seal = ''", "was not issued with the layout")]
    [InlineData("UPDATE IssuedLooks SET Why = 'x'", "was not issued with the layout")]
    [InlineData("UPDATE Wordings SET Language = 'xx'", "there is no language xx")]
    [InlineData("UPDATE Wordings SET Text = 'x {{0}}'", "lack what is put in")]
    [InlineData("UPDATE Wordings SET Key = 'Bill'", "for nothing that is printed")]
    [InlineData("UPDATE Wordings SET Of = 'Item', Key = '77'", "for nothing that is printed")]
    [InlineData(
        "UPDATE Documents SET Particulars_Language = 'de' WHERE Id = 2",
        "is written in no language that there is"
    )]
    [InlineData("UPDATE OwnLanguages SET DecimalMark = ''", "how it writes figures and dates cannot be")]
    [InlineData("UPDATE OwnLanguages SET Dates = 'y'", "how it writes figures and dates cannot be")]
    [InlineData("UPDATE OwnLanguages SET Code = 'xyz'", "how it writes figures and dates cannot be")]
    [InlineData("UPDATE SentFiles SET Data = x'00'", "it was changed after it went")]
    [InlineData("DELETE FROM SentPapers", "a file that went along with it is not kept")]
    [InlineData("DELETE FROM SentFiles", "went along with it and is gone")]
    [InlineData("UPDATE Post SET FilesCarried = NULL", "a file that went along with it is not kept")]
    [InlineData("UPDATE SentPapers SET Position = 3", "a file that went along with it is not kept")]
    public async Task What_was_tampered_with_is_found(string sql, string found)
    {
        await _loft.IssuedAsync();
        await _loft.WithAsync<WordingsDesk, int>(d => d.AddLanguageAsync("is", "Icelandic", ",", "dd.MM.yyyy"));
        var invoice = await WrittenInAsync("sv");
        await WriteAsync("sv", Word(PaperWord.Invoice, "Räkning"));
        var mail = await _loft.WithAsync<MailComposing, MailToSend>(c => c.ForDocumentAsync(invoice.Id));
        await _loft.WithAsync<PostTray, int>(t => t.AddAsync(mail));
        await _loft.WithAsync<PostCarrying>(c => c.CarryAsync());
        await HealthyAsync();
        await _loft.ExecuteAsync($"PRAGMA foreign_keys = OFF; {sql}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found, StringComparison.Ordinal));
    }
}
