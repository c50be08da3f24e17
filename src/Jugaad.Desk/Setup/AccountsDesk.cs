using Jugaad.Core;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Accounts of the journal, and payment terms.</summary>
public sealed class AccountsDesk(BooksContext db, BookWriter writer, BooksHead head, Retiring retiring)
{
    public Task<int> AddAccountAsync(string code, string name, AccountRole role, CancellationToken stop = default) =>
        SaveAccountAsync(
            null,
            new AccountDetails
            {
                Code = code,
                Name = name,
                Role = role,
            },
            stop
        );

    /// <summary>Adds an account, or renames one; what was posted to it stays.</summary>
    /// <exception cref="RefusalException">With every field that is wrong.</exception>
    public Task<int> SaveAccountAsync(int? id, AccountDetails details, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var code = details.Code.Trim();
                if (await db.LedgerAccounts.AnyAsync(a => a.Code == code && a.Id != (id ?? 0), stop))
                    throw new RefusalException("code", $"There is an account {code} already. Choose another number.");
                if (id is null)
                {
                    if (details.Role is not (AccountRole.Money or AccountRole.Sales or AccountRole.Other))
                        throw new RefusalException(
                            "role",
                            "There is one such account, and it is there already. Choose money, sales or other."
                        );
                    var made = new LedgerAccount(details);
                    db.LedgerAccounts.Add(made);
                    await writer.TrailAsync($"Account {made.Code} {made.Name} added");
                    await writer.SaveAsync(stop);
                    return made.Id;
                }

                var account =
                    await db.LedgerAccounts.FindAsync([id.Value], stop)
                    ?? throw new RefusalException("", $"There is no account {id}.");
                var before = $"{account.Code} {account.Name}";
                account.Describe(details with { Role = account.Role, Kind = account.Kind });
                await writer.TrailAsync(
                    $"Account {before} changed{(before == $"{account.Code} {account.Name}" ? "" : $" to {account.Code} {account.Name}")}"
                );
                return account.Id;
            }
        );

    /// <summary>Offers an account no longer, or again.</summary>
    public Task<int> RetireAccountAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<LedgerAccount>(
            Right.Setup,
            id,
            retired,
            once,
            account => $"Account {account.Code} {account.Name}",
            MustNotBeUsualOrLastAsync
        );

    private async Task MustNotBeUsualOrLastAsync(LedgerAccount account, CancellationToken stop)
    {
        if ((await head.BusinessAsync(stop)).DefaultLedgerAccountId == account.Id)
            throw new RefusalException(
                "",
                $"Sales without an item are booked to {account.Code} {account.Name}. Choose another usual account first."
            );
        if (
            account.Role == AccountRole.Money
            && !await db.LedgerAccounts.AnyAsync(
                a => a.Role == AccountRole.Money && !a.Retired && a.Id != account.Id,
                stop
            )
        )
            throw new RefusalException("", "Money must be able to come in somewhere. Add another account first.");
    }

    /// <summary>The account that sales without an item are booked to.</summary>
    public Task<int> SetUsualAccountAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var account = await db.LedgerAccounts.FindAsync([id], stop);
                if (account is not { Role: AccountRole.Sales, Retired: false })
                    throw new RefusalException("", "Choose a sales account that is in use.");
                var business = await head.BusinessAsync(stop);
                business.SetDefaults(business.DefaultTermsId ?? 0, business.DefaultTaxCodeId ?? 0, id);
                await writer.TrailAsync($"{account.Code} {account.Name} is the usual sales account now");
                return id;
            }
        );

    public Task<int> AddTermsAsync(PaymentTerms terms, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                if (await db.Terms.AnyAsync(t => t.Name == terms.Name, stop))
                    throw new RefusalException("name", $"There are terms “{terms.Name}” already. Choose another name.");
                db.Terms.Add(terms);
                await writer.TrailAsync($"Terms {terms.Name} added");
                await writer.SaveAsync(stop);
                return terms.Id;
            }
        );

    /// <summary>Offers terms no longer, or again; customers who have them keep them.</summary>
    public Task<int> RetireTermsAsync(int id, bool retired, Once once = default) =>
        retiring.RetireAsync<PaymentTerms>(
            Right.Setup,
            id,
            retired,
            once,
            terms => $"Terms {terms.Name}",
            async (terms, stop) =>
            {
                if ((await head.BusinessAsync(stop)).DefaultTermsId == id)
                    throw new RefusalException(
                        "",
                        $"“{terms.Name}” are the usual terms. Choose others for that first."
                    );
            }
        );

    /// <summary>The terms of customers who have none of their own.</summary>
    public Task<int> SetUsualTermsAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var terms =
                    await db.Terms.FindAsync([id], stop) ?? throw new RefusalException("", $"There are no terms {id}.");
                var business = await head.BusinessAsync(stop);
                business.SetDefaults(id, business.DefaultTaxCodeId ?? 0, business.DefaultLedgerAccountId ?? 0);
                await writer.TrailAsync($"“{terms.Name}” are the usual terms now");
                return id;
            }
        );
}
