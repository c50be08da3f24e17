using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Filing;
using Jugaad.Formats.Reports;

namespace Jugaad.Formats.Tests;

/// <summary>Tax returns for programs.</summary>
public sealed class TaxReturnJsonTests
{
    [Fact]
    public void A_return_has_its_names_and_amounts_are_texts()
    {
        var (first, last) = (new DateOnly(2025, 8, 1), new DateOnly(2025, 8, 31));
        var vat = new TaxKey(TaxCategory.Standard, "VAT", 24m, Place.Home, Supply.Goods);
        var charged = new TaxKey(TaxCategory.ReverseCharge, "", 0, Place.Union, Supply.Services);
        ReturnRow[] rows =
        [
            new(1, "INV-1", first.AddDays(-2), first.AddDays(-2), vat, 100_00, 24_00, true),
            new(2, "INV-2", first, first.AddDays(4), vat, 10_05, 2_41, false),
            new(3, "CRN-1", first, first, charged, -5_00, 0, false),
        ];
        var authority = new TaxAuthority(new AuthorityDetails { Name = "Board" });
        var then = new ReturnThen(
            authority,
            first,
            last,
            TaxBasis.ByPayment,
            Currency.Of("EUR"),
            rows,
            [new("1", "Tax", 26_41)],
            null
        );
        using var json = JsonDocument.Parse(TaxReturnJson.Write(then));
        JsonSerializer
            .Serialize(json.RootElement)
            .ShouldBe(
                """{"authority":"Board","from":"2025-08-01","to":"2025-08-31","basis":"byPayment","boxes":[{"number":"1","name":"Tax","amount":"26.41"}],"summary":[{"category":"S","component":"VAT","percent":"24","taxable":"110.05","tax":"26.41"},{"category":"AE","component":"","percent":"0","taxable":"-5.00","tax":"0.00"}],"late":[{"category":"S","component":"VAT","percent":"24","taxable":"100.00","tax":"24.00"}],"rows":[{"number":"INV-1","date":"2025-07-30","counted":"2025-07-30","category":"S","component":"VAT","percent":"24","place":"home","supply":"goods","taxable":"100.00","tax":"24.00","late":true},{"number":"INV-2","date":"2025-08-01","counted":"2025-08-05","category":"S","component":"VAT","percent":"24","place":"home","supply":"goods","taxable":"10.05","tax":"2.41","late":false},{"number":"CRN-1","date":"2025-08-01","counted":"2025-08-01","category":"AE","component":"","percent":"0","place":"union","supply":"services","taxable":"-5.00","tax":"0.00","late":false}]}"""
            );
    }
}
