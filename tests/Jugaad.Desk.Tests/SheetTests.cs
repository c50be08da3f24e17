using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Many receipts typed into a grid and posted together.</summary>
public sealed class SheetTests
{
    private static Task<int> PostAsync(Loft loft, params SheetRow[] rows) =>
        loft.WithAsync<ReceiptSheet, int>(s => s.PostAsync(rows, Loft.Today, loft.Bank, "Bank transfer", "sheet-1"));

    private static Task<IReadOnlyList<SheetProposal>> ProposeAsync(Loft loft, params SheetRow[] rows) =>
        loft.WithAsync<ReceiptSheet, IReadOnlyList<SheetProposal>>(s => s.ProposeAsync(rows, Loft.Today));

    [Fact]
    public async Task What_is_proposed_is_what_is_posted_row_after_row()
    {
        await using var loft = await Loft.OpenAsync();
        var first = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(1, 100))).Id);
        var second = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(1, 50))).Id);
        SheetRow[] rows =
        [
            new(0, loft.Yard, 6_200, "the second"),
            new(1, loft.Yard, 10_000, "part"),
            new(2, loft.Yard, 5_000, "", Keep: true),
            new(3, loft.Yard, 3_000, "rest and more"),
        ];
        var proposals = await ProposeAsync(loft, rows);
        proposals
            .Select(p => (p.Parts.Sum(x => x.Amount), p.Left))
            .ShouldBe([(6_200L, 0L), (10_000L, 0L), (0L, 5_000L), (2_400L, 600L)]);
        proposals[0].Why.ShouldBe($"exactly {second.Number}");
        proposals[1].Parts.Single().Item.Id.ShouldBe(first.Id, "the first row took the other one");
        (await PostAsync(loft, rows)).ShouldBe(4);
        (await PostAsync(loft, rows)).ShouldBe(4, "the same form again posts nothing more");
        await loft.WithAsync<BooksContext>(async db =>
        {
            (await db.Receipts.CountAsync()).ShouldBe(4);
            (await db.AccountItems.Where(i => i.Sign > 0).SumAsync(i => i.Open)).ShouldBe(0);
            (await db.AccountItems.Where(i => i.Sign < 0).SumAsync(i => i.Open)).ShouldBe(5_600);
        });
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_number_in_the_reference_is_meant_whatever_the_amount_would_fit()
    {
        await using var loft = await Loft.OpenAsync();
        var first = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(1, 100))).Id);
        var second = await loft.ItemOfAsync((await loft.IssuedAsync(loft.Content(1, 50))).Id);
        // 62.00 would be exactly the second one; the payer says that it is a part of the first.
        var proposals = await ProposeAsync(
            loft,
            new SheetRow(0, loft.Yard, 6_200, $"part of {first.Number.ToLowerInvariant()}"),
            new SheetRow(1, loft.Yard, 7_000, $"{second.Number} and thanks"),
            new SheetRow(2, loft.Yard, 6_200, first.Number)
        );
        proposals
            .Select(p => (p.Parts.Single().Item.Id, p.Parts.Single().Amount, p.Left))
            .ShouldBe([(first.Id, 6_200, 0), (second.Id, 6_200, 800), (first.Id, 6_200, 0)]);
        proposals
            .Select(p => p.Why)
            .ShouldBe([
                "named in the reference, in part",
                "named in the reference; the rest stays as credit",
                $"{first.Number}, named in the reference",
            ]);
        (
            await loft.WithAsync<ReceiptSheet, IReadOnlyList<int?>>(s =>
                s.WhoseAsync(["", $"for {first.Number}", "no number"])
            )
        ).ShouldBe([null, loft.Yard, null]);
        await PostAsync(loft, new SheetRow(0, loft.Yard, 6_200, second.Number));
        (await loft.ItemOfAsync(first.DocumentId!.Value)).Open.ShouldBe(12_400);
        // A number that is paid already is no open one: then the amount counts.
        (await ProposeAsync(loft, new SheetRow(0, loft.Yard, 12_400, second.Number)))
            .Single()
            .Parts.Single()
            .Item.Id.ShouldBe(first.Id);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Early_payment_is_seen_and_given()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.WithAsync<AccountsDesk>(a =>
            a.AddTermsAsync(new PaymentTerms("2 in 10", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 10))
        );
        var terms = await loft.WithAsync<BooksContext, int>(db =>
            db.Terms.Where(t => t.Name == "2 in 10").Select(t => t.Id).SingleAsync()
        );
        var invoice = await loft.ItemOfAsync(
            (await loft.IssuedAsync(loft.Content(1, 100) with { TermsId = terms })).Id
        );
        var proposal = (await ProposeAsync(loft, new SheetRow(0, loft.Yard, 12_152, ""))).Single();
        (proposal.Early, proposal.Why).ShouldBe(
            (invoice.Id, $"exactly {invoice.Number} less its early-payment discount")
        );
        await PostAsync(loft, new SheetRow(0, loft.Yard, 12_152, ""));
        (await loft.ItemOfAsync(invoice.DocumentId!.Value)).Open.ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task One_bad_row_posts_none_and_says_which()
    {
        await using var loft = await Loft.OpenAsync();
        await loft.IssuedAsync();
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            PostAsync(loft, new SheetRow(0, loft.Yard, 100, ""), new SheetRow(4, loft.Yard, 0, ""))
        );
        refused.Refusals.Select(r => r.Field).ShouldBe(["rows[4].amount"]);
        (await loft.WithAsync<BooksContext, int>(db => db.Receipts.CountAsync())).ShouldBe(0);
        (await Should.ThrowAsync<RefusalException>(() => PostAsync(loft))).Message.ShouldContain("at least one");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<ReceiptSheet>(s =>
                    s.PostAsync([new(0, loft.Yard, 1, "")], Loft.Today.AddDays(1), loft.Bank, "")
                )
            )
        )
            .Refusals[0]
            .Field.ShouldBe("date");
    }

    [Theory]
    [InlineData("yard", "Yard")]
    [InlineData("var", "Varv")]
    [InlineData("Yard", "Yard")]
    public async Task A_customer_is_found_by_a_part_of_the_name(string typed, string name)
    {
        await using var loft = await Loft.OpenAsync();
        (await loft.WithAsync<CustomerFinder, Customer>(s => s.MeantAsync(typed, "c"))).Name.ShouldBe(name);
    }

    [Theory]
    [InlineData("slip", "2 customers fit “slip”: Varv (VARV), Yard (YARD)")]
    [InlineData("nobody", "No customer fits")]
    [InlineData(" ", "Type the customer's name")]
    [InlineData("%", "No customer fits")]
    public async Task What_could_mean_several_or_none_is_refused(string typed, string says)
    {
        await using var loft = await Loft.OpenAsync();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CustomerFinder>(s => s.MeantAsync(typed, "c"))
            )
        ).Message.ShouldContain(says);
    }
}
