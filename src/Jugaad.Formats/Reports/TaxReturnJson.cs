using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;

namespace Jugaad.Formats.Reports;

/// <summary>
/// A tax return as JSON (RFC 8259): <c>authority</c>, <c>from</c>, <c>to</c>, <c>basis</c>, <c>boxes</c>,
/// <c>summary</c>, <c>late</c> and <c>rows</c>. Amounts and percentages are texts, amounts in home currency.
/// </summary>
public static class TaxReturnJson
{
    public static byte[] Write(ReturnThen then)
    {
        string Of(long minor) => new Money(minor, then.Home).ToString();
        IEnumerable<object> Sums(IEnumerable<ReturnSum> sums) =>
            sums.Select(s => new
            {
                category = s.Category.Letters(),
                component = s.Component,
                percent = PlainDecimal.Text(s.Percent),
                taxable = Of(s.Taxable),
                tax = Of(s.Tax),
            });
        return JsonSerializer.SerializeToUtf8Bytes(
            new
            {
                authority = then.Authority.Name,
                from = Report.Text(then.From),
                to = Report.Text(then.To),
                basis = then.Basis == TaxBasis.ByPayment ? "byPayment" : "byInvoice",
                boxes = then.Boxes.Select(b => new
                {
                    number = b.Number,
                    name = b.Name,
                    amount = Of(b.Amount),
                }),
                summary = Sums(then.Summary),
                late = Sums(then.Late),
                rows = then.Rows.Select(r => new
                {
                    number = r.Number,
                    date = Report.Text(r.Date),
                    counted = Report.Text(r.Day),
                    category = r.Key.Category.Letters(),
                    component = r.Key.Component,
                    percent = PlainDecimal.Text(r.Key.Percent),
                    place = TaxReports.Word(r.Key.Place),
                    supply = TaxReports.Word(r.Key.Supply),
                    taxable = Of(r.Taxable),
                    tax = Of(r.Tax),
                    late = r.IsLate,
                }),
            },
            ReportJson.Style
        );
    }
}
