using System.Text;

namespace Jugaad.Desk.Moving;

/// <summary>What can be moved in and out.</summary>
public enum MovingKind
{
    Customers,
    Items,
    Prices,
    OpenItems,
    Balances,
}

/// <summary>A column that has a meaning.</summary>
/// <param name="Key">The head under which it is exported.</param>
/// <param name="Words">For people.</param>
/// <param name="Others">Other heads by which it is known.</param>
public sealed record MovingField(string Key, string Words, bool Required, params string[] Others);

/// <summary>The columns of each kind, and which column of a file is likely which.</summary>
public static class MovingFields
{
    private static readonly Dictionary<MovingKind, MovingField[]> Table = new()
    {
        [MovingKind.Customers] =
        [
            new("code", "code", false, "customer code", "member no", "client no", "customer no", "customer number", "customer id", "account no", "account code", "id", "no", "number", "kundennummer", "kliendi kood"),
            new("name", "name; needed for new ones", false, "customer", "customer name", "company", "company name", "full name", "display name", "firma", "nimi", "namn", "navn"),
            new("other name", "known as", false, "trading name", "known as", "alias", "short name"),
            new("kind", "business, consumer or public body", false, "type", "customer type", "category"),
            new("registration number", "registration number", false, "reg no", "registry code", "company number", "org nr", "organisation number"),
            new("tax number", "tax number", false, "vat", "vat no", "vat number", "vat id", "tax id", "tax no", "gst no", "ust-id", "kmkr"),
            new("ask for", "whom to ask for", false, "contact", "contact name", "contact person", "attention", "attn"),
            new("mail", "mail address", false, "email", "e-mail", "mail address", "email address", "e-post", "epost"),
            new("phone", "phone", false, "telephone", "tel", "phone number", "telefon"),
            new("mobile", "mobile", false, "mobile phone", "cell", "mobil"),
            new("street", "street", false, "address", "address 1", "address line 1", "street address", "aadress", "adresse", "strasse"),
            new("postal code", "postal code", false, "zip", "zip code", "postcode", "post code", "plz", "postnr"),
            new("town", "town", false, "city", "place", "linn", "ort", "stadt"),
            new("region", "region", false, "state", "province", "county"),
            new("country", "country", false, "country code", "land", "riik"),
            new("language", "language", false, "lang"),
            new("currency", "currency", false, "billing currency", "valuta", "waehrung"),
            new("terms", "payment terms", false, "payment terms", "terms of payment"),
            new("credit limit", "credit limit", false, "limit"),
            new("trade discount", "trade discount", false, "discount", "discount %"),
            new("price list", "price list", false, "pricelist"),
            new("seller", "looked after by", false, "salesperson", "sales person", "sales rep", "account manager"),
            new("tags", "tags", false, "groups", "labels"),
            new("note", "private note", false, "notes", "comment", "comments", "remarks"),
            new("inactive", "inactive", false, "blocked", "archived"),
            new("no more on account", "why no more on account", false, "stop reason", "on stop"),
            new("risk grade", "risk grade", false, "rating", "credit rating"),
            new("contacts", "contacts: name; mail; phone; parts | …", false),
            new("places", "places: name; street; postal code; town; region; country | …", false),
            new("certificates", "certificates: number; from; last day | …", false),
        ],
        [MovingKind.Items] =
        [
            new("code", "code", true, "item code", "item no", "item number", "sku", "article", "article number", "article no", "product code", "part number", "id", "no", "number", "kood"),
            new("name", "name; needed for new ones", false, "item", "item name", "product", "product name", "title", "nimetus", "bezeichnung"),
            new("text", "text on the paper", false, "description", "long description", "sales description"),
            new("goods", "goods, not a service", false, "is goods", "physical", "type"),
            new("unit", "unit", false, "uom", "unit of measure", "ühik", "einheit"),
            new("price", "price", false, "sales price", "unit price", "net price", "list price", "hind", "preis"),
            new("price with tax", "the tax is in the price", false, "tax included", "gross price"),
            new("cost", "cost", false, "cost price", "purchase price"),
            new("tax", "tax code", false, "tax code", "vat code", "vat", "tax rate"),
            new("account", "ledger account", false, "ledger account", "sales account", "gl account", "revenue account"),
            new("barcode", "barcodes", false, "ean", "gtin", "upc", "barcodes"),
            new("classification", "classification", false, "customs code", "hs code", "commodity code", "tariff"),
            new("keeps count", "count on hand is kept", false, "stock item", "track stock", "inventory"),
            new("inactive", "not sold any more", false, "archived", "discontinued"),
        ],
        [MovingKind.Prices] =
        [
            new("item", "item code", true, "code", "item code", "sku", "article", "article number", "product code"),
            new("price list", "price list", true, "list", "pricelist", "price level"),
            new("currency", "currency of a list that is new", false, "valuta"),
            new("with tax", "tax in the prices of a list that is new", false, "tax included"),
            new("price", "price", true, "unit price", "sales price", "amount", "hind", "preis"),
        ],
        [MovingKind.OpenItems] =
        [
            new("customer", "customer, by code or name", true, "customer code", "customer no", "customer number", "customer name", "code", "client", "debtor"),
            new("kind", "invoice or credit", false, "type", "document type"),
            new("number", "number", true, "invoice", "invoice no", "invoice number", "document", "document no", "document number", "no", "reference"),
            new("date", "date", true, "invoice date", "document date", "issued", "kuupäev", "datum"),
            new("due", "due day", false, "due date", "due on", "pay by", "maksetähtaeg", "fällig"),
            new("open", "open amount; below zero for a credit", true, "open amount", "amount", "balance", "outstanding", "amount due", "remaining", "saldo"),
            new("currency", "currency", false, "valuta"),
            new("exchange rate", "exchange rate, if not that of the day", false, "rate"),
        ],
        [MovingKind.Balances] =
        [
            new("account", "ledger account", true, "account no", "account number", "account code", "code", "no", "konto"),
            new("date", "date", true, "as of", "kuupäev", "datum"),
            new("debit", "debit", false, "dr", "deebet", "soll"),
            new("credit", "credit", false, "cr", "kreedit", "haben"),
        ],
    };

