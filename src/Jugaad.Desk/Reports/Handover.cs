using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Reports;

/// <summary>
/// Hands a period over to an accountant as one ZIP: journal, account books, trial balance, open items, filed returns
/// with their rows, tax by document, every invoice and credit note as a paper, a page that says what is in it and its
/// sums, and checksums (SHA-256). As long as nothing of the period changes it is the same, byte for byte, whenever it is
/// made.
/// </summary>
public sealed class Handover(
    BooksContext db,
    BooksHead head,
    ReportCatalog catalog,
    TaxReturns returns,
    PaperRoom papers,
    ITableFiles tables
)
{
    private static readonly string[] Reports =
    [
        "entries",
        "trial-balance",
        "open-items",
        "tax-by-document",
        "sales",
        "receipts",
        "register",
        "changes",
    ];

    /// <param name="into">Where the ZIP goes; it is written piece by piece.</param>
    /// <exception cref="RefusalException">When the days run backwards.</exception>
    public async Task WriteAsync(DateOnly from, DateOnly until, Stream into, CancellationToken stop = default)
    {
        if (until < from)
            throw new RefusalException("until", "The last day is before the first. Give a later one.");
        // Its parts are held against each other by whoever gets it.
        await using var moment = await ReadMoment.BeginAsync(db, stop);
        // The oldest time that a ZIP knows, so that it does not tell when it was made.
        await using var zip = new Pieces(into);
        var ask = new ReportAsk(from, until);
        var said = new List<(string File, string What, string Sums)>();
        foreach (var name in Reports)
        {
            var report = await catalog.MakeAsync(ReportCatalog.Find(name)!, ask, ReportAgainst.Nothing, stop);
            await zip.AddAsync($"{name}.csv", tables.Write(report.ToTable(), TableForm.Csv), stop);
            said.Add(($"{name}.csv", report.Title, SumsOf(report)));
        }

        await AccountsAsync(zip, ask, said, stop);
        await ReturnsAsync(zip, from, until, said, stop);
        await PapersAsync(zip, from, until, said, stop);
        await zip.AddAsync("index.html", Encoding.UTF8.GetBytes(await PageAsync(from, until, said, stop)), stop);
        await zip.AddAsync("checksums.txt", Encoding.UTF8.GetBytes(zip.Checksums), stop);
    }

    private async Task AccountsAsync(
        Pieces zip,
        ReportAsk ask,
        List<(string, string, string)> said,
        CancellationToken stop
    )
    {
        var book = ReportCatalog.Find("account")!;
        foreach (
            var account in await db
                .LedgerAccounts.Where(a =>
                    db.Journal.Any(e => e.Date <= ask.Until && e.Lines.Any(l => l.AccountId == a.Id))
                )
                .OrderBy(a => a.Code)
                .ToListAsync(stop)
        )
        {
            var report = await catalog.MakeAsync(
                book,
                ask with
                {
                    More = new Dictionary<string, string> { ["account"] = $"{account.Id}" },
                },
                ReportAgainst.Nothing,
                stop
            );
            var file = $"accounts/{PaperRoom.FileName(account.Code)}.csv";
            await zip.AddAsync(file, tables.Write(report.ToTable(), TableForm.Csv), stop);
            said.Add((file, $"Book of {account.Code} {account.Name}", SumsOf(report)));
        }
    }

    private async Task ReturnsAsync(
        Pieces zip,
        DateOnly from,
        DateOnly until,
        List<(string, string, string)> said,
        CancellationToken stop
    )
    {
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        foreach (
            var filed in await db
                .TaxReturns.AsNoTracking()
                .Where(r => r.To >= from && r.To <= until)
                .OrderBy(r => r.AuthorityId)
                .ThenBy(r => r.From)
                .ThenBy(r => r.Amendment)
                .ToListAsync(stop)
        )
        {
            var authority = await db.TaxAuthorities.AsNoTracking().SingleAsync(a => a.Id == filed.AuthorityId, stop);
            var then = await returns.FiledAsync(authority, filed.From, filed.To, filed.Amendment, stop);
            var name =
                $"returns/{PaperRoom.FileName(filed.Authority)}-{ReportAsk.Day(filed.From)}-{ReportAsk.Day(filed.To)}{(filed.Amendment > 0 ? $"-amendment-{filed.Amendment}" : "")}.csv";
            await zip.AddAsync(name, tables.Write(TaxReports.Rows(then).ToTable(), TableForm.Csv), stop);
            said.Add(
                (
                    name,
                    $"{filed.Title} to {filed.Authority}, {ReportAsk.Day(filed.From)} to {ReportAsk.Day(filed.To)}",
                    $"tax {new Money(filed.Tax, home)}, to pay {new Money(filed.Owed, home)}"
                )
            );
        }
    }

    private async Task PapersAsync(
        Pieces zip,
        DateOnly from,
        DateOnly until,
        List<(string, string, string)> said,
        CancellationToken stop
    )
    {
        var ids = await (
            from document in db.Documents
            join item in db.AccountItems on document.Id equals item.DocumentId
            where document.Date >= @from && document.Date <= until
            orderby document.Date, document.Id
            select document.Id
        ).ToListAsync(stop);
        foreach (var id in ids)
        {
            var (name, content) = await papers.PdfAsync(id, stop);
            await zip.AddAsync($"papers/{name}", content, stop);
        }

        said.Add(("papers/", "Invoices, credit notes and debit notes", $"{ids.Count} papers"));
    }

    private static string SumsOf(Report report)
    {
        var sum = report.Rows.LastOrDefault(r => r.IsSum);
        var rows = report.Rows.Count(r => !r.IsSum);
        return string.Join(
            ", ",
            report
                .Columns.Select((c, i) => (Column: c, Cell: sum?.Cells[i]))
                .Where(c => c.Column.IsFigure && c.Cell is Money)
                .Select(c => $"{c.Column.Head.ToLowerInvariant()} {c.Cell}")
                .Prepend($"{rows} rows")
        );
    }

    private async Task<string> PageAsync(
        DateOnly from,
        DateOnly until,
        List<(string File, string What, string Sums)> said,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        static string E(string text) => WebUtility.HtmlEncode(text);
        var page = new StringBuilder();
        page.Append(
            CultureInfo.InvariantCulture,
            $"""
            <!doctype html>
            <html lang="en"><head><meta charset="utf-8"><title>{E(business.Name)}, {ReportAsk.Day(
                from
            )} to {ReportAsk.Day(until)}</title>
            <style>body{"{"}font-family:sans-serif;margin:2rem;max-width:60rem{"}"}td,th{"{"}text-align:left;padding:.2rem 1rem .2rem 0;border-bottom:1px solid #ccc;vertical-align:top{"}"}</style></head><body>
            <h1>{E(business.Name)}</h1>
            <p>Books from {ReportAsk.Day(from)} to {ReportAsk.Day(
                until
            )}, amounts in {business.HomeCurrency.Code}. Open items are those at the end of the last day.</p>
            <table><tr><th>File</th><th>What it is</th><th>Its sums</th></tr>

            """
        );
        foreach (var (file, what, sums) in said)
            page.Append(
                CultureInfo.InvariantCulture,
                $"<tr><td><a href=\"{E(file)}\">{E(file)}</a></td><td>{E(what)}</td><td>{E(sums)}</td></tr>\n"
            );
        page.Append("</table>\n<p>checksums.txt has the SHA-256 of each file.</p>\n</body></html>\n");
        return page.ToString();
    }

    /// <summary>A ZIP that grows file by file and knows the checksum of each.</summary>
    private sealed class Pieces(Stream into) : IAsyncDisposable
    {
        private static readonly DateTimeOffset Then = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

        private readonly ZipArchive _zip = new(into, ZipArchiveMode.Create, leaveOpen: true);
        private readonly StringBuilder _sums = new();

        internal string Checksums => _sums.ToString();

        internal async Task AddAsync(string name, byte[] content, CancellationToken stop)
        {
            var entry = _zip.CreateEntry(name, CompressionLevel.Optimal);
            entry.LastWriteTime = Then;
            await using var file = await entry.OpenAsync(stop);
            await file.WriteAsync(content, stop);
            _sums.Append(
                CultureInfo.InvariantCulture,
                $"{Convert.ToHexStringLower(SHA256.HashData(content))}  {name}\n"
            );
        }

        public ValueTask DisposeAsync() => _zip.DisposeAsync();
    }
}
