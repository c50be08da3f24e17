namespace Jugaad.Core.Trade;

/// <summary>Where e-invoices of a party arrive: a number and its scheme of the list of electronic addresses (EAS).</summary>
/// <param name="Scheme">Such as <c>0088</c> for a location number of GS1; empty where there is no address.</param>
/// <param name="Value">BT-34 of a seller, BT-49 of a buyer.</param>
public sealed record ElectronicAddress(string Scheme, string Value)
{
    public static ElectronicAddress None { get; } = new("", "");

    public bool IsGiven => Value.Length > 0;

    /// <summary>The schemes that are asked for most, in words.</summary>
    public static IReadOnlyList<(string Code, string Name)> Usual { get; } =
    [
        ("0088", "location number (GLN)"),
        ("0191", "registration number, Estonia"),
        ("9931", "tax number, Estonia"),
        ("0216", "OVT number, Finland"),
        ("0007", "organisation number, Sweden"),
        ("0192", "organisation number, Norway"),
        ("0184", "CVR number, Denmark"),
        ("0218", "registration number, Latvia"),
        ("0200", "registration number, Lithuania"),
        ("9930", "tax number, Germany"),
        ("9932", "tax number, United Kingdom"),
        ("0060", "DUNS number"),
        ("EM", "mail address"),
    ];

    public ElectronicAddress Tidied() =>
        Value.Trim().Length == 0
            ? None
            : new(Scheme.Trim().ToUpperInvariant(), string.Concat(Value.Where(c => !char.IsWhiteSpace(c))));

    /// <summary>What is wrong with it, at the fields <c>electronicScheme</c> and <c>electronic</c>.</summary>
    public void Check(Refusals refusals)
    {
        var tidy = Tidied();
        if (!tidy.IsGiven)
            return;
        Texts.Short(refusals, "electronic", tidy.Value, 100);
        if (tidy.Scheme.Length == 0)
            refusals.Add("electronicScheme", "Say which kind of number the electronic address is: choose its scheme.");
        else if (!CodeLists.ElectronicSchemes.Contains(tidy.Scheme))
            refusals.Add(
                "electronicScheme",
                $"“{tidy.Scheme}” is no scheme of the list of electronic addresses. Give its code, such as 0088 or 0191."
            );
        else if (tidy.Scheme == "0088" && !IsLocation(tidy.Value))
            refusals.Add(
                "electronic",
                $"“{tidy.Value}” is no location number: it has 13 digits, and the last one checks the others. One may be mistyped."
            );
        else if (tidy.Scheme == "EM")
            Texts.Email(refusals, "electronic", tidy.Value);
        else if (tidy.Value.Any(c => !char.IsAsciiLetterOrDigit(c) && c is not (':' or '-' or '.' or '_')))
            refusals.Add("electronic", "An electronic address has letters without marks, digits, and : - . _ only.");
    }

    private static bool IsLocation(string value) =>
        value.Length == 13 && value.All(char.IsAsciiDigit) && Barcodes.CheckDigit(value[..12]) == value[12];

    public override string ToString() => IsGiven ? $"{Scheme}:{Value}" : "";
}

/// <summary>In which form a customer gets papers.</summary>
public enum PaperForm
{
    /// <summary>By mail, as a PDF.</summary>
    Pdf,

    /// <summary>By mail, as a PDF with the e-invoice inside.</summary>
    HybridPdf,

    /// <summary>Through the network of access points, as an e-invoice.</summary>
    EInvoice,

    /// <summary>Printed.</summary>
    Print,
}