    /// <summary>Whether a field's cells are figures, in any kind.</summary>
    public static bool IsFigure(string field) => field is "price" or "cost" or "credit limit" or "trade discount" or "open" or "exchange rate" or "debit" or "credit";

    /// <summary>Whether a field's cells are dates.</summary>
    public static bool IsDate(string field) => field is "date" or "due";

    public static IReadOnlyList<MovingField> Of(MovingKind kind) => Table[kind];

    /// <summary>Where the books' own name of a field is another than the head under which it is moved.</summary>
    private static readonly Dictionary<string, string> Heads = new()
    {
        ["email"] = "mail",
        ["contactName"] = "ask for",
        ["city"] = "town",
        ["privateNote"] = "note",
        ["noMoreReason"] = "no more on account",
        ["isGoods"] = "goods",
        ["taxCodeId"] = "tax",
        ["ledgerAccountId"] = "account",
        ["termsId"] = "terms",
        ["priceListId"] = "price list",
        ["sellerId"] = "seller",
    };

    /// <summary>The head for a field of the books: <c>creditLimit</c> is <c>credit limit</c>; of a part that repeats, the part's.</summary>
    public static string HeadOf(string field)
    {
        var bracket = field.IndexOf('[', StringComparison.Ordinal);
        var plain = bracket > 0 ? field[..bracket] : field;
        return Heads.TryGetValue(plain, out var head) ? head : string.Concat(plain.Select(c => char.IsAsciiLetterUpper(c) ? " " + char.ToLowerInvariant(c) : c.ToString()));
    }

    public static string Words(MovingKind kind) => kind switch
    {
        MovingKind.Customers => "customers",
        MovingKind.Items => "items",
        MovingKind.Prices => "price lists",
        MovingKind.OpenItems => "open invoices and credits",
        _ => "opening balances",
    };

    /// <summary>The word by which the launcher and addresses know a kind.</summary>
    public static string Key(MovingKind kind) => kind switch
    {
        MovingKind.OpenItems => "open-items",
        _ => kind.ToString().ToLowerInvariant(),
    };

    public static MovingKind? Find(string key) => Enum.GetValues<MovingKind>().Where(k => Key(k) == key).Select(k => (MovingKind?)k).FirstOrDefault();

    /// <summary>
    /// Which column of a file is likely which field: the same head first, then a known other one, then a head that holds one.
    /// Each column and each field is given once.
    /// </summary>
    public static Dictionary<string, int> Guess(MovingKind kind, IReadOnlyList<string> columns)
    {
        var heads = columns.Select(Plain).ToList();
        var guess = new Dictionary<string, int>();
        void Give(Func<MovingField, string, bool> fits)
        {
            foreach (var field in Of(kind).Where(f => !guess.ContainsKey(f.Key)))
            {
                var at = heads.FindIndex(h => h.Length > 0 && fits(field, h) && !guess.ContainsValue(heads.IndexOf(h)));
                if (at >= 0 && !guess.ContainsValue(at)) guess[field.Key] = at;
            }
        }

        Give((field, head) => head == Plain(field.Key));
        Give((field, head) => field.Others.Any(o => Plain(o) == head));
        Give((field, head) => head.Length >= 5 && field.Others.Append(field.Key).Select(Plain).Any(o => o.Length >= 5 && (head.Contains(o, StringComparison.Ordinal) || o.Contains(head, StringComparison.Ordinal))));
        return guess;
    }

    private static string Plain(string head)
    {
        var plain = new StringBuilder();
        foreach (var c in head.ToLowerInvariant())
            if (char.IsLetterOrDigit(c)) plain.Append(c);
        return plain.ToString();
    }
}
