namespace Jugaad.Core.Trade;

/// <summary>Somebody at a customer, and their part.</summary>
public sealed record ContactDetails(
    string Name,
    string Email = "",
    string Phone = "",
    bool GetsInvoices = false,
    bool GetsReminders = false,
    bool Decides = false
);

/// <summary>A place that is delivered to.</summary>
public sealed record PlaceDetails(int? Id, string Label, Address Address);

/// <summary>A certificate under which a customer buys without tax.</summary>
/// <param name="Until">Its last day; null where it does not expire.</param>
public sealed record CertificateDetails(string Number, DateOnly? From = null, DateOnly? Until = null);

/// <summary>Somebody at a customer.</summary>
public sealed class CustomerContact
{
    private CustomerContact() => (Name, Email, Phone) = ("", "", "");

    internal CustomerContact(ContactDetails details) =>
        (Name, Email, Phone, GetsInvoices, GetsReminders, Decides) = (
            details.Name.Trim(),
            details.Email.Trim(),
            details.Phone.Trim(),
            details.GetsInvoices,
            details.GetsReminders,
            details.Decides
        );

    public int Id { get; private set; }

    public string Name { get; private set; }

    public string Email { get; private set; }

    public string Phone { get; private set; }

    public bool GetsInvoices { get; private set; }

    public bool GetsReminders { get; private set; }

    public bool Decides { get; private set; }

    public ContactDetails Details => new(Name, Email, Phone, GetsInvoices, GetsReminders, Decides);

    /// <summary>The parts in words, such as <c>gets invoices, decides</c>.</summary>
    public string Parts =>
        string.Join(
            ", ",
            new[]
            {
                GetsInvoices ? "gets invoices" : "",
                GetsReminders ? "gets reminders" : "",
                Decides ? "decides" : "",
            }.Where(t => t.Length > 0)
        );
}

/// <summary>A place that is delivered to, besides the customer's own address.</summary>
public sealed class CustomerPlace
{
    private CustomerPlace() => Label = "";

    internal CustomerPlace(PlaceDetails details)
        : this() => Describe(details);

    public int Id { get; private set; }

    public string Label { get; private set; }

    public Address Address { get; private set; } = new();

    internal void Describe(PlaceDetails details) => (Label, Address) = (details.Label.Trim(), details.Address.Tidied());
}

/// <summary>A certificate of exemption.</summary>
public sealed class ExemptionCertificate
{
    private ExemptionCertificate() => Number = "";

    internal ExemptionCertificate(CertificateDetails details) =>
        (Number, From, Until) = (details.Number.Trim(), details.From, details.Until);

    public int Id { get; private set; }

    public string Number { get; private set; }

    public DateOnly? From { get; private set; }

    public DateOnly? Until { get; private set; }

    public bool HoldsOn(DateOnly day) => (From is null || From <= day) && (Until is null || Until >= day);
}
