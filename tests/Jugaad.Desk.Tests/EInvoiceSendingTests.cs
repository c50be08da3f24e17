using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Making;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Desk.Tests;

/// <summary>E-invoices through the network, to receivers that take, delay, refuse and vanish.</summary>
public sealed class EInvoiceSendingTests : IAsyncLifetime
{
    private Loft _loft = null!;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.BeTheDemoAsync();
        await _loft.ExecuteAsync(
            "UPDATE Businesses SET TaxNumber = 'EE101188342', Electronic_Scheme = '0191', Electronic_Value = '14730926'"
        );
        await ToAsync("0191", "10118834");
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task ToAsync(string scheme, string number) =>
        _loft.ExecuteAsync(
            $"UPDATE Customers SET Electronic_Scheme = '{scheme}', Electronic_Value = '{number}', Takes = 'EInvoice', Address_Country = 'EE' WHERE Name = 'Yard'"
        );

    private Task<int> SendAsync(int document, string? key = null) =>
        _loft.WithAsync<EInvoiceSending, int>(s => s.SendAsync(document, key));

    private Task CarryAsync() => _loft.WithAsync<PostCarrying>(p => p.CarryAsync());

    private Task<int> AskAsync() => _loft.WithAsync<NetworkAnswers, int>(a => a.TakeAsync());

