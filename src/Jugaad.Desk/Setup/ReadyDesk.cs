using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>Something that e-invoices are made of, with what it lacks.</summary>
public sealed record ReadyRow<T>(T Of, IReadOnlyList<Lack> Lacks)
{
    public bool IsComplete => Lacks.Count == 0;
}

/// <summary>Business, customers, items and tax codes, each with what e-invoices would lack.</summary>
public sealed record ReadyView(
    ReadyRow<Business> Business,
    IReadOnlyList<ReadyRow<Customer>> Customers,
    IReadOnlyList<ReadyRow<Item>> Items,
    IReadOnlyList<ReadyRow<TaxCode>> TaxCodes
);

/// <summary>What is mended of a customer; a version keeps two people from overwriting each other.</summary>
public sealed record CustomerMend(int Id, int Version, ElectronicAddress Electronic, string BuyerReference);

/// <summary>What is mended of an item.</summary>
public sealed record ItemMend(int Id, int Version, string Classification, string ClassificationList);

/// <summary>What is mended of a tax code.</summary>
public sealed record TaxCodeMend(int Id, string ExemptionCode);

/// <summary>Tells what is missing before e-invoices can be made, and mends many at once.</summary>
public sealed class ReadyDesk(BooksContext db, BookWriter writer, BooksHead head, IAccessPoint network)
{
    /// <param name="billedSince">Only customers and items that were billed since that day; null for all.</param>
    public async Task<ReadyView> ViewAsync(DateOnly? billedSince, CancellationToken stop = default)
    {
        var business = await head.BusinessAsync(stop);
        var hasAccount = await db.LedgerAccounts.AnyAsync(a => a.Iban != "" && !a.Retired, stop);
        var customers = await db
            .Customers.AsNoTracking()
            .Where(c => !c.Inactive && c.MergedIntoId == null && c.Id != business.CounterCustomerId)
            .Where(c =>
                billedSince == null
                || db.Documents.Any(d => d.CustomerId == c.Id && d.Number != null && d.Date >= billedSince)
            )
            .OrderBy(c => c.Name)
            .ToListAsync(stop);
        var items = await db
            .Items.AsNoTracking()
            .Where(i => !i.Inactive)
            .Where(i =>
                billedSince == null
                || db.Documents.Any(d =>
                    d.Number != null && d.Date >= billedSince && d.Lines.Any(l => l.ItemId == i.Id)
                )
            )
            .OrderBy(i => i.Code)
            .ToListAsync(stop);
        var codes = await db.TaxCodes.AsNoTracking().Where(c => !c.Retired).OrderBy(c => c.Code).ToListAsync(stop);
        return new ReadyView(
            new(business, Readiness.Of(business, hasAccount)),
            customers.ConvertAll(c => new ReadyRow<Customer>(c, Readiness.Of(c, business.Address.Country))),
            items.ConvertAll(i => new ReadyRow<Item>(i, Readiness.Of(i))),
            codes.ConvertAll(c => new ReadyRow<TaxCode>(c, Readiness.Of(c)))
        );
    }

    /// <summary>
    /// What the directory of the network knows of customers without an electronic address, by their registration or tax
    /// number. Nothing is kept: it is looked at first.
    /// </summary>
    public async Task<IReadOnlyDictionary<int, NetworkReceiver>> LookUpAsync(
        IEnumerable<Customer> customers,
        CancellationToken stop = default
    )
    {
        var found = new Dictionary<int, NetworkReceiver>();
        foreach (var customer in customers.Where(c => !c.Electronic.IsGiven && c.Kind != CustomerKind.Consumer))
        {
            foreach (var number in new[] { customer.RegistrationNumber, customer.TaxNumber }.Where(n => n.Length > 0))
            {
                if (await network.SearchAsync(number, stop) is not [var receiver, ..])
                    continue;
                found[customer.Id] = receiver;
                break;
            }
        }

        return found;
    }

    /// <summary>Keeps all that was typed, or nothing of it.</summary>
    /// <returns>How many were changed.</returns>
    /// <exception cref="RefusalException">With each field that is wrong, named by what it is of, such as
    /// <c>customers[7].electronic</c>.</exception>
    public Task<int> MendAsync(
        IReadOnlyList<CustomerMend> customers,
        IReadOnlyList<ItemMend> items,
        IReadOnlyList<TaxCodeMend> codes,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var refusals = new List<Refusal>();
                var changed = 0;
                foreach (var mend in customers)
                    changed += await InAsync(refusals, $"customers[{mend.Id}]", () => CustomerAsync(mend, stop));
                foreach (var mend in items)
                    changed += await InAsync(refusals, $"items[{mend.Id}]", () => ItemAsync(mend, stop));
                if (codes.Count > 0)
                    writer.Must(Right.Setup);
                foreach (var mend in codes)
                    changed += await InAsync(refusals, $"codes[{mend.Id}]", () => CodeAsync(mend, stop));
                if (refusals.Count > 0)
                    throw new RefusalException(refusals);
                if (changed > 0)
                    await writer.TrailAsync($"{changed} made ready for e-invoices");
                return changed;
            }
        );

    private static async Task<int> InAsync(List<Refusal> refusals, string at, Func<Task<bool>> mend)
    {
        try
        {
            return await mend() ? 1 : 0;
        }
        catch (RefusalException refused)
        {
            refusals.AddRange(refused.Refusals.Select(r => r with { Field = $"{at}.{r.Field}" }));
            return 0;
        }
    }

    private async Task<bool> CustomerAsync(CustomerMend mend, CancellationToken stop)
    {
        var customer =
            await db
                .Customers.Include(c => c.Contacts)
                .Include(c => c.Places)
                .Include(c => c.Certificates)
                .SingleOrDefaultAsync(c => c.Id == mend.Id, stop)
            ?? throw new RefusalException("electronic", "This customer is not there any more. Load the page again.");
        if (customer.Electronic == mend.Electronic.Tidied() && customer.BuyerReference == mend.BuyerReference.Trim())
            return false;
        MustBe(customer.Version, mend.Version, customer.Name);
        customer.Describe(
            customer.Details() with
            {
                Electronic = mend.Electronic,
                BuyerReference = mend.BuyerReference,
            }
        );
        return true;
    }

    private async Task<bool> ItemAsync(ItemMend mend, CancellationToken stop)
    {
        var item =
            await db.Items.Include(i => i.Prices).SingleOrDefaultAsync(i => i.Id == mend.Id, stop)
            ?? throw new RefusalException("classification", "This item is not there any more. Load the page again.");
        if (item.Classification == mend.Classification.Trim() && item.ClassificationList == mend.ClassificationList)
            return false;
        MustBe(item.Version, mend.Version, item.Name);
        item.Describe(
            item.Details() with
            {
                Classification = mend.Classification,
                ClassificationList = mend.ClassificationList,
            }
        );
        return true;
    }

    private async Task<bool> CodeAsync(TaxCodeMend mend, CancellationToken stop)
    {
        var code =
            await db.TaxCodes.SingleOrDefaultAsync(c => c.Id == mend.Id, stop)
            ?? throw new RefusalException("exemptionCode", "This tax code is not there any more. Load the page again.");
        var before = code.ExemptionCode;
        code.ExemptBy(mend.ExemptionCode);
        return code.ExemptionCode != before;
    }

    private static void MustBe(int version, int seen, string name)
    {
        if (version != seen)
            throw new RefusalException("", $"{name} was changed by somebody else meanwhile. Load the page again.");
    }
}
