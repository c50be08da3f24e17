using System.Text;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Moving;

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
            new(
                "code",
                "code",
                false,
                "customer code",
                "member no",
                "client no",
                "customer no",
                "customer number",
                "customer id",
                "account no",
                "account code",
                "id",
                "no",
                "number",
                "kundennummer",
                "kunden-nr",
                "kliendi kood",
                "numéro client",
                "code client",
                "código cliente",
                "codice cliente",
                "código do cliente",
                "klantnummer",
                "kundnummer",
                "kundenr",
                "asiakasnumero",
                "numer klienta",
                "kod klienta"
            ),
            new(
                "name",
                "name; needed for new ones",
                false,
                "customer",
                "customer name",
                "company",
                "company name",
                "full name",
                "display name",
                "firma",
                "nimi",
                "namn",
                "navn",
                "kunde",
                "nom",
                "raison sociale",
                "client",
                "nombre",
                "razón social",
                "cliente",
                "nome",
                "ragione sociale",
                "naam",
                "klant",
                "nazwa",
                "klient",
                "asiakas"
            ),
            new("other name", "known as", false, "trading name", "known as", "alias", "short name"),
            new("kind", "business, consumer or public body", false, "type", "customer type", "category"),
            new(
                "registration number",
                "registration number",
                false,
                "reg no",
                "registry code",
                "company number",
                "org nr",
                "organisation number"
            ),
            new(
                "tax number",
                "tax number",
                false,
                "vat",
                "vat no",
                "vat number",
                "vat id",
                "tax id",
                "tax no",
                "gst no",
                "ust-id",
                "ust-idnr",
                "kmkr",
                "numéro tva",
                "tva",
                "nif",
                "nif-iva",
                "partita iva",
                "p iva",
                "btw-nummer",
                "btw",
                "momsnummer",
                "moms",
                "alv-numero",
                "nip"
            ),
            new("ask for", "whom to ask for", false, "contact", "contact name", "contact person", "attention", "attn"),
            new(
                "mail",
                "mail address",
                false,
                "email",
                "e-mail",
                "mail address",
                "email address",
                "e-post",
                "epost",
                "e-mail-adresse",
                "courriel",
                "correo",
                "correo electrónico",
                "posta elettronica",
                "sähköposti"
            ),
            new(
                "phone",
                "phone",
                false,
                "telephone",
                "tel",
                "phone number",
                "telefon",
                "téléphone",
                "teléfono",
                "telefono",
                "telefone",
                "telefoon",
                "puhelin"
            ),
            new(
                "mobile",
                "mobile",
                false,
                "mobile phone",
                "cell",
                "mobil",
                "portable",
                "móvil",
                "cellulare",
                "telemóvel",
                "mobiel",
                "handy"
            ),
            new(
                "street",
                "street",
                false,
                "address",
                "address 1",
                "address line 1",
                "street address",
                "aadress",
                "adresse",
                "strasse",
                "straße",
                "rue",
                "dirección",
                "calle",
                "indirizzo",
                "via",
                "endereço",
                "adres",
                "straat",
                "ulica",
                "katuosoite",
                "adress",
                "gatuadress"
            ),
            new(
                "postal code",
                "postal code",
                false,
                "zip",
                "zip code",
                "postcode",
                "post code",
                "plz",
                "postleitzahl",
                "postnr",
                "postnummer",
                "code postal",
                "código postal",
                "cap",
                "kod pocztowy",
                "postinumero",
                "sihtnumber",
                "postindeks"
            ),
            new(
                "town",
                "town",
                false,
                "city",
                "place",
                "linn",
                "ort",
                "stadt",
                "ville",
                "ciudad",
                "población",
                "città",
                "cidade",
                "plaats",
                "miasto",
                "kaupunki",
                "by"
            ),
            new("region", "region", false, "state", "province", "county"),
            new("country", "country", false, "country code", "land", "riik", "pays", "país", "paese", "kraj", "maa"),
            new("language", "language", false, "lang"),
            new(
                "currency",
                "currency",
                false,
                "billing currency",
                "valuta",
                "waehrung",
                "währung",
                "devise",
                "moneda",
                "divisa",
                "moeda",
                "waluta",
                "valuutta",
                "valuuta"
            ),
            new("also billed in", "currencies that they are billed in besides, as SEK USD", false, "other currencies"),
            new(
                "terms",
                "payment terms",
                false,
                "payment terms",
                "terms of payment",
                "zahlungsbedingungen",
                "conditions de paiement",
                "condiciones de pago",
                "condizioni di pagamento",
                "condições de pagamento",
                "betalingsvoorwaarden",
                "warunki płatności",
                "maksuehto"
            ),
            new(
                "credit limit",
                "credit limit",
                false,
                "limit",
                "kreditlimit",
                "limite de crédit",
                "límite de crédito",
                "fido",
                "limite de crédito",
                "kredietlimiet",
                "limit kredytowy"
            ),
            new("trade discount", "trade discount", false, "discount", "discount %"),
            new("price list", "price list", false, "pricelist"),
            new("seller", "looked after by", false, "salesperson", "sales person", "sales rep", "account manager"),
            new("tags", "tags", false, "groups", "labels"),
            new("note", "private note", false, "notes", "comment", "comments", "remarks"),
            new("inactive", "inactive", false, "blocked", "archived"),
            new("no more on account", "why no more on account", false, "stop reason", "on stop"),
            new("risk grade", "risk grade", false, "rating", "credit rating"),
            new("electronic scheme", "kind of the electronic address (EAS)", false, "endpoint scheme"),
            new("electronic address", "electronic address for e-invoices", false, "endpoint", "endpoint id"),
            new("their reference", "what they want to read on invoices", false, "buyer reference"),
            new("contract", "contract that they are billed under", false, "contract reference"),
            new("gets papers", "pdf, hybrid pdf, e-invoice or print", false),
            new("contacts", "contacts: name; mail; phone; parts | …", false),
            new("places", "places: name; street; postal code; town; region; country | …", false),
            new("certificates", "certificates: number; from; last day | …", false),
        ],
        [MovingKind.Items] =
        [
            new(
                "code",
                "code",
                true,
                "item code",
                "item no",
                "item number",
                "sku",
                "article",
                "article number",
                "article no",
                "product code",
                "part number",
                "id",
                "no",
                "number",
                "kood",
                "artikelnummer",
                "artikelnr",
                "référence",
                "código",
                "codice",
                "artikelcode",
                "kod",
                "varenummer",
                "tuotekoodi"
            ),
            new(
                "name",
                "name; needed for new ones",
                false,
                "item",
                "item name",
                "product",
                "product name",
                "title",
                "nimetus",
                "bezeichnung",
                "désignation",
                "nombre",
                "denominación",
                "nome",
                "denominazione",
                "designação",
                "naam",
                "omschrijving",
                "nazwa",
                "benämning",
                "nimi"
            ),
            new("text", "text on the paper", false, "description", "long description", "sales description"),
            new("goods", "goods, not a service", false, "is goods", "physical", "type"),
            new(
                "unit",
                "unit",
                false,
                "uom",
                "unit of measure",
                "ühik",
                "einheit",
                "unité",
                "unidad",
                "unità",
                "unidade",
                "eenheid",
                "jednostka",
                "enhet",
                "yksikkö"
            ),
            new(
                "price",
                "price",
                false,
                "sales price",
                "unit price",
                "net price",
                "list price",
                "hind",
                "preis",
                "nettopreis",
                "prix",
                "precio",
                "prezzo",
                "preço",
                "prijs",
                "cena",
                "pris",
                "hinta"
            ),
            new("price with tax", "the tax is in the price", false, "tax included", "gross price"),
            new("cost", "cost", false, "cost price", "purchase price"),
            new("tax", "tax code", false, "tax code", "vat code", "vat", "tax rate"),
            new("account", "ledger account", false, "ledger account", "sales account", "gl account", "revenue account"),
            new("barcode", "barcodes", false, "ean", "gtin", "upc", "barcodes"),
            new("classification", "classification", false, "customs code", "hs code", "commodity code", "tariff"),
            new("classification list", "list of the classification (UNTDID 7143)", false, "classification scheme"),
            new("origin", "country of origin", false, "country of origin"),
            new("keeps count", "count on hand is kept", false, "stock item", "track stock", "inventory"),
            new("inactive", "not sold any more", false, "archived", "discontinued"),
        ],
        [MovingKind.Prices] =
        [
            new("item", "item code", true, "code", "item code", "sku", "article", "article number", "product code"),
            new("price list", "price list", true, "list", "pricelist", "price level"),
            new("currency", "currency of a list that is new", false, "valuta"),
            new("with tax", "tax in the prices of a list that is new", false, "tax included"),
            new(
                "price",
                "price",
                true,
                "unit price",
                "sales price",
                "amount",
                "hind",
                "preis",
                "prix",
                "precio",
                "prezzo",
                "preço",
                "prijs",
                "cena",
                "pris",
                "hinta"
            ),
        ],
        [MovingKind.ItemNumbers] =
        [
            new("customer", "customer code", true, "customer code", "customer no", "customer number", "client"),
            new("item", "item code", true, "item code", "sku", "article", "article number", "product code", "code"),
            new(
                "number",
                "number by which the customer knows it",
                true,
                "their number",
                "buyer's number",
                "buyers item number",
                "customer article number",
                "customer part number"
            ),
        ],
        [MovingKind.OpenItems] =
        [
            new(
                "customer",
                "customer, by code or name",
                true,
                "customer code",
                "customer no",
                "customer number",
                "customer name",
                "code",
                "client",
                "debtor",
                "kunde",
                "kundennummer",
                "cliente",
                "klant",
                "klient",
                "kund",
                "asiakas"
            ),
            new("kind", "invoice or credit", false, "type", "document type"),
            new(
                "number",
                "number",
                true,
                "invoice",
                "invoice no",
                "invoice number",
                "document",
                "document no",
                "document number",
                "no",
                "reference",
                "rechnung",
                "rechnungsnummer",
                "facture",
                "numéro de facture",
                "factura",
                "número de factura",
                "fattura",
                "numero fattura",
                "fatura",
                "factuur",
                "factuurnummer",
                "faktura",
                "numer faktury",
                "fakturanummer",
                "arve",
                "laskun numero"
            ),
            new(
                "date",
                "date",
                true,
                "invoice date",
                "document date",
                "issued",
                "kuupäev",
                "datum",
                "rechnungsdatum",
                "date de facture",
                "fecha",
                "data",
                "factuurdatum",
                "fakturadatum",
                "päivämäärä"
            ),
            new(
                "due",
                "due day",
                false,
                "due date",
                "due on",
                "pay by",
                "maksetähtaeg",
                "fällig",
                "fälligkeit",
                "fällig am",
                "échéance",
                "date d'échéance",
                "vencimiento",
                "fecha de vencimiento",
                "scadenza",
                "vencimento",
                "vervaldatum",
                "termin płatności",
                "förfallodatum",
                "forfaldsdato",
                "eräpäivä"
            ),
            new(
                "open",
                "open amount; below zero for a credit",
                true,
                "open amount",
                "amount",
                "balance",
                "outstanding",
                "amount due",
                "remaining",
                "saldo",
                "offen",
                "offener betrag",
                "betrag",
                "solde",
                "montant dû",
                "importe pendiente",
                "pendiente",
                "importo",
                "residuo",
                "valor em aberto",
                "openstaand",
                "do zapłaty",
                "restbelopp",
                "avoin"
            ),
            new("currency", "currency", false, "valuta"),
            new("exchange rate", "exchange rate, if not that of the day", false, "rate"),
            new(
                "tax code",
                "tax code, where its tax is told as it is paid",
                false,
                "tax",
                "vat code",
                "steuerschlüssel",
                "käibemaksukood",
                "momskod"
            ),
        ],
        [MovingKind.Balances] =
        [
            new(
                "account",
                "ledger account",
                true,
                "account no",
                "account number",
                "account code",
                "code",
                "no",
                "konto",
                "compte",
                "cuenta",
                "conto",
                "conta",
                "rekening",
                "tili"
            ),
            new("date", "date", true, "as of", "kuupäev", "datum", "fecha", "data", "päivämäärä"),
            new("debit", "debit", false, "dr", "deebet", "soll", "débit", "debe", "dare", "débito", "debet", "winien"),
            new(
                "credit",
                "credit",
                false,
                "cr",
                "kreedit",
                "haben",
                "crédit",
                "haber",
                "avere",
                "crédito",
                "kredit",
                "ma"
            ),
        ],
    };

    /// <summary>Whether a field's cells are figures, in any kind.</summary>
    public static bool IsFigure(string field) =>
        field
            is "price"
                or "cost"
                or "credit limit"
                or "trade discount"
                or "open"
                or "exchange rate"
                or "debit"
                or "credit";

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

    /// <summary>
    /// The head for a field of the books: <c>creditLimit</c> is <c>credit limit</c>; of a part that repeats, the
    /// part's.
    /// </summary>
    public static string HeadOf(string field)
    {
        var bracket = field.IndexOf('[', StringComparison.Ordinal);
        var plain = bracket > 0 ? field[..bracket] : field;
        return Heads.TryGetValue(plain, out var head)
            ? head
            : string.Concat(
                plain.Select(c => char.IsAsciiLetterUpper(c) ? " " + char.ToLowerInvariant(c) : c.ToString())
            );
    }

    public static string Words(MovingKind kind) =>
        kind switch
        {
            MovingKind.Customers => "customers",
            MovingKind.Items => "items",
            MovingKind.Prices => "price lists",
            MovingKind.ItemNumbers => "item numbers of customers",
            MovingKind.OpenItems => "open invoices and credits",
            _ => "opening balances",
        };

    /// <summary>The word by which the launcher and addresses know a kind.</summary>
    public static string Key(MovingKind kind) =>
        kind switch
        {
            MovingKind.ItemNumbers => "item-numbers",
            MovingKind.OpenItems => "open-items",
            _ => kind.ToString().ToLowerInvariant(),
        };

    public static MovingKind? Find(string key) =>
        Enum.GetValues<MovingKind>().Where(k => Key(k) == key).Select(k => (MovingKind?)k).FirstOrDefault();

    /// <summary>
    /// Which column of a file is likely which field: the same head first, then a known other one, then a head that
    /// holds one. Each column and each field is given once.
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
                if (at >= 0 && !guess.ContainsValue(at))
                    guess[field.Key] = at;
            }
        }

        Give((field, head) => head == Plain(field.Key));
        Give((field, head) => field.Others.Any(o => Plain(o) == head));
        Give(
            (field, head) =>
                head.Length >= 5
                && field
                    .Others.Append(field.Key)
                    .Select(Plain)
                    .Any(o =>
                        o.Length >= 5
                        && (head.Contains(o, StringComparison.Ordinal) || o.Contains(head, StringComparison.Ordinal))
                    )
        );
        return guess;
    }

    private static string Plain(string head)
    {
        var plain = new StringBuilder();
        foreach (var c in head.ToLowerInvariant())
            if (char.IsLetterOrDigit(c))
                plain.Append(c);
        return plain.ToString();
    }
}