    private async Task<EInvoiceRow> FateAsync(int document) =>
        (await _loft.WithAsync<EInvoiceScreens, IReadOnlyList<EInvoiceRow>>(s => s.RowsAsync(null, document)))[0];

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task It_goes_once_arrives_and_is_taken()
    {
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id, "form");
        // The same form once more is the same one.
        await SendAsync(invoice.Id, "form");
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.OnItsWay);
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(invoice.Id))).Message.ShouldContain("already");
        await CarryAsync();
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Arrived);
        (await AskAsync()).ShouldBe(1);
        (await AskAsync()).ShouldBe(0);
        var fate = await FateAsync(invoice.Id);
        (fate.Fate, fate.To, fate.Number).ShouldBe((EInvoiceFate.Taken, "0191:10118834", invoice.Number));
        (await _loft.NumberAsync("SELECT COUNT(*) FROM NetworkAnswers")).ShouldBe(1);

        // What went is kept as it was, and is what the receiver has.
        var kept = await _loft.WithAsync<SentPapers, (string Name, byte[] Data)?>(s => s.FindAsync(fate.PostItemId, 0));
        kept!.Value.Name.ShouldBe($"{invoice.Number}.xml");
        var there = Directory.GetFiles(Path.Combine(_loft.File.Folder, "network"), "*.xml").Single();
        (await File.ReadAllBytesAsync(there)).ShouldBe(kept.Value.Data);
        await HealthyAsync();
    }

    [Fact]
    public async Task Two_at_once_send_it_once()
    {
        var invoice = await _loft.IssuedAsync();
        var sent = await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(async _ =>
                {
                    try
                    {
                        await Task.Run(() => SendAsync(invoice.Id));
                        return 1;
                    }
                    catch (RefusalException)
                    {
                        return 0;
                    }
                })
        );
        sent.Sum().ShouldBe(1);
        await CarryAsync();
        await Task.WhenAll(AskAsync(), AskAsync());
        (await _loft.NumberAsync("SELECT COUNT(*) FROM NetworkAnswers")).ShouldBe(1);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_slow_receiver_works_at_it_and_takes_it_days_later()
    {
        await ToAsync("0191", "10227745");
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id);
        await CarryAsync();
        await AskAsync();
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.InWork);
        await _loft.ExecuteAsync($"UPDATE Businesses SET PinnedDay = '{Loft.Today.AddDays(3):yyyy-MM-dd}'");
        (await AskAsync()).ShouldBe(1);
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Taken);
        await HealthyAsync();
    }

    [Fact]
    public async Task Refused_it_is_credited_copied_and_sent_right()
    {
        await ToAsync("0191", "80101123");
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id);
        await CarryAsync();
        await AskAsync();
        var fate = await FateAsync(invoice.Id);
        (fate.Fate, fate.Why.Contains("BT-10", StringComparison.Ordinal)).ShouldBe((EInvoiceFate.Refused, true));
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(invoice.Id))).Message.ShouldContain("already");
        Task<IReadOnlyList<EInvoiceRow>> OpenAsync() =>
            _loft.WithAsync<EInvoiceScreens, IReadOnlyList<EInvoiceRow>>(s => s.RefusedByAsync(_loft.Yard));
        (await OpenAsync()).Single().Number.ShouldBe(invoice.Number);

        await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "refused", null));
        (await OpenAsync()).ShouldBeEmpty();
        await _loft.ExecuteAsync("UPDATE Customers SET BuyerReference = 'DEPT-7' WHERE Name = 'Yard'");
        var copy = await _loft.WithAsync<Copies, int>(c => c.CopyAsync(invoice.Id, null, null));
        var version = (await _loft.DocumentAsync(copy)).Version;
        await _loft.WithAsync<IssuingDesk>(i => i.IssueAsync(copy, version, null));
        await SendAsync(copy);
        await CarryAsync();
        await AskAsync();
        (await FateAsync(copy)).Fate.ShouldBe(EInvoiceFate.Taken);
        await HealthyAsync();
    }

    [Fact]
    public async Task A_refused_credit_note_is_sent_again_once_its_receiver_can_take_it()
    {
        await ToAsync("0191", "80101123");
        var invoice = await _loft.IssuedAsync();
        var credit = await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "wrong", null));
        await SendAsync(credit);
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(credit))).Message.ShouldContain("already");
        await CarryAsync();
        await AskAsync();
        (await FateAsync(credit)).Fate.ShouldBe(EInvoiceFate.Refused);
        await ToAsync("0191", "10118834");
        await SendAsync(credit);
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(credit))).Message.ShouldContain("already");
        await CarryAsync();
        await AskAsync();
        (await FateAsync(credit)).Fate.ShouldBe(EInvoiceFate.Taken);
        await HealthyAsync();
        // Twice to one who took it is not told as that.
        await _loft.ExecuteAsync("UPDATE NetworkAnswers SET Kind = 'Taken', Reason = ''");
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains("went 2 times"));
    }

    [Fact]
    public async Task While_a_draft_is_typed_it_is_said_what_its_e_invoice_would_lack()
    {
        var document = await _loft.IssuedAsync();
        async Task<string> SaidAsync() =>
            string.Join(
                '\n',
                (
                    await _loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w =>
                        w.WhileTypingAsync(document, document.Id)
                    )
                ).Select(r => r.Message)
            );
        await _loft.ExecuteAsync(
            "UPDATE Businesses SET Phone = '1'; UPDATE Customers SET Address_City = 'Hanko', Address_PostalCode = '1' WHERE Name = 'Yard'"
        );
        (await SaidAsync()).ShouldNotContain("lack");
        await _loft.ExecuteAsync(
            "UPDATE Businesses SET TaxNumber = ''; UPDATE Customers SET Address_Country = '' WHERE Name = 'Yard'"
        );
        var said = await SaidAsync();
        said.ShouldContain("lack of us");
        said.ShouldContain("lack of Yard");
        await _loft.ExecuteAsync("UPDATE Customers SET Takes = 'Pdf' WHERE Name = 'Yard'");
        (await SaidAsync()).ShouldNotContain("lack");
    }

    [Theory]
    [InlineData("0191", "99999999", "no receiver")]
    [InlineData("", "", "no electronic address")]
    public async Task Who_is_not_there_is_said_before_anything_is_sent(string scheme, string number, string why)
    {
        await ToAsync(scheme, number);
        var invoice = await _loft.IssuedAsync();
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(invoice.Id))).Message.ShouldContain(why);
        // The usual way falls back on the mail.
        var id = await _loft.WithAsync<Sending, int>(s => s.SendAsync(invoice.Id));
        (
            await _loft.WithAsync<BooksContext, PostWay>(db =>
                db.Post.Where(p => p.Id == id).Select(p => p.Way).SingleAsync()
            )
        ).ShouldBe(PostWay.Mail);
    }

    [Fact]
    public async Task A_receiver_that_has_vanished_sends_it_back_for_good_and_it_may_go_again()
    {
        await ToAsync("0192", "912345688");
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id);
        await CarryAsync();
        var fate = await FateAsync(invoice.Id);
        (fate.Fate, fate.Why.Contains("does not know them", StringComparison.Ordinal)).ShouldBe(
            (EInvoiceFate.Stuck, true)
        );
        await ToAsync("0191", "10118834");
        await SendAsync(invoice.Id);
        await CarryAsync();
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Arrived);
        await HealthyAsync();
    }

    [Fact]
    public async Task What_breaks_a_rule_does_not_leave()
    {
        await _loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = ''");
        var invoice = await _loft.IssuedAsync();
        (await Should.ThrowAsync<RefusalException>(() => SendAsync(invoice.Id))).Message.ShouldContain("BR-");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Post")).ShouldBe(0);
        var many = await _loft.WithAsync<EInvoiceSending, (int Sent, IReadOnlyList<Phrase> Refused)>(s =>
            s.SendAllAsync([invoice.Id])
        );
        (many.Sent, many.Refused.Count).ShouldBe((0, 1));
    }

    [Fact]
    public async Task An_item_that_changes_afterwards_changes_nothing_that_was_issued()
    {
        var item = await _loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "ROPE",
                    Name = "Rope",
                    Price = 10,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                    Classification = "ROPE-8",
                    ClassificationList = "ZZZ",
                    OriginCountry = "FI",
                }
            )
        );
        var content = _loft.Content(10, 2);
        var invoice = await _loft.IssuedAsync(content with { Lines = [content.Lines[0] with { ItemId = item }] });
        async Task<InvoiceLine> LineAsync() =>
            (await _loft.WithAsync<EInvoices, CheckedEInvoice>(e => e.OfAsync(invoice.Id))).Invoice.Lines.Single();
        var before = await LineAsync();
        (before.Classes.Single(), before.Origin, before.SellersId).ShouldBe(
            (new Identifier("ROPE-8", "ZZZ"), "FI", "ROPE")
        );
        await _loft.ExecuteAsync("UPDATE Items SET Code = 'X', Classification = 'Y', OriginCountry = 'SE'");
        await HealthyAsync();
        foreach (
            var (tampering, finding) in new[]
            {
                ("UPDATE Items SET OriginCountry = 'QQ'", "no country to come from"),
                ("UPDATE Items SET OriginCountry = 'SE', ClassificationList = 'x'", "no list of classifications"),
            }
        )
        {
            await _loft.ExecuteAsync(tampering);
            (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(finding, StringComparison.Ordinal));
        }

        (await LineAsync()).SellersId.ShouldBe("ROPE");
        (await LineAsync()).Classes.ShouldBe(before.Classes);
        await _loft.ExecuteAsync("UPDATE Documents SET Facts = replace(Facts, '\"ItemId\":', '\"ItemId\":9')");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains("not of its lines", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task One_that_failed_is_not_tried_again_once_another_went()
    {
        await ToAsync("0192", "912345688");
        var invoice = await _loft.IssuedAsync();
        var failed = await SendAsync(invoice.Id);
        await CarryAsync();
        await ToAsync("0191", "10118834");
        await SendAsync(invoice.Id);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                _loft.WithAsync<PostTray, int>(t => t.TryAgainAsync(failed))
            )
        ).Message.ShouldContain("meanwhile");
        await CarryAsync();
        await HealthyAsync();
    }

    [Fact]
    public async Task A_customer_that_becomes_part_of_another_takes_its_e_invoices_along()
    {
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id);
        await CarryAsync();
        await AskAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET Currency = 'EUR' WHERE Name = 'Varv'");
        await _loft.WithAsync<CustomersDesk, int>(c => c.MergeAsync(_loft.Swede, _loft.Yard));
        await HealthyAsync();
    }

    [Theory]
    [InlineData("0191", "10118834", PostWay.Network)]
    [InlineData("", "", PostWay.Mail)]
    public async Task Issued_and_sent_in_one_go_it_goes_in_the_form_that_the_customer_gets(
        string scheme,
        string number,
        PostWay way
    )
    {
        await ToAsync(scheme, number);
        var draft = await _loft.DraftAsync();
        var version = (await _loft.DocumentAsync(draft)).Version;
        await _loft.WithAsync<Sending, int>(s => s.IssueAsync(draft, version, "form"));
        await _loft.WithAsync<Sending, int>(s => s.IssueAsync(draft, version, "form"));
        var went = await _loft.WithAsync<BooksContext, List<PostItem>>(db => db.Post.ToListAsync());
        (went.Single().Way, went[0].Subject.Contains((await _loft.DocumentAsync(draft)).Number!)).ShouldBe((way, true));
        // No address and yet e-invoices is what the check would find; here it is only how the fallback is reached.
        if (scheme.Length > 0)
            await HealthyAsync();
    }

    [Fact]
    public async Task A_hybrid_goes_by_mail_with_the_invoice_inside_and_plain_where_it_can_have_none()
    {
        await _loft.ExecuteAsync("UPDATE Customers SET Takes = 'HybridPdf'");
        foreach (var hasNumber in new[] { true, false })
        {
            if (!hasNumber)
                await _loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = ''");
            var invoice = await _loft.IssuedAsync();
            var id = await _loft.WithAsync<Sending, int>(s => s.SendAsync(invoice.Id));
            await CarryAsync();
            var kept = await _loft.WithAsync<SentPapers, (string Name, byte[] Data)?>(s => s.FindAsync(id, 0));
            kept!.Value.Name.ShouldEndWith(".pdf");
            if (!hasNumber)
            {
                Should.Throw<RefusalException>(() => Formats.EInvoices.HybridPdf.Extract(kept.Value.Data));
                continue;
            }

            var inside = Formats.EInvoices.EInvoiceFiles.Read(kept.Value.Data).Invoice;
            inside.Number.ShouldBe(invoice.Number);
        }

        await HealthyAsync();
    }

    [Fact]
    public async Task Each_fate_lists_its_own()
    {
        await ToAsync("0191", "10118834");
        var taken = await _loft.IssuedAsync();
        await SendAsync(taken.Id);
        await CarryAsync();
        await AskAsync();
        await ToAsync("0191", "80101123");
        var refused = await _loft.IssuedAsync();
        await SendAsync(refused.Id);
        await CarryAsync();
        await AskAsync();
        await ToAsync("0191", "10227745");
        var waiting = await _loft.IssuedAsync();
        await SendAsync(waiting.Id);
        foreach (var fate in Enum.GetValues<EInvoiceFate>())
        {
            var rows = await _loft.WithAsync<EInvoiceScreens, IReadOnlyList<EInvoiceRow>>(s => s.RowsAsync(fate));
            rows.Select(r => r.DocumentId)
                .ShouldBe(
                    fate switch
                    {
                        EInvoiceFate.Taken => [taken.Id],
                        EInvoiceFate.Refused => [refused.Id],
                        EInvoiceFate.OnItsWay => [waiting.Id],
                        _ => [],
                    },
                    fate.ToString()
                );
        }
    }

    [Fact]
    public async Task Who_answers_has_got_it_though_nobody_knew_whether_it_went()
    {
        var invoice = await _loft.IssuedAsync();
        await SendAsync(invoice.Id);
        await CarryAsync();
        await _loft.ExecuteAsync("UPDATE Post SET State = 'Unknown', SentAt = NULL");
        await _loft.ExecuteAsync("UPDATE PostTry SET Outcome = 'Unknown'");
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Stuck);
        (await AskAsync()).ShouldBe(1);
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Taken);
        await HealthyAsync();
    }

    private sealed class Told(params ReceiversAnswer[] answers) : IAccessPoint
    {
        public bool IsStandIn => false;

        public Task<NetworkReceiver?> FindAsync(string scheme, string number, CancellationToken stop) =>
            throw new NotSupportedException();

        public Task<IReadOnlyList<NetworkReceiver>> SearchAsync(string number, CancellationToken stop) =>
            throw new NotSupportedException();

        public Task<string> SendAsync(NetworkMessage message, CancellationToken stop) =>
            throw new NotSupportedException();

        public Task<IReadOnlyList<ReceiversAnswer>> AnswersAsync(DateOnly until, CancellationToken stop) =>
            Task.FromResult<IReadOnlyList<ReceiversAnswer>>(answers);
    }

    private Task<int> TellAsync(params ReceiversAnswer[] answers) =>
        _loft.WithAsync<IServiceProvider, int>(s =>
            ActivatorUtilities.CreateInstance<NetworkAnswers>(s, new Told(answers)).TakeAsync()
        );

    [Fact]
    public async Task Wrong_and_double_answers_change_nothing()
    {
        var invoice = await _loft.IssuedAsync();
        var item = await SendAsync(invoice.Id);
        var key = await _loft.WithAsync<BooksContext, string>(db =>
            db.Post.Where(p => p.Id == item).Select(p => p.Key).SingleAsync()
        );
        ReceiversAnswer Says(string id, AnswerKind kind, string of) => new(of, id, kind, "why", Loft.Today);

        // Nothing went yet, so nobody can have answered.
        await TellAsync(Says("a", AnswerKind.Taken, key));
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.OnItsWay);
        await CarryAsync();
        await TellAsync(Says("b", AnswerKind.Taken, "another"), Says("c", AnswerKind.Refused, key));
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Refused);
        await TellAsync(
            Says("c", AnswerKind.Taken, key),
            Says("d", AnswerKind.Paid, key),
            Says("e", AnswerKind.InWork, key)
        );
        (await FateAsync(invoice.Id)).Fate.ShouldBe(EInvoiceFate.Refused);
        // Those that could be are kept, and do not count.
        (await _loft.NumberAsync("SELECT COUNT(*) FROM NetworkAnswers")).ShouldBe(3);
        (await _loft.NumberAsync("SELECT COUNT(*) FROM NetworkAnswers WHERE Counts = 1")).ShouldBe(1);
        await HealthyAsync();
    }

    [Theory]
    [InlineData("UPDATE NetworkAnswers SET Counts = 0", "does not count")]
    [InlineData("UPDATE NetworkAnswers SET MessageId = ''", "none of the network's")]
    [InlineData(
        "INSERT INTO NetworkAnswers (PostItemId, MessageId, Kind, Reason, Day, Counts) SELECT PostItemId, 'x', 'InWork', '', Day, 1 FROM NetworkAnswers",
        "cannot follow"
    )]
    [InlineData(
        "UPDATE NetworkAnswers SET PostItemId = (SELECT MIN(Id) FROM Post WHERE Way = 'Mail')",
        "what never went"
    )]
    [InlineData("UPDATE Post SET State = 'Failed'", "what never went")]
    [InlineData("UPDATE Post SET \"To\" = 'nowhere'", "no electronic address")]
    [InlineData("UPDATE Post SET CustomerId = (SELECT MAX(Id) FROM Customers)", "of its customer")]
    [InlineData("UPDATE Customers SET Electronic_Scheme = 'XX'", "no electronic address")]
    [InlineData("UPDATE Customers SET Electronic_Value = '', Electronic_Scheme = ''", "has no electronic address")]
    [InlineData("UPDATE Businesses SET Electronic_Scheme = '0088'", "no electronic address")]
    [InlineData("UPDATE TaxCodes SET ExemptionCode = 'VATEX-X'", "no code of an exemption")]
    [InlineData("UPDATE Documents SET Number = NULL", "issued paper")]
    public async Task The_check_finds_what_was_tampered_with(string tampering, string finding)
    {
        var invoice = await _loft.IssuedAsync();
        await _loft.WithAsync<PostTray, int>(t => t.AddAsync(new MailToSend("a@b.example", "Hello", "Words")));
        await SendAsync(invoice.Id);
        await CarryAsync();
        await AskAsync();
        await HealthyAsync();
        await _loft.ExecuteAsync(tampering);
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(finding, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Many_are_made_ready_at_once_and_wrong_ones_keep_nothing()
    {
        var view = await _loft.WithAsync<ReadyDesk, ReadyView>(r => r.ViewAsync(null));
        var swede = view.Customers.Single(c => c.Of.Id == _loft.Swede);
        swede.Lacks.ShouldContain(l => l.Term == "BT-49");
        var yard = view.Customers.Single(c => c.Of.Id == _loft.Yard);
        Task<int> MendAsync(string number, string scheme) =>
            _loft.WithAsync<ReadyDesk, int>(r =>
                r.MendAsync(
                    [
                        new(_loft.Yard, yard.Of.Version, yard.Of.Electronic, "REF-1"),
                        new(_loft.Swede, swede.Of.Version, new(scheme, number), ""),
                    ],
                    [],
                    []
                )
            );
        var refused = await Should.ThrowAsync<RefusalException>(() => MendAsync("7300010000002", "0088"));
        refused.Refusals.Single().Field.ShouldBe($"customers[{_loft.Swede}].electronic");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Customers WHERE BuyerReference = 'REF-1'")).ShouldBe(0);
        (await MendAsync("7300010000001", "0088")).ShouldBe(2);
        (await Should.ThrowAsync<RefusalException>(() => MendAsync("5567310841", "0007"))).Message.ShouldContain(
            "somebody else"
        );
        (await _loft.WithAsync<ReadyDesk, ReadyView>(r => r.ViewAsync(null)))
            .Customers.Single(c => c.Of.Id == _loft.Swede)
            .Lacks.ShouldNotContain(l => l.Term == "BT-49");
        await HealthyAsync();
    }
}
