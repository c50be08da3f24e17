using Jugaad.Core.Documents;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Where something was supplied, and whether it was goods, is told as it was on the day of the paper.</summary>
public sealed class SuppliedAsBilledTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _sail;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _sail = await SailAsync(true);
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task<int> SailAsync(bool goods, int? id = null, int version = 0) =>
        _loft.WithAsync<ItemsDesk, int>(i =>
            i.SaveAsync(
                id,
                version,
                new ItemDetails
                {
                    Code = "SAIL",
                    Name = "Sail",
                    IsGoods = goods,
                    Price = 100,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );

    private async Task MoveAsync(string country) =>
        await _loft.ExecuteAsync(
            $"UPDATE Customers SET Address_Country = '{country}', Address_City = 'Elsewhere' WHERE Id = {_loft.Yard}"
        );

    private Task<Document> BilledAsync() =>
        _loft.IssuedAsync(
            _loft.Content() with
            {
                Lines =
                [
                    new DraftLine(_sail, "Sail", 1, "H87", 100, null, null, _loft.Std, _loft.Sales),
                    new DraftLine(null, "Fitting", 1, "HUR", 50, null, null, _loft.Std, _loft.Sales),
                ],
            }
        );

    private Task<List<(Place, Supply, long, long)>> ToldAsync(int documentId) =>
        _loft.WithAsync<BooksContext, List<(Place, Supply, long, long)>>(async db =>
            (
                await db
                    .TaxFigures.AsNoTracking()
                    .Where(f => f.DocumentId == documentId)
                    .OrderBy(f => f.Supply)
                    .ThenBy(f => f.Id)
                    .ToListAsync()
            ).ConvertAll(f => (f.Place, f.Supply, f.Taxable, f.Tax))
        );

    private async Task<string> FoundAsync() => string.Join('\n', (await _loft.CheckAsync()).Differences);

    [Fact]
    public async Task What_is_credited_was_supplied_where_and_as_what_it_was_billed()
    {
        await MoveAsync("FI");
        var invoice = await BilledAsync();
        (await ToldAsync(invoice.Id)).ShouldBe(
            [(Place.Union, Supply.Services, 5_000, 1_200), (Place.Union, Supply.Goods, 10_000, 2_400)],
            ignoreOrder: true
        );
        await MoveAsync("NO");
        await SailAsync(false, _sail, 1);
        var credit = await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "never came"));
        (await ToldAsync(credit)).ShouldBe(
            [(Place.Union, Supply.Services, -5_000, -1_200), (Place.Union, Supply.Goods, -10_000, -2_400)],
            ignoreOrder: true
        );
        (await FoundAsync()).ShouldBe("");
    }

    [Fact]
    public async Task A_new_sale_goes_where_the_customer_is_now()
    {
        await MoveAsync("FI");
        await BilledAsync();
        await MoveAsync("NO");
        await SailAsync(false, _sail, 1);
        var invoice = await BilledAsync();
        (await ToldAsync(invoice.Id)).ShouldBe([(Place.Abroad, Supply.Services, 15_000, 3_600)]);
        (await FoundAsync()).ShouldBe("");
    }

    [Fact]
    public async Task A_credit_on_an_invoice_of_before_such_things_were_kept_follows_what_was_told_of_it()
    {
        await MoveAsync("FI");
        var invoice = await BilledAsync();
        await _loft.ExecuteAsync($"UPDATE Documents SET Facts = NULL WHERE Id = {invoice.Id}");
        await MoveAsync("NO");
        var credit = await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "never came"));
        (await ToldAsync(credit)).ShouldAllBe(f => f.Item1 == Place.Union);
        (await FoundAsync()).ShouldBe("");
    }

    [Theory]
    [InlineData("sales-by-place")]
    [InlineData("consumers-abroad")]
    [InlineData("income-by-country")]
    public async Task A_report_of_days_gone_by_stays_the_same_when_a_customer_moves(string name)
    {
        await MoveAsync("FI");
        var invoice = await BilledAsync();
        await BilledAsync();
        var before = await MadeAsync(name);
        before.ShouldContain("FI");
        await MoveAsync("NO");
        (await MadeAsync(name)).ShouldBe(before);
        // What takes it back takes it away from where it had gone.
        await _loft.WithAsync<Credits>(c => c.CancelAsync(invoice.Id, "never came"));
        (await MadeAsync(name)).ShouldNotContain("NO");
    }

    private async Task<string> MadeAsync(string name)
    {
        var report = await _loft.WithAsync<ReportCatalog, Report>(r =>
            r.MakeAsync(ReportCatalog.Find(name)!, new ReportAsk(Loft.Today.AddYears(-1), Loft.Today))
        );
        return string.Join('\n', report.ToTable().Rows.Select(r => string.Join(';', r)));
    }

    [Theory]
    [InlineData("UPDATE TaxFigures SET Supply = 'Goods' WHERE Supply = 'Services' AND DocumentId = {0}")]
    [InlineData("UPDATE TaxFigures SET Supply = CASE Supply WHEN 'Goods' THEN 'Services' ELSE 'Goods' END")]
    [InlineData("UPDATE TaxFigures SET Place = 'Abroad' WHERE DocumentId = {0}")]
    [InlineData("UPDATE TaxFigures SET Place = 'Home'")]
    [InlineData("UPDATE Documents SET Facts = replace(Facts, '\"IsGoods\":true', '\"IsGoods\":false') WHERE Id = {0}")]
    [InlineData("UPDATE Documents SET Facts = replace(Facts, '\"IsGoods\":true', '\"IsGoods\":false') WHERE Id = {1}")]
    [InlineData(
        "UPDATE Documents SET Facts = replace(Facts, '\"SuppliedIn\":' || json_extract(Facts, '$.SuppliedIn'), '\"SuppliedIn\":0') WHERE Id = {0}"
    )]
    [InlineData("UPDATE Documents SET Addressee = replace(Addressee, '\"FI\"', '\"NO\"') WHERE Id = {0}")]
    [InlineData("UPDATE PaperPlaces SET Country = 'NO' WHERE DocumentId = {0}")]
    [InlineData("UPDATE PaperPlaces SET BuyerCountry = 'NO' WHERE DocumentId = {1}")]
    [InlineData("UPDATE PaperPlaces SET Region = 'Ahvenanmaa'")]
    [InlineData("UPDATE PaperPlaces SET City = 'Nowhere' WHERE DocumentId = {1}")]
    [InlineData("UPDATE PaperPlaces SET PostalCode = '1' WHERE DocumentId = {0}")]
    [InlineData("DELETE FROM PaperPlaces WHERE DocumentId = {1}")]
    public async Task What_was_told_otherwise_is_found(string damage)
    {
        await MoveAsync("FI");
        var invoice = await BilledAsync();
        var credit = await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "never came"));
        (await FoundAsync()).ShouldBe("");
        await _loft.ExecuteAsync(
            damage
                .Replace("{0}", $"{invoice.Id}", StringComparison.Ordinal)
                .Replace("{1}", $"{credit}", StringComparison.Ordinal)
        );
        string[] numbers = [invoice.Number!, (await _loft.DocumentAsync(credit)).Number!];
        (await _loft.CheckAsync()).Differences.ShouldContain(d => numbers.Any(n => d.StartsWith(n)));
    }
}
