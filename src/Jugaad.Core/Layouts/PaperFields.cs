using System.Text.RegularExpressions;
using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>A value that a layout may put on a paper.</summary>
/// <param name="Name">As it stands between the double braces.</param>
/// <param name="Group">Of whom or what it tells.</param>
/// <param name="Meaning">In words.</param>
public sealed record PaperField(string Name, string Group, string Meaning);

/// <summary>
/// The values of one paper by their names, which are those of mail texts where they mean the same; and
/// <c>Word.…</c> for each of the program's own words, in the paper's language.
/// </summary>
public sealed partial class PaperFields
{
    private const string OfWord = "Word.";

    private readonly PaperContent _content;
    private readonly HashSet<string> _said = [];

    internal PaperFields(PaperContent content) => _content = content;

    internal int Page { get; set; } = 1;

    internal int Pages { get; set; } = 1;

    /// <summary>Those that had a value when they were asked for.</summary>
    internal IReadOnlySet<string> Said => _said;

    /// <summary>Whether what is asked for does not come on the paper, since it is hidden.</summary>
    internal bool Silent { get; set; }

    internal void Say(params string[] names)
    {
        if (!Silent)
            _said.UnionWith(names);
    }

    /// <summary>In the order in which they are offered.</summary>
    public static IReadOnlyList<PaperField> All { get; } =
    [
        new("Business", "The business", "its name"),
        new("BusinessAddress", "The business", "its address, a line each"),
        new("BusinessContact", "The business", "mail address, telephone, website"),
        new("BusinessNumbers", "The business", "registration and tax number with their words"),
        new("RegistrationNumber", "The business", "registration number alone"),
        new("TaxNumber", "The business", "tax number alone"),
        new("OtherNumbers", "The business", "numbers with other tax authorities, a line each"),
        new("Banks", "The business", "bank accounts, a line each"),
        new("Iban", "The business", "number of its first bank account"),
        new("Bic", "The business", "code of its first bank"),
        new("Footer", "The business", "the words at the foot of its papers"),
        new("Customer", "The customer", "name"),
        new("CustomerAddress", "The customer", "address, a line each"),
        new("CustomerTaxNumber", "The customer", "tax number with its word"),
        new("CustomerCode", "The customer", "code"),
        new("Heading", "The paper", "what it is, as its heading"),
        new("Kind", "The paper", "what it is, in the middle of a sentence"),
        new("Number", "The paper", "number"),
        new("Mark", "The paper", "mark, such as copy"),
        new("Date", "The paper", "date"),
        new("TaxDate", "The paper", "tax date, where it is another"),
        new("Until", "The paper", "due day, or the last day that a quote holds"),
        new("PurchaseOrder", "The paper", "the customer's order number"),
        new("Project", "The paper", "project"),
        new("Reference", "The paper", "reference"),
        new("Corrects", "The paper", "number of the paper that it corrects"),
        new("Delivered", "The paper", "day or days of delivery"),
        new("Opening", "The paper", "text above the lines"),
        new("Closing", "The paper", "what is said at the end: how to pay, why no tax, deliveries"),
        new("Remarks", "The paper", "what is said at the end, but for how it was paid"),
        new("Paid", "The paper", "how it was paid, a line each"),
        new("Note", "The paper", "note"),
        new("Currency", "Money", "code of the currency"),
        new("Total", "Money", "what it comes to, with the currency"),
        new("TotalNumber", "Money", "what it comes to, bare"),
        new("TotalInWords", "Money", "what it comes to, in words"),
        new("WithoutTax", "Money", "sum without tax"),
        new("TotalTax", "Money", "tax in all"),
        new("HomeRate", "Money", "rate of the home currency, where tax is told in it"),
        new("TransferCode", "Codes", "what a telephone reads to fill in the transfer"),
        new("Pay", "Codes", "address where it can be paid"),
        new("Page", "Codes", "address of the customer's own page"),
        new("PageNumber", "Pages", "number of the page"),
        new("PageCount", "Pages", "how many pages there are"),
    ];

    /// <summary>What each field says on a paper; those that say nothing are not there.</summary>
    public static IReadOnlyDictionary<string, string> Examples(PaperContent content)
    {
        var fields = new PaperFields(content);
        return All.Select(f => (f.Name, Value: fields[f.Name]))
            .Where(f => f.Value.Length > 0)
            .ToDictionary(f => f.Name, f => f.Value.ReplaceLineEndings(" · "));
    }

