namespace Jugaad.Core.Layouts.Spelling;

/// <summary>How many forms a language has for a noun behind a number.</summary>
internal enum NounForms
{
    /// <summary>One, and all else.</summary>
    Plain,

    /// <summary>One; two to four; many: Polish.</summary>
    Slavic,

    /// <summary>What ends with one; what ends with two to nine; the tens and teens: Latvian and Lithuanian.</summary>
    Baltic,
}

/// <summary>
/// How a language says money: its numbers, what stands before an amount below zero, what stands before its hundredths,
/// and by currency its forms, its gender (m, f, n), and the forms of its hundredth.
/// </summary>
internal sealed record MoneyNames(
    INumberWriter Numbers,
    string Minus,
    string And,
    NounForms Forms,
    Dictionary<string, string> Currencies
)
{
    internal static IReadOnlyDictionary<string, MoneyNames> All { get; } =
        new Dictionary<string, MoneyNames>
        {
            ["da"] = new(
                NordicWriter.Danish,
                "minus",
                "og",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euro|m|cent|cent",
                    ["USD"] = "dollar|dollar|m|cent|cent",
                    ["CAD"] = "dollar|dollar|m|cent|cent",
                    ["GBP"] = "pund|pund|n|penny|pence",
                    ["SEK"] = "krone|kroner|m|øre|øre",
                    ["NOK"] = "krone|kroner|m|øre|øre",
                    ["DKK"] = "krone|kroner|m|øre|øre",
                    ["CHF"] = "franc|franc|m|rappen|rappen",
                    ["PLN"] = "zloty|zloty|m|grosz|groszy",
                }
            ),
            ["de"] = new(
                new GermanWriter(),
                "minus",
                "und",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "Euro|Euro|m|Cent|Cent",
                    ["USD"] = "Dollar|Dollar|m|Cent|Cent",
                    ["CAD"] = "Dollar|Dollar|m|Cent|Cent",
                    ["GBP"] = "Pfund|Pfund|n|Penny|Pence",
                    ["SEK"] = "Krone|Kronen|f|Öre|Öre",
                    ["NOK"] = "Krone|Kronen|f|Öre|Öre",
                    ["DKK"] = "Krone|Kronen|f|Öre|Öre",
                    ["CHF"] = "Franken|Franken|m|Rappen|Rappen",
                    ["PLN"] = "Zloty|Zloty|m|Grosz|Grosz",
                }
            ),
            ["en"] = new(
                new EnglishWriter(),
                "minus",
                "and",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euros|m|cent|cents",
                    ["USD"] = "dollar|dollars|m|cent|cents",
                    ["CAD"] = "dollar|dollars|m|cent|cents",
                    ["GBP"] = "pound|pounds|m|penny|pence",
                    ["SEK"] = "krona|kronor|m|öre|öre",
                    ["NOK"] = "krone|kroner|m|øre|øre",
                    ["DKK"] = "krone|kroner|m|øre|øre",
                    ["CHF"] = "franc|francs|m|rappen|rappen",
                    ["PLN"] = "zloty|zlotys|m|grosz|groszy",
                }
            ),
            ["es"] = new(
                new SpanishWriter(),
                "menos",
                "y",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euros|m|céntimo|céntimos",
                    ["USD"] = "dólar|dólares|m|centavo|centavos",
                    ["CAD"] = "dólar|dólares|m|centavo|centavos",
                    ["GBP"] = "libra|libras|f|penique|peniques",
                    ["SEK"] = "corona|coronas|f|öre|öre",
                    ["NOK"] = "corona|coronas|f|øre|øre",
                    ["DKK"] = "corona|coronas|f|øre|øre",
                    ["CHF"] = "franco|francos|m|céntimo|céntimos",
                    ["PLN"] = "esloti|eslotis|m|grosz|groszy",
                }
            ),
            ["et"] = new(
                new EstonianWriter(),
                "miinus",
                "ja",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|eurot|m|sent|senti",
                    ["USD"] = "dollar|dollarit|m|sent|senti",
                    ["CAD"] = "dollar|dollarit|m|sent|senti",
                    ["GBP"] = "nael|naela|m|penn|penni",
                    ["SEK"] = "kroon|krooni|m|öör|ööri",
                    ["NOK"] = "kroon|krooni|m|öör|ööri",
                    ["DKK"] = "kroon|krooni|m|öör|ööri",
                    ["CHF"] = "frank|franki|m|rapp|rappi",
                    ["PLN"] = "zlott|zlotti|m|gross|grossi",
                }
            ),
            ["fi"] = new(
                new FinnishWriter(),
                "miinus",
                "ja",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euroa|m|sentti|senttiä",
                    ["USD"] = "dollari|dollaria|m|sentti|senttiä",
                    ["CAD"] = "dollari|dollaria|m|sentti|senttiä",
                    ["GBP"] = "punta|puntaa|m|penny|pennyä",
                    ["SEK"] = "kruunu|kruunua|m|äyri|äyriä",
                    ["NOK"] = "kruunu|kruunua|m|äyri|äyriä",
                    ["DKK"] = "kruunu|kruunua|m|äyri|äyriä",
                    ["CHF"] = "frangi|frangia|m|rappen|rappenia",
                    ["PLN"] = "zloty|zlotya|m|grosz|groszya",
                }
            ),
            ["fr"] = new(
                new FrenchWriter(),
                "moins",
                "et",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euros|m|centime|centimes",
                    ["USD"] = "dollar|dollars|m|cent|cents",
                    ["CAD"] = "dollar|dollars|m|cent|cents",
                    ["GBP"] = "livre|livres|f|penny|pence",
                    ["SEK"] = "couronne|couronnes|f|öre|öre",
                    ["NOK"] = "couronne|couronnes|f|øre|øre",
                    ["DKK"] = "couronne|couronnes|f|øre|øre",
                    ["CHF"] = "franc|francs|m|centime|centimes",
                    ["PLN"] = "zloty|zlotys|m|grosz|groszy",
                }
            ),
            ["it"] = new(
                new ItalianWriter(),
                "meno",
                "e",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euro|m|centesimo|centesimi",
                    ["USD"] = "dollaro|dollari|m|centesimo|centesimi",
                    ["CAD"] = "dollaro|dollari|m|centesimo|centesimi",
                    ["GBP"] = "sterlina|sterline|f|penny|pence",
                    ["SEK"] = "corona|corone|f|öre|öre",
                    ["NOK"] = "corona|corone|f|øre|øre",
                    ["DKK"] = "corona|corone|f|øre|øre",
                    ["CHF"] = "franco|franchi|m|centesimo|centesimi",
                    ["PLN"] = "zloty|zloty|m|grosz|groszy",
                }
            ),
            ["lt"] = new(
                new LithuanianWriter(),
                "minus",
                "ir",
                NounForms.Baltic,
                new()
                {
                    ["EUR"] = "euras|eurai|eurų|m|centas|centai|centų",
                    ["USD"] = "doleris|doleriai|dolerių|m|centas|centai|centų",
                    ["CAD"] = "doleris|doleriai|dolerių|m|centas|centai|centų",
                    ["GBP"] = "svaras|svarai|svarų|m|pensas|pensai|pensų",
                    ["SEK"] = "krona|kronos|kronų|f|erė|erės|erių",
                    ["NOK"] = "krona|kronos|kronų|f|erė|erės|erių",
                    ["DKK"] = "krona|kronos|kronų|f|erė|erės|erių",
                    ["CHF"] = "frankas|frankai|frankų|m|rapenas|rapenai|rapenų",
                    ["PLN"] = "zlotas|zlotai|zlotų|m|grašis|grašiai|grašių",
                }
            ),
            ["lv"] = new(
                new LatvianWriter(),
                "mīnus",
                "un",
                NounForms.Baltic,
                new()
                {
                    ["EUR"] = "eiro|eiro|eiro|m|cents|centi|centu",
                    ["USD"] = "dolārs|dolāri|dolāru|m|cents|centi|centu",
                    ["CAD"] = "dolārs|dolāri|dolāru|m|cents|centi|centu",
                    ["GBP"] = "mārciņa|mārciņas|mārciņu|f|penss|pensi|pensu",
                    ["SEK"] = "krona|kronas|kronu|f|ēre|ēres|ēru",
                    ["NOK"] = "krona|kronas|kronu|f|ēre|ēres|ēru",
                    ["DKK"] = "krona|kronas|kronu|f|ēre|ēres|ēru",
                    ["CHF"] = "franks|franki|franku|m|santīms|santīmi|santīmu",
                    ["PLN"] = "zlots|zloti|zlotu|m|grasis|graši|grašu",
                }
            ),
            ["nl"] = new(
                new DutchWriter(),
                "min",
                "en",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euro|m|cent|cent",
                    ["USD"] = "dollar|dollar|m|cent|cent",
                    ["CAD"] = "dollar|dollar|m|cent|cent",
                    ["GBP"] = "pond|pond|n|penny|pence",
                    ["SEK"] = "kroon|kronen|m|öre|öre",
                    ["NOK"] = "kroon|kronen|m|øre|øre",
                    ["DKK"] = "kroon|kronen|m|øre|øre",
                    ["CHF"] = "frank|frank|m|rappen|rappen",
                    ["PLN"] = "zloty|zloty|m|grosz|groszy",
                }
            ),
            ["no"] = new(
                NordicWriter.Norwegian,
                "minus",
                "og",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euro|m|cent|cent",
                    ["USD"] = "dollar|dollar|m|cent|cent",
                    ["CAD"] = "dollar|dollar|m|cent|cent",
                    ["GBP"] = "pund|pund|n|penny|pence",
                    ["SEK"] = "krone|kroner|m|øre|øre",
                    ["NOK"] = "krone|kroner|m|øre|øre",
                    ["DKK"] = "krone|kroner|m|øre|øre",
                    ["CHF"] = "franc|franc|m|rappen|rappen",
                    ["PLN"] = "zloty|zloty|m|grosz|groszy",
                }
            ),
            ["pl"] = new(
                new PolishWriter(),
                "minus",
                "i",
                NounForms.Slavic,
                new()
                {
                    ["EUR"] = "euro|euro|euro|n|cent|centy|centów",
                    ["USD"] = "dolar|dolary|dolarów|m|cent|centy|centów",
                    ["CAD"] = "dolar|dolary|dolarów|m|cent|centy|centów",
                    ["GBP"] = "funt|funty|funtów|m|pens|pensy|pensów",
                    ["SEK"] = "korona|korony|koron|f|öre|öre|öre",
                    ["NOK"] = "korona|korony|koron|f|øre|øre|øre",
                    ["DKK"] = "korona|korony|koron|f|øre|øre|øre",
                    ["CHF"] = "frank|franki|franków|m|rappen|rappeny|rappenów",
                    ["PLN"] = "złoty|złote|złotych|m|grosz|grosze|groszy",
                }
            ),
            ["pt"] = new(
                new PortugueseWriter(),
                "menos",
                "e",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euros|m|cêntimo|cêntimos",
                    ["USD"] = "dólar|dólares|m|cêntimo|cêntimos",
                    ["CAD"] = "dólar|dólares|m|cêntimo|cêntimos",
                    ["GBP"] = "libra|libras|f|péni|pence",
                    ["SEK"] = "coroa|coroas|f|öre|öre",
                    ["NOK"] = "coroa|coroas|f|øre|øre",
                    ["DKK"] = "coroa|coroas|f|øre|øre",
                    ["CHF"] = "franco|francos|m|cêntimo|cêntimos",
                    ["PLN"] = "zlóti|zlótis|m|grosz|groszy",
                }
            ),
            ["sv"] = new(
                NordicWriter.Swedish,
                "minus",
                "och",
                NounForms.Plain,
                new()
                {
                    ["EUR"] = "euro|euro|m|cent|cent",
                    ["USD"] = "dollar|dollar|m|cent|cent",
                    ["CAD"] = "dollar|dollar|m|cent|cent",
                    ["GBP"] = "pund|pund|n|penny|pence",
                    ["SEK"] = "krona|kronor|m|öre|öre",
                    ["NOK"] = "krona|kronor|m|öre|öre",
                    ["DKK"] = "krona|kronor|m|öre|öre",
                    ["CHF"] = "franc|franc|m|rappen|rappen",
                    ["PLN"] = "zloty|zloty|m|grosz|groszy",
                }
            ),
        };
}
