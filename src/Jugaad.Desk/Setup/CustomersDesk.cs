using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>A customer that looks like the one being typed.</summary>
public sealed record AlikeCustomer(int Id, string Code, string Name, string City, string Why);

/// <summary>Makes, changes and merges customers.</summary>
public sealed class CustomersDesk(BooksContext db, BookWriter writer, BooksHead head, Wordings wordings)
{
    private const int MostAlike = 3;

    /// <param name="id">Null for a new one.</param>
    /// <param name="version">What the person had before them; 0 for a new one.</param>
    public Task<int> SaveAsync(int? id, int version, CustomerDetails details, Once once = default) =>
        writer.WriteAsync(
            id is null ? Right.Draft : Right.Masters,
            once,
            async stop =>
            {
                if (details.Code.Trim().Length == 0 && details.Name.Trim().Length > 0)
                    details = details with { Code = await FreeCodeAsync(details.Name, stop) };
                await CheckAsync(id, details, stop);
                if (id is null)
                {
                    var made = new Customer(details);
                    made.GradeOn("", await head.TodayAsync(stop));
                    db.Customers.Add(made);
                    await writer.SaveAsync(stop);
                    await writer.TrailAsync($"Customer {made.Name} added", made.Id);
                    return made.Id;
                }

                var customer = await FindAsync(id.Value, stop);
                if (customer.Version != version)
                    throw new RefusalException(
                        "",
                        "Somebody else changed this customer while you had it open. What you typed is still here; compare it with the customer's page, then save again from a fresh form."
                    );
                var used = await db.UsedCurrenciesAsync(id, stop);
                var grade = customer.RiskGrade;
                if (used[id.Value].Any())
                    CustomerCurrencies.MustKeep(customer, details, used[id.Value]);
                customer.Describe(details);
                customer.GradeOn(grade, await head.TodayAsync(stop));
                await writer.TrailAsync($"Customer {customer.Name} changed", customer.Id);
                return customer.Id;
            }
        );

    /// <summary>Sets a customer's credit limit.</summary>
    /// <param name="limit">Minor units of their currency; null for none.</param>
    public Task<int> LimitAsync(int id, long? limit, Once once = default) =>
        RedescribeAsync(id, d => d with { CreditLimit = limit }, once);

    /// <summary>From now on whatever they buy falls due on its date.</summary>
    public Task<int> NoMoreAsync(int id, string reason, Once once = default) =>
        RedescribeAsync(id, d => d with { NoMoreOnAccount = true, NoMoreReason = reason }, once);

    /// <summary>Where e-invoices reach them from now on, and in which form they get papers.</summary>
    public Task<int> ReachAsync(int id, ElectronicAddress address, PaperForm takes, Once once = default) =>
        RedescribeAsync(id, d => d with { Electronic = address, Takes = takes }, once);