    /// <summary>Whether a name is that of a field or of one of the program's words.</summary>
    public static bool Knows(string name) =>
        name.StartsWith(OfWord, StringComparison.Ordinal)
            ? Enum.TryParse<PaperWord>(name[OfWord.Length..], out var word) && Enum.IsDefined(word)
            : All.Any(f => f.Name == name);

    /// <summary>The names in a text.</summary>
    public static IEnumerable<string> NamesIn(string text) => Braces().Matches(text).Select(m => m.Groups[1].Value);

    /// <summary>Empty where the paper has none.</summary>
    public string this[string name]
    {
        get
        {
            var value = name.StartsWith(OfWord, StringComparison.Ordinal)
                ? Enum.TryParse<PaperWord>(name[OfWord.Length..], out var word)
                    ? _content.Words[word]
                    : ""
                : ValueOf(name);
            if (value.Length > 0)
                Say(name);
            return value;
        }
    }

    /// <summary>Whether a field has a value; asking does not put it on the paper.</summary>
    internal bool Has(string name) =>
        name is "Totals" ? _content is { ShowsPrices: true, Totals.Count: > 0 } : ValueOf(name).Length > 0;

    /// <summary>A text with its fields filled in; empty where it has fields and none of them has a value.</summary>
    internal string Fill(string text)
    {
        var (any, none) = (false, true);
        var filled = Braces()
            .Replace(
                text,
                m =>
                {
                    var name = m.Groups[1].Value;
                    var value = this[name];
                    if (!name.StartsWith(OfWord, StringComparison.Ordinal))
                        (any, none) = (true, none && value.Length == 0);
                    return value;
                }
            );
        return any && none ? "" : filled;
    }

    private string ValueOf(string name)
    {
        var (sender, addressee) = (_content.Sender, _content.Addressee);
        return name switch
        {
            "Business" => sender.Name,
            "BusinessAddress" => sender.AddressLines,
            "BusinessContact" => sender.Contact,
            "BusinessNumbers" => Dotted(
                sender.RegistrationNumber.Length > 0
                    ? _content.Words.Fill(PaperWord.RegNo, sender.RegistrationNumber)
                    : "",
                sender.TaxNumber.Length > 0 ? _content.Words.Fill(PaperWord.TaxNo, sender.TaxNumber) : ""
            ),
            "RegistrationNumber" => sender.RegistrationNumber,
            "TaxNumber" => sender.TaxNumber,
            "OtherNumbers" => string.Join('\n', sender.OtherNumbers),
            "Banks" => string.Join(
                '\n',
                sender
                    .MoreBanks.Prepend(new SenderBank(sender.BankName, sender.Iban, sender.Bic))
                    .Select(BankLine)
                    .Where(b => b.Length > 0)
            ),
            "Iban" => sender.Iban.Length > 0 ? Trade.Iban.Grouped(sender.Iban) : "",
            "Bic" => sender.Bic,
            "Footer" => sender.Footer,
            "Customer" => addressee.Name,
            "CustomerAddress" => addressee.AddressLines,
            "CustomerTaxNumber" => addressee.TaxNumber.Length > 0 && _content.ShowsTax
                ? _content.Words.Fill(PaperWord.TaxNumber, addressee.TaxNumber)
                : "",
            "Heading" => _content.Heading,
            "Number" => _content.IsDraft ? _content.Words[PaperWord.Draft] : _content.Number,
            "Mark" => _content.Mark,
            "Opening" => _content.Opening,
            "Closing" => string.Join('\n', _content.Closing),
            "Note" => _content.Note,
            "Currency" => _content.CurrencyCode,
            "HomeRate" => _content.HomeRate,
            "TransferCode" => _content.TransferCode,
            "PageNumber" => $"{Page}",
            "PageCount" => $"{Pages}",
            _ => _content.Values.GetValueOrDefault(name, ""),
        };
    }

    private static string BankLine(SenderBank bank) =>
        Dotted(
            bank.Name,
            bank.Iban.Length > 0 ? $"IBAN {Trade.Iban.Grouped(bank.Iban)}" : "",
            bank.Bic.Length > 0 ? $"BIC {bank.Bic}" : ""
        );

    private static string Dotted(params string[] parts) => string.Join(" · ", parts.Where(p => p.Length > 0));

    [GeneratedRegex(@"\{\{\s*([A-Za-z][A-Za-z.]*)\s*\}\}")]
    private static partial Regex Braces();
}
