using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Customers that look alike, that are merged, and that the business register knows.</summary>
public sealed class CustomerTests
{
    private static CustomerDetails Named(string name, string currency = "EUR") =>
        new()
        {
            Name = name,
            Currency = currency,
            Address = new Address(Country: "EE"),
        };

    private static Task<int> AddAsync(Loft loft, CustomerDetails details) =>
        loft.WithAsync<CustomersDesk, int>(c => c.SaveAsync(null, 0, details));

    private static Task<Customer> LoadAsync(Loft loft, int id) =>
        loft.WithAsync<AccountScreens, Customer>(async s => (await s.FindAsync(id))!);

    [Fact]
    public async Task One_that_is_there_already_is_pointed_out_and_a_different_one_is_not()
    {
        await using var loft = await Loft.OpenAsync();
        var korall = await AddAsync(loft, Named("Korall Boatyard OÜ") with { TaxNumber = "EE102277456" });
        for (var i = 0; i < 30; i++)
            await AddAsync(loft, Named($"Somebody {i:00} Else"));
        Task<IReadOnlyList<AlikeCustomer>> Alike(CustomerDetails typed, int? except = null) =>
            loft.WithAsync<CustomersDesk, IReadOnlyList<AlikeCustomer>>(c => c.AlikeAsync(typed, except));
        (await Alike(Named("korall boat yard"))).Single().Id.ShouldBe(korall);
        (await Alike(Named("Quite Different") with { TaxNumber = "EE102277456" }))
            .Single()
            .Why.ShouldBe("has the same tax number");
        (await Alike(Named("Kadaka Bakery"))).ShouldBeEmpty();
        var orchard = await AddAsync(loft, Named("Õunapuu OÜ"));
        (await Alike(Named("Ounapuu"))).Single().Id.ShouldBe(orchard);
        (await Alike(Named("Korall Boatyard"), korall)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_that_are_merged_have_one_account_and_the_trail_says_so()
    {
        await using var loft = await Loft.OpenAsync();
        var twin = await AddAsync(
            loft,
            Named("Yard (again)") with
            {
                Tags = "trade",
                Contacts = [new ContactDetails("Ann", "ann@yard.example", GetsInvoices: true)],
                Places = [new PlaceDetails(null, "Slip", new Address(City: "Slip", Country: "EE"))],
                TaxNumber = "EE102277456",
            }
        );
        var place = (await LoadAsync(loft, twin)).Places[0].Id;
        await loft.IssuedAsync(loft.Content(1, 100));
        var second = await loft.IssuedAsync(loft.Content(1, 50, customer: twin) with { PlaceId = place });
        var receipt = await loft.WithAsync<Receipts, int>(r =>
            r.PostAsync(new ReceiptToPost(twin, Loft.Today, loft.Bank, 2_000, "part", []))
        );
        await loft.WithAsync<CustomersDesk>(c => c.MergeAsync(loft.Yard, twin));

        var account = await loft.WithAsync<AccountScreens, AccountView>(async s =>
            (await s.AccountAsync(loft.Yard, 1))!
        );
        account.Balance.ShouldBe(12_400 + 6_200 - 2_000);
        account.Customer.Contacts.Single().Name.ShouldBe("Ann");
        account.Customer.Places.Single().Id.ShouldBe(place);
        account.Customer.TaxNumber.ShouldBe("EE102277456");
        account.Customer.TagList.ShouldBe(["trade"]);
        account.Thread[0].Text.ShouldContain("merged into Yard (YARD), with 1 documents and 1 receipts");
        (await loft.DocumentAsync(second.Id)).Addressee!.Name.ShouldBe("Yard (again)");
        var gone = await LoadAsync(loft, twin);
        (gone.MergedIntoId, gone.Inactive).ShouldBe((loft.Yard, true));
        (
            await loft.WithAsync<AccountScreens, Stretch<CustomerRow>>(s =>
                s.CustomersAsync("again", "", ListPlace.Start)
            )
        ).Rows.ShouldBeEmpty();
        receipt.ShouldBeGreaterThan(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CustomersDesk>(c => c.MergeAsync(loft.Yard, twin))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("away");
    }

    [Fact]
    public async Task A_merge_moves_whatever_the_model_knows_of_a_customer_and_what_was_learned_of_their_payers()
    {
        await using var loft = await Loft.OpenAsync();
        var references = await loft.WithAsync<BooksContext, IReadOnlyList<CustomerReference>>(db =>
            Task.FromResult(CustomerReferences.Of(db.Model))
        );
        references
            .Select(r => $"{r.Table}.{r.Column}")
            .Order()
            .ShouldBe([
                "AccountItems.CustomerId",
                "AccountLinks.CustomerId",
                "Bookings.CustomerId",
                "Businesses.CounterCustomerId",
                "ChaseLetters.CustomerId",
                "ContactNotes.CustomerId",
                "CustomerItemNumbers.CustomerId",
                "CustomerPlaces.CustomerId",
                "Customers.MergedIntoId",
                "Disputes.CustomerId",
                "Documents.CustomerId",
                "ExemptionCertificates.CustomerId",
                "Journal.CustomerId",
                "LayoutRules.CustomerId",
                "LeftOut.CustomerId",
                "PayRequests.CustomerId",
                "PayerRules.CustomerId",
                "Plans.CustomerId",
                "Post.CustomerId",
                "Promises.CustomerId",
                "Receipts.CustomerId",
                "Refunds.CustomerId",
                "Settlements.CustomerId",
                "StandingInvoices.CustomerId",
                "Trail.CustomerId",
            ]);
        var twin = await AddAsync(loft, Named("Twin"));
        var invoice = await loft.IssuedAsync(loft.Content(customer: twin));
        await loft.ExecuteAsync(
            $"UPDATE Businesses SET CounterCustomerId = {twin}; INSERT INTO PayerRules (Account, Name, CustomerId, LearnedOn, WentOut) VALUES ('EE12', 'Twin', {twin}, '2025-09-01', 0)"
        );
        await loft.WithAsync<CustomersDesk>(c => c.MergeAsync(loft.Yard, twin));
        foreach (var (table, column) in references.Where(r => r.Table != "Customers"))
            (await loft.NumberAsync($"SELECT COUNT(*) FROM \"{table}\" WHERE \"{column}\" = {twin}")).ShouldBe(
                0,
                table
            );
        (
            await loft.WithAsync<BooksContext, int?>(db => db.PayerRules.Select(r => r.CustomerId).SingleAsync())
        ).ShouldBe(loft.Yard);
        (await loft.DocumentAsync(invoice.Id)).CustomerId.ShouldBe(loft.Yard);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_tax_number_is_found_with_its_letters_and_without()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await AddAsync(loft, Named("Meri") with { TaxNumber = "102 277 456" });
        (await LoadAsync(loft, id)).TaxNumber.ShouldBe("EE102277456");
        foreach (var typed in new[] { "102277456", "ee 102277456" })
            (
                await loft.WithAsync<CustomersDesk, IReadOnlyList<AlikeCustomer>>(c =>
                    c.AlikeAsync(Named("Other") with { TaxNumber = typed }, null)
                )
            )
                .Single()
                .Why.ShouldBe("has the same tax number");
        await loft.ExecuteAsync($"UPDATE Customers SET TaxNumber = '102 277 456' WHERE Id = {id}");
        (
            await loft.WithAsync<CustomersDesk, IReadOnlyList<AlikeCustomer>>(c =>
                c.AlikeAsync(Named("Other") with { TaxNumber = "EE102277456" }, null)
            )
        )
            .Single()
            .Id.ShouldBe(id);
    }

    [Fact]
    public async Task Reverse_charge_is_refused_without_our_own_number()
    {
        await using var loft = await Loft.WithKitAsync(
            "1-one-tax",
            new Address("Quay 1", "1", "Harbour", "EE"),
            new DateOnly(2020, 1, 1)
        );
        var code = await loft.WithAsync<BooksContext, int>(db =>
            db.TaxCodes.Where(c => c.Code == "RC").Select(c => c.Id).SingleAsync()
        );
        var finn = await AddAsync(
            loft,
            Named("Finn") with
            {
                TaxNumber = "FI29134571",
                Address = new Address("", "", "Hanko", "FI"),
            }
        );
        var id = await loft.DraftAsync(
            loft.Content(customer: finn) with
            {
                Lines = [loft.Content().Lines[0] with { TaxCodeId = code }],
            }
        );
        await loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = ''");
        (
            await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1)))
        ).Message.ShouldContain("no tax number of our own");
        await loft.ExecuteAsync("UPDATE Businesses SET TaxNumber = 'EE101188342'");
        await loft.WithAsync<IssuingDesk>(i => i.IssueAsync(id, 1));
    }

