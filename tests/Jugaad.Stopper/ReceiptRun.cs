using Jugaad.Core.Accounts;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

/// <summary>Posts a receipt for every open invoice of a customer, each with a form key of its own as a browser would, and says each that was answered.</summary>
internal static class ReceiptRun
{
    internal static async Task PostAsync(ServiceProvider provider, int customer)
    {
        Console.WriteLine("ready");
        while (true)
        {
            await using var scope = provider.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<BooksContext>();
            var item = await db.AccountItems.AsNoTracking().Where(i => i.CustomerId == customer && i.Kind == AccountItemKind.Invoice && i.Open > 0).OrderBy(i => i.Id).FirstOrDefaultAsync();
            if (item is null) return;
            var bank = await db.LedgerAccounts.Where(a => a.Role == AccountRole.Money && a.Kind == MoneyKind.Bank).Select(a => a.Id).FirstAsync();
            await scope.ServiceProvider.GetRequiredService<Receipts>().PostAsync(new ReceiptToPost(customer, item.Date, bank, item.Open, item.Number, [(item.Id, item.Open)], $"receipt-{item.Id}"));
            Console.WriteLine(item.Id);
        }
    }
}