    private Task<int> RedescribeAsync(int id, Func<CustomerDetails, CustomerDetails> change, Once once) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var customer = await FindAsync(id, stop);
                return await SaveAsync(id, customer.Version, change(customer.Details()), stop);
            }
        );

    public Task<int> TagAsync(int id, string tag, Once once = default) =>
        ChangeAsync(id, customer => customer.Tag(tag), $"tagged “{tag.Trim()}”", once);

    public Task<int> UntagAsync(int id, string tag, Once once = default) =>
        ChangeAsync(id, customer => customer.Untag(tag), $"tagged “{tag.Trim()}” no more", once);

    /// <summary>Has a customer offered no more, or again. What is open on the account stays there.</summary>
    public Task<int> RetireAsync(int id, bool retired, Once once = default) =>
        ChangeAsync(id, customer => customer.Retire(retired), retired ? "made inactive" : "made active again", once);

    private Task<int> ChangeAsync(int id, Action<Customer> change, string words, Once once) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var customer = await FindAsync(id, stop);
                change(customer);
                await writer.TrailAsync($"Customer {customer.Name} {words}", customer.Id);
                return customer.Id;
            }
        );

    /// <summary>Customers that look like the one being typed, the likeliest first.</summary>
    /// <param name="except">The one that is being changed.</param>
    public async Task<IReadOnlyList<AlikeCustomer>> AlikeAsync(
        CustomerDetails typed,
        int? except,
        CancellationToken stop = default
    )
    {
        // The database knows no accents, so a word is looked for by its first letters and by those from the second on.
        var words = Alike
            .Words(typed.Name)
            .Where(w => w.Length >= 3)
            .SelectMany(w => w.Length >= 4 ? new[] { w[..3], w[1..4] } : [w])
            .Distinct()
            .ToList();
        var candidates = db.Customers.AsNoTracking().Where(c => c.Id != (except ?? 0) && c.MergedIntoId == null);
        var (tax, registration, email) = (
            TaxNumbers.Complete(typed.TaxNumber, typed.Address.Country),
            typed.RegistrationNumber.Trim(),
            typed.Email.Trim()
        );
        // Numbers of before may be kept without their letters, or with blanks.
        var letters = TaxNumbers.PrefixOf(typed.Address.Country);
        var bare = tax.StartsWith(letters, StringComparison.Ordinal) ? tax[letters.Length..] : tax;
        var byNumber = await candidates
            .Where(c =>
                (tax != "" && (c.TaxNumber.Replace(" ", "") == tax || c.TaxNumber.Replace(" ", "") == bare))
                || (registration != "" && c.RegistrationNumber == registration)
                || (email != "" && c.Email == email)
            )
            .Take(20)
            .ToListAsync(stop);
        var byName = new List<Customer>();
        foreach (var word in words.Take(8))
        {
            var pattern = $"%{word}%";
            byName.AddRange(
                await candidates
                    .Where(c => EF.Functions.Like(c.Name, pattern) || EF.Functions.Like(c.OtherName, pattern))
                    .OrderBy(c => c.Id)
                    .Take(200)
                    .ToListAsync(stop)
            );
        }

        return byNumber
            .Concat(byName)
            .DistinctBy(c => c.Id)
            .Select(c =>
                (Customer: c, Why: Alike.Reason(typed, c.Name, c.OtherName, c.RegistrationNumber, c.TaxNumber, c.Email))
            )
            .Where(c => c.Why is not null)
            .OrderByDescending(c => c.Why!.Contains("same", StringComparison.Ordinal))
            .ThenByDescending(c => Alike.Nearness(typed.Name, c.Customer.Name))
            .Take(MostAlike)
            .Select(c => new AlikeCustomer(
                c.Customer.Id,
                c.Customer.Code,
                c.Customer.Name,
                c.Customer.Address.City,
                c.Why!
            ))
            .ToList();
    }

    /// <summary>
    /// Makes one customer of two: documents, receipts, account, post, contacts, places and the trail go to the one that
    /// stays; the other is left empty, offered no more, and says where everything went. This cannot be undone.
    /// </summary>
    /// <remarks>What the other was billed in stays as it is, as a side of the account of the one that stays.</remarks>
    /// <exception cref="RefusalException">When one was merged already.</exception>
    public Task<int> MergeAsync(int keepId, int awayId, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                if (keepId == awayId)
                    throw new RefusalException("away", "This is the same customer. Choose another to merge with it.");
                var (keep, away) = (await FindAsync(keepId, stop), await FindAsync(awayId, stop));
                if (keep.MergedIntoId is not null || away.MergedIntoId is not null)
                    throw new RefusalException(
                        "away",
                        "One of the two was merged into another customer already. Choose that one."
                    );
                var (documents, receipts) = (
                    await db.Documents.CountAsync(d => d.CustomerId == awayId, stop),
                    await db.Receipts.CountAsync(r => r.CustomerId == awayId, stop)
                );
                keep.Describe(
                    keep.Details() with
                    {
                        AlsoIn = string.Join(' ', keep.Currencies.Concat(away.Currencies).Select(c => c.Code)),
                        Tags = string.Join(',', keep.TagList.Concat(away.TagList)),
                        Contacts = [.. keep.Contacts.Concat(away.Contacts).Select(c => c.Details).Distinct()],
                        PrivateNote = string.Join(
                            "\n",
                            new[] { keep.PrivateNote, away.PrivateNote }.Where(n => n.Length > 0).Distinct()
                        ),
                        RegistrationNumber =
                            keep.RegistrationNumber.Length > 0 ? keep.RegistrationNumber : away.RegistrationNumber,
                        TaxNumber =
                            keep.TaxNumber.Length > 0 || keep.Address.Country != away.Address.Country
                                ? keep.TaxNumber
                                : away.TaxNumber,
                        Email = keep.Email.Length > 0 ? keep.Email : away.Email,
                        Phone = keep.Phone.Length > 0 ? keep.Phone : away.Phone,
                    }
                );
                away.MergeInto(keep);
                var givenUp = await ItemNumbersDesk.GiveUpAsync(db, awayId, keepId, stop);
                await writer.SaveAsync(stop);
                // One account has one address: that of the customer who stays, where both have one.
                if (await db.AccountLinks.AnyAsync(l => l.CustomerId == keepId, stop))
                    await db.AccountLinks.Where(l => l.CustomerId == awayId).ExecuteDeleteAsync(stop);
                await CustomerReferences.MoveAsync(db, awayId, keepId, stop);
                await writer.TrailAsync(
                    $"{away.Name} ({away.Code}) merged into {keep.Name} ({keep.Code}), with {documents} documents and {receipts} receipts{(givenUp.Length > 0 ? $"; given up: its item numbers {givenUp}" : "")}",
                    keepId
                );
                return keepId;
            }
        );

    private async Task CheckAsync(int? id, CustomerDetails details, CancellationToken stop)
    {
        if (Customer.IsLanguage(details.Language))
            await wordings.MustKnowAsync(details.Language, stop);
        var code = details.Code.Trim();
        var other = await db
            .Customers.Where(c => c.Code == code && c.Id != (id ?? 0))
            .Select(c => c.Name)
            .FirstOrDefaultAsync(stop);
        if (other is not null)
            throw new RefusalException("code", $"The code {code} belongs to {other} already. Choose another.");
        if (details.TermsId is { } termsId && !await db.Terms.AnyAsync(t => t.Id == termsId, stop))
            throw new RefusalException("termsId", "Choose terms from the list.");
        if (
            details.PriceListId is { } listId
            && await db.PriceLists.Where(l => l.Id == listId).Select(l => l.Currency).SingleOrDefaultAsync(stop)
                is var currency
            && currency?.Code != details.Currency
        )
            throw new RefusalException(
                "priceListId",
                currency is null
                    ? "Choose a price list from the list."
                    : $"This price list is in {currency}, and the customer is billed in {details.Currency}. Choose another."
            );
        if (details.SellerId is { } sellerId && !await db.Users.AnyAsync(u => u.Id == sellerId, stop))
            throw new RefusalException("sellerId", "Choose one of us from the list.");
    }

    private async Task<Customer> FindAsync(int id, CancellationToken stop) =>
        await db
            .Customers.Include(c => c.Contacts)
            .Include(c => c.Places)
            .Include(c => c.Certificates)
            .SingleOrDefaultAsync(c => c.Id == id, stop)
        ?? throw new RefusalException("", $"There is no customer {id}.");

    /// <summary>A short code from the name that nobody has yet.</summary>
    internal async Task<string> FreeCodeAsync(string name, CancellationToken stop)
    {
        var letters = string.Concat(name.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit).Take(6));
        var start = letters.Length == 0 ? "C" : letters;
        var taken = (
            await db.Customers.Where(c => c.Code.StartsWith(start)).Select(c => c.Code).ToListAsync(stop)
        ).ToHashSet();
        return taken.Contains(start)
            ? Enumerable.Range(2, taken.Count + 1).Select(n => start + n).First(c => !taken.Contains(c))
            : start;
    }
}