    [Fact]
    public async Task A_price_list_in_another_currency_and_a_stranger_as_seller_are_refused()
    {
        await using var loft = await Loft.OpenAsync();
        var crowns = await loft.WithAsync<ItemsDesk, int>(i =>
            i.AddPriceListAsync(new PriceList("Crowns", "SEK", false))
        );
        (
            await Should.ThrowAsync<RefusalException>(() => AddAsync(loft, Named("A") with { PriceListId = crowns }))
        ).Message.ShouldContain("in SEK, and the customer is billed in EUR");
        (await Should.ThrowAsync<RefusalException>(() => AddAsync(loft, Named("A") with { SellerId = 77 })))
            .Refusals[0]
            .Field.ShouldBe("sellerId");
        await AddAsync(loft, Named("A", "SEK") with { PriceListId = crowns, SellerId = 1 });
    }

    [Fact]
    public async Task The_register_is_asked_by_part_of_a_name_or_by_number()
    {
        var register = new RegisterStandIn();
        (await register.FindAsync("boatyard", "", default)).Select(e => e.Name).ShouldContain("Korall Boatyard OÜ");
        (await register.FindAsync("EE 102277456", "", default)).Single().Name.ShouldBe("Korall Boatyard OÜ");
        (await register.FindAsync("2913457-1", "FI", default)).Single().Address.City.ShouldBe("Hanko");
        (await register.FindAsync("2913457-1", "SE", default)).ShouldBeEmpty();
        (await register.FindAsync("x", "", default)).ShouldBeEmpty();
    }

