using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Papers;

namespace Jugaad.Desk.Filing;

/// <summary>A return on paper: its boxes, its sums, and every row behind them.</summary>
public sealed class ReturnPapers(BooksHead head, PaperRoom papers, IPaperPrinter printer)
{
    public async Task<byte[]> PdfAsync(ReturnThen then, CancellationToken stop = default)
    {
        var (business, today) = (await head.BusinessAsync(stop), await head.TodayAsync(stop));
        var paper = ReportSheet.Compose(
            $"{then.Filed?.Title ?? "Draft of a tax return"} to {then.Authority.Name}",
            $"{business.Format.Date(then.From)} to {business.Format.Date(then.To)}{(then.Filed is { } told ? $", filed on {business.Format.Date(told.FiledOn)} by {told.FiledBy}" : "")}. {then.Filed?.Reason}".Trim(),
            Facts(then, business),
            [.. Tables(then, business)],
            await papers.SenderAsync(then.Filed?.FiledOn ?? today, null, "en", null, stop),
            printer.Measure
        );
        return await papers.PrintAsync([paper], then.Filed?.FiledOn ?? today, stop);
    }

    private static List<(string, string)> Facts(ReturnThen then, Business business)
    {
        var facts = new List<(string, string)>
        {
            ("Told", then.Basis == TaxBasis.ByPayment ? "by payment" : "by invoice"),
        };
        if (then.Authority.OurNumber.Length > 0)
            facts.Add(("Our number", then.Authority.OurNumber));
        if (then.Filed is { Reference.Length: > 0 } filed)
            facts.Add(("Their reference", filed.Reference));
        facts.Add(
            (
                then.Tax >= 0 ? "To pay" : "To come back",
                $"{business.Format.Amount(Math.Abs(then.Filed?.Owed ?? then.Tax), then.Home)} {then.Home.Code}"
            )
        );
        return facts;
    }

    private static IEnumerable<(IReadOnlyList<SheetColumn>, IReadOnlyList<PaperRow>)> Tables(
        ReturnThen then,
        Business business
    )
    {
        string Amount(long minor) => business.Format.Amount(minor, then.Home);
        if (then.Boxes.Count > 0)
            yield return (
                [new("Box", false), new("What", false), new("Amount", true)],
                [.. then.Boxes.Select(b => new PaperRow([b.Number, b.Name, Amount(b.Amount)]))]
            );
        yield return (
            [new("Tax", false), new("Rate", true), new("Kind", false), new("Taxable", true), new("Tax", true)],
            [
                .. then.Summary.Select(s => new PaperRow([
                    s.Component.Length > 0 ? s.Component : "No tax",
                    s.Component.Length > 0 ? $"{PlainDecimal.Text(s.Percent)} %" : "",
                    s.Category.Word(),
                    Amount(s.Taxable),
                    Amount(s.Tax),
                ])),
                new PaperRow(["In all", "", "", Amount(then.Summary.Sum(s => s.Taxable)), Amount(then.Tax)], true),
            ]
        );
        yield return (
            [
                new("Number", false),
                new("Counts on", false),
                new("Tax date", false),
                new("Tax", false),
                new("", false),
                new("Taxable", true),
                new("Tax", true),
            ],
            [
                .. then.Rows.Select(r => new PaperRow([
                    r.Number,
                    business.Format.Date(r.Day),
                    business.Format.Date(r.Date),
                    r.Key.Component.Length > 0
                        ? $"{r.Key.Component} {PlainDecimal.Text(r.Key.Percent)} %"
                        : r.Key.Category.Word(),
                    r.IsLate ? "late" : "",
                    Amount(r.Taxable),
                    Amount(r.Tax),
                ])),
            ]
        );
    }
}
