using System.Text.Json;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;

namespace Jugaad.Formats.Reports;

/// <summary>
/// Expected money as JSON (RFC 8259): <c>weeks</c>, <c>later</c>, <c>inDispute</c>, <c>total</c> and <c>items</c>.
/// Amounts are texts in home currency.
/// </summary>
public static class ExpectedJson
{
    public static byte[] Write(ExpectedThen then)
    {
        string Of(long minor) => new Money(minor, then.Home).ToString();
        return JsonSerializer.SerializeToUtf8Bytes(
            new
            {
                weeks = then.Money.Weeks.Select(w => new
                {
                    from = Report.Text(w.From),
                    to = Report.Text(w.To),
                    amount = Of(w.Amount),
                    low = Of(w.Low),
                    high = Of(w.High),
                    promised = Of(w.Promised),
                }),
                later = Of(then.Money.Later),
                inDispute = Of(then.Money.InDispute),
                total = Of(then.Money.Total),
                items = then.Rows.Select(r => new
                {
                    number = r.Item.Number,
                    customer = r.Code,
                    open = Of(r.Part.Home),
                    expected = r.Part.Expected is { } e ? Report.Text(e.Day) : null,
                    why = r.Why.ToString(),
                }),
            },
            ReportJson.Style
        );
    }
}