    [Fact]
    public void Every_entry_of_the_register_could_be_a_customer()
    {
        var all = new RegisterStandIn().All;
        all.Count.ShouldBeGreaterThan(30);
        foreach (var entry in all)
            _ = new Customer(
                Named(entry.Name) with
                {
                    Code = "C",
                    RegistrationNumber = entry.RegistrationNumber,
                    TaxNumber = entry.TaxNumber,
                    Address = entry.Address,
                    RiskGrade = entry.RiskGrade,
                }
            );
        all.Select(e => e.RegistrationNumber).Distinct().Count().ShouldBe(all.Count);
    }

    [Fact]
    public async Task What_the_register_says_is_looked_over_before_anything_changes()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await AddAsync(loft, Named("Korall Boatyard") with { PrivateNote = "ours" });
        await AddAsync(loft, Named("Nobody That Is Known"));
        var proposals = await loft.WithAsync<RegisterDesk, IReadOnlyList<RegisterProposal>>(r =>
            r.ProposeForAllAsync()
        );
        var proposal = proposals.Single(p => p.CustomerId == id);
        proposal
            .Differences.Select(d => d.Field)
            .ShouldBe(["name", "registrationNumber", "taxNumber", "street", "postalCode", "city", "riskGrade"]);
        proposals.ShouldNotContain(p => p.Customer == "Nobody That Is Known");
        (await LoadAsync(loft, id)).TaxNumber.ShouldBeEmpty();

        await loft.WithAsync<RegisterDesk>(r =>
            r.AdoptAsync(
                id,
                proposal.Version,
                proposal.Entry.RegistrationNumber,
                ["registrationNumber", "taxNumber", "riskGrade"]
            )
        );
        var taken = await LoadAsync(loft, id);
        (taken.Name, taken.TaxNumber, taken.RiskGrade, taken.Address.City, taken.PrivateNote).ShouldBe(
            ("Korall Boatyard", "EE102277456", "A", "", "ours")
        );
        (
            await loft.WithAsync<BooksContext, bool>(db =>
                db.Trail.AnyAsync(t =>
                    t.CustomerId == id
                    && t.Text == "Taken from the business register: registration number, tax number, risk grade"
                )
            )
        ).ShouldBeTrue();
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<RegisterDesk>(r =>
                    r.AdoptAsync(id, proposal.Version, proposal.Entry.RegistrationNumber, ["name"])
                )
            )
        ).Message.ShouldContain("Somebody else changed");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<RegisterDesk>(r =>
                    r.AdoptAsync(id, taken.Version, proposal.Entry.RegistrationNumber, [])
                )
            )
        ).Message.ShouldContain("Nothing is ticked");
        (
            await loft.WithAsync<RegisterDesk, IReadOnlyList<RegisterProposal>>(r => r.ProposeForAllAsync())
        ).ShouldBeEmpty();
    }
}
