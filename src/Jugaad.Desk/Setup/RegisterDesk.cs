using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Setup;

/// <summary>One thing that the register says otherwise than the books.</summary>
public sealed record RegisterDifference(string Field, string Words, string Ours, string Theirs);

/// <summary>A customer with what the register found, to be looked over before anything changes.</summary>
public sealed record RegisterProposal(
    int CustomerId,
    int Version,
    string Customer,
    RegisterEntry Entry,
    IReadOnlyList<RegisterDifference> Differences
);

/// <summary>What of a proposal is to be taken.</summary>
/// <param name="Fields">Of <see cref="RegisterDesk.Fields"/>.</param>
public sealed record RegisterChoice(
    int CustomerId,
    int Version,
    string RegistrationNumber,
    IReadOnlyCollection<string> Fields
);

/// <summary>Fills customers in from the business register, after a person has looked at each change.</summary>
public sealed class RegisterDesk(
    BooksContext db,
    BookWriter writer,
    CustomersDesk customers,
    IBusinessRegister register,
    BooksHead head
)
{
    /// <summary>What can be taken from the register.</summary>
    public static IReadOnlyList<(string Field, string Words)> Fields { get; } =
    [
        ("name", "name"),
        ("registrationNumber", "registration number"),
        ("taxNumber", "tax number"),
        ("street", "street"),
        ("postalCode", "postal code"),
        ("city", "town"),
        ("country", "country"),
        ("riskGrade", "risk grade"),
    ];

    /// <summary>Why no register can be asked; null where one can, or where the demo plays it.</summary>
    public async Task<string?> NotConnectedAsync(CancellationToken stop = default) =>
        register.IsStandIn && (await head.FindBusinessAsync(stop))?.PinnedDay is null
            ? "No business register is connected to this program. Type the numbers from the customer's letterhead."
            : null;

    public Task<IReadOnlyList<RegisterEntry>> FindAsync(
        string text,
        string country,
        CancellationToken stop = default
    ) => register.FindAsync(text, country, stop);

    /// <summary>What the register says of one customer.</summary>
    /// <param name="text">What to look for; by their numbers or name where it is empty.</param>
    public async Task<IReadOnlyList<RegisterProposal>> ProposeAsync(
        int customerId,
        string text = "",
        CancellationToken stop = default
    )
    {
        var customer =
            await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == customerId, stop)
            ?? throw new RefusalException("", $"There is no customer {customerId}.");
        var found = await register.FindAsync(
            text.Trim().Length > 0 ? text : LookFor(customer),
            text.Trim().Length > 0 ? "" : customer.Address.Country,
            stop
        );
        return found.Select(e => Proposal(customer, e)).ToList();
    }

    /// <summary>
    /// For all businesses that lack a registration or a tax number, the likeliest entry where there is a near one.
    /// </summary>
    public async Task<IReadOnlyList<RegisterProposal>> ProposeForAllAsync(CancellationToken stop = default)
    {
        var lacking = await db
            .Customers.AsNoTracking()
            .Where(c =>
                !c.Inactive
                && c.MergedIntoId == null
                && c.Kind != CustomerKind.Consumer
                && (c.RegistrationNumber == "" || c.TaxNumber == "")
            )
            .OrderBy(c => c.Name)
            .Take(500)
            .ToListAsync(stop);
        var proposals = new List<RegisterProposal>();
        foreach (var customer in lacking)
        {
            var found = (await register.FindAsync(LookFor(customer), customer.Address.Country, stop)).FirstOrDefault(
                e => Same(e, customer) || Alike.Nearness(e.Name, customer.Name) >= Alike.Near
            );
            if (found is null)
                continue;
            var proposal = Proposal(customer, found);
            if (proposal.Differences.Count > 0)
                proposals.Add(proposal);
        }

        return proposals;
    }

    /// <summary>Takes the chosen fields of an entry for one customer.</summary>
    /// <param name="fields">Of <see cref="Fields"/>.</param>
    public Task<int> AdoptAsync(
        int customerId,
        int version,
        string registrationNumber,
        IReadOnlyCollection<string> fields,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                if (fields.Count == 0)
                    throw new RefusalException("", "Nothing is ticked. Tick what to take from the register.");
                var entry =
                    (await register.FindAsync(registrationNumber, "", stop)).FirstOrDefault(e =>
                        e.RegistrationNumber == registrationNumber
                    )
                    ?? throw new RefusalException(
                        "",
                        "The register does not know this business any more. Look it up again."
                    );
                var customer =
                    await db
                        .Customers.AsNoTracking()
                        .Include(c => c.Contacts)
                        .Include(c => c.Places)
                        .Include(c => c.Certificates)
                        .SingleOrDefaultAsync(c => c.Id == customerId, stop)
                    ?? throw new RefusalException("", $"There is no customer {customerId}.");
                var details = customer.Details();
                string Pick(string field, string theirs, string ours) => fields.Contains(field) ? theirs : ours;
                await customers.SaveAsync(
                    customerId,
                    version,
                    details with
                    {
                        Name = Pick("name", entry.Name, details.Name),
                        RegistrationNumber = Pick(
                            "registrationNumber",
                            entry.RegistrationNumber,
                            details.RegistrationNumber
                        ),
                        TaxNumber = Pick("taxNumber", entry.TaxNumber, details.TaxNumber),
                        RiskGrade = Pick("riskGrade", entry.RiskGrade, details.RiskGrade),
                        Address = details.Address with
                        {
                            Street = Pick("street", entry.Address.Street, details.Address.Street),
                            PostalCode = Pick("postalCode", entry.Address.PostalCode, details.Address.PostalCode),
                            City = Pick("city", entry.Address.City, details.Address.City),
                            Country = Pick("country", entry.Address.Country, details.Address.Country),
                        },
                    },
                    stop
                );
                await writer.TrailAsync(
                    $"Taken from the business register: {string.Join(", ", Fields.Where(f => fields.Contains(f.Field)).Select(f => f.Words))}",
                    customerId
                );
                return customerId;
            }
        );

    /// <summary>Takes what was ticked for several customers, all of it or nothing.</summary>
    public Task<int> AdoptManyAsync(IReadOnlyList<RegisterChoice> choices, Once once = default) =>
        writer.WriteAsync(
            Right.Masters,
            once,
            async stop =>
            {
                var chosen = choices.Where(c => c.Fields.Count > 0).ToList();
                if (chosen.Count == 0)
                    throw new RefusalException("", "Nothing is ticked. Tick what to take from the register.");
                foreach (var choice in chosen)
                    await AdoptAsync(choice.CustomerId, choice.Version, choice.RegistrationNumber, choice.Fields, stop);
                return chosen.Count;
            }
        );

    private static string LookFor(Customer customer) =>
        customer.RegistrationNumber.Length > 0 ? customer.RegistrationNumber
        : customer.TaxNumber.Length > 0 ? customer.TaxNumber
        : customer.Name;

    private static bool Same(RegisterEntry entry, Customer customer) =>
        (customer.RegistrationNumber.Length > 0 && entry.RegistrationNumber == customer.RegistrationNumber)
        || (customer.TaxNumber.Length > 0 && entry.TaxNumber == customer.TaxNumber);

    private static RegisterProposal Proposal(Customer customer, RegisterEntry entry)
    {
        var rows = new (string Field, string Ours, string Theirs)[]
        {
            ("name", customer.Name, entry.Name),
            ("registrationNumber", customer.RegistrationNumber, entry.RegistrationNumber),
            ("taxNumber", customer.TaxNumber, entry.TaxNumber),
            ("street", customer.Address.Street, entry.Address.Street),
            ("postalCode", customer.Address.PostalCode, entry.Address.PostalCode),
            ("city", customer.Address.City, entry.Address.City),
            ("country", customer.Address.Country, entry.Address.Country),
            ("riskGrade", customer.RiskGrade, entry.RiskGrade),
        };
        return new RegisterProposal(
            customer.Id,
            customer.Version,
            customer.Name,
            entry,
            rows.Where(r => r.Theirs.Length > 0 && r.Ours != r.Theirs)
                .Select(r => new RegisterDifference(
                    r.Field,
                    Fields.First(f => f.Field == r.Field).Words,
                    r.Ours,
                    r.Theirs
                ))
                .ToList()
        );
    }
}
