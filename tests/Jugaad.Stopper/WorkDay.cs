using System.Globalization;
using System.Text;
using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Stopper;

/// <summary>
/// One piece of work after another, as a busy day has it: the Nth is always the same, and is sent under the same form
/// keys when it is sent again. Each is told when it begins and when it was answered.
/// </summary>
public sealed class WorkDay(IServiceProvider provider)
{
    public const int RowsAFile = 12;

    private static readonly Encoding Utf8 = new UTF8Encoding(false);

    /// <summary>Where the other side keeps what it took, beside the books' folder.</summary>
    public static string MailboxOf(string folder) => folder.TrimEnd('/') + ".mail";

    /// <summary>Where it is noted what was begun and what was answered.</summary>
    public static string NotesOf(string folder) => folder.TrimEnd('/') + ".notes";

    /// <summary>Works until it is stopped.</summary>
    /// <param name="first">The piece to begin with: one that was begun before and not answered, or a new one.</param>
    public async Task RunAsync(int first, string notes)
    {
        await WithAsync<PostCarrying>(p => p.FindStoppedAsync());
        for (var n = first; ; n++)
        {
            await File.AppendAllTextAsync(notes, $"begin {n}\n");
            await DoAsync(n);
            await File.AppendAllTextAsync(notes, $"done {n}\n");
        }
    }

    /// <summary>
    /// Goes on after a stop: what was on its way is found, and the piece that was begun is sent again.
    /// </summary>
    public async Task GoOnAsync(int n)
    {
        await WithAsync<PostCarrying>(p => p.FindStoppedAsync());
        await DoAsync(n);
        await WithAsync<PostCarrying>(p => p.CarryAsync());
    }

    public Task DoAsync(int n) =>
        (n % 4) switch
        {
            0 => ImportAsync(n),
            1 or 3 => IssueAndMailAsync(n),
            _ => ReceiveAsync(n),
        };

    /// <summary>A draft, its invoice with a mail put into the tray, and the round of the post.</summary>
    private async Task IssueAndMailAsync(int n)
    {
        var (customer, tax, sales, day) = await WithAsync<BooksContext, (int, int, int, DateOnly)>(async db =>
            (
                await db.Customers.Where(c => c.Name == "Yard").Select(c => c.Id).SingleAsync(),
                (await db.Businesses.Select(b => b.DefaultTaxCodeId).SingleAsync())!.Value,
                await db.LedgerAccounts.Where(a => a.Code == "3000").Select(a => a.Id).SingleAsync(),
                await DayAsync(db)
            )
        );
        var content = new DraftContent
        {
            CustomerId = customer,
            Date = day,
            Lines = [new DraftLine(null, $"Work {n}.", 1, "HUR", n, null, null, tax, sales)],
        };
        var id = await WithAsync<Drafts, int>(d =>
            d.SaveAsync(new DraftToSave(null, DocumentKind.Invoice, 0, content, FormKey: $"draft-{n}"))
        );
        await WithAsync<IssuingDesk>(i =>
            i.IssueAsync(id, 1, new MailToSend($"work-{n}@slip.example", $"Work {n}", "A line."), $"issue-{n}")
        );
        await WithAsync<PostCarrying>(p => p.CarryAsync());
    }

    private Task<bool> ReceiveAsync(int n) =>
        WithAsync<Receipts>(async receipts =>
        {
            var (item, bank, day) = await WithAsync<BooksContext, (AccountItem?, int, DateOnly)>(async db =>
                (
                    await db
                        .AccountItems.AsNoTracking()
                        .Where(i => i.Kind == AccountItemKind.Invoice && i.Open > 0)
                        .OrderBy(i => i.Id)
                        .FirstOrDefaultAsync(),
                    await db
                        .LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank)
                        .Select(a => a.Id)
                        .FirstAsync(),
                    await DayAsync(db)
                )
            );
            if (item is null)
                return;
            // What it was asked for the first time counts: the form's key answers with that.
            var amount = Math.Min(item.Open, n * 70);
            await receipts.PostAsync(
                new ReceiptToPost(item.CustomerId, day, bank, amount, $"pay-{n}.", [(item.Id, amount)], $"receipt-{n}")
            );
        });

    private async Task ImportAsync(int n)
    {
        var rows = new StringBuilder("code,name,currency\n");
        for (var i = 0; i < RowsAFile; i++)
            rows.Append(CultureInfo.InvariantCulture, $"I{n}-{i},Taken {n}. {i},EUR\n");
        var id = await WithAsync<Importing, int>(i =>
            i.BeginAsync(MovingKind.Customers, $"file-{n}.csv", Utf8.GetBytes(rows.ToString()), $"import-{n}")
        );
        await WithAsync<ImportTaking>(i => i.RunAsync(id, allOrNone: true, null, $"take-{n}"));
    }

    private static Task<DateOnly> DayAsync(BooksContext db) =>
        db.Trail.OrderBy(t => t.Id).Select(t => t.Day).FirstAsync();

    private async Task<TResult> WithAsync<T, TResult>(Func<T, Task<TResult>> work)
        where T : notnull
    {
        await using var scope = provider.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<T>());
    }

    private Task<bool> WithAsync<T>(Func<T, Task> work)
        where T : notnull =>
        WithAsync<T, bool>(async desk =>
        {
            await work(desk);
            return true;
        });
}
