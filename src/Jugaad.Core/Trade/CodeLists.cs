using System.Collections.Frozen;
using System.Text.RegularExpressions;

namespace Jugaad.Core.Trade;

/// <summary>
/// The code lists that the standard names, as facts: ISO 3166-1 and ISO 4217 of Debian's iso-codes 4.x, UNTDID 1001, 4461
/// and 5305 of D.16B as far as the standard allows them, and the lists of electronic addresses (EAS) and of reasons for an
/// exemption (VATEX) of their version 13.
/// </summary>
public static partial class CodeLists
{
    public static IReadOnlySet<string> Countries { get; } =
        Of(
            "1A AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS "
                + "BT BV BW BY BZ CA CC CD CF CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG "
                + "EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP GQ GR GS GT GU GW GY HK HM HN HR "
                + "HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR "
                + "LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG "
                + "NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE "
                + "SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA "
                + "UG UM US UY UZ VA VC VE VG VI VN VU WF WS XI YE YT ZA ZM ZW "
        );

    public static IReadOnlySet<string> Currencies { get; } =
        Of(
            "AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BHD BIF BMD BND BOB BOV BRL BSD BTN BWP BYN "
                + "BZD CAD CDF CHE CHF CHW CLF CLP CNY COP COU CRC CUC CUP CVE CZK DJF DKK DOP DZD EGP ERN ETB EUR FJD "
                + "FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HRK HTG HUF IDR ILS INR IQD IRR ISK JMD JOD JPY KES KGS "
                + "KHR KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN "
                + "MXV MYR MZN NAD NGN NIO NOK NPR NZD OMR PAB PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF SAR SBD SCR "
                + "SDG SEK SGD SHP SLE SLL SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD TZS UAH UGX USD "
                + "USN UYI UYU UYW UZS VED VES VND VUV WST XAF XAG XAU XBA XBB XBC XBD XCD XDR XOF XPD XPF XPT XSU XTS "
                + "XUA XXX YER ZAR ZMW ZWL "
        );

    /// <summary>UNTDID 1001, those of invoices and credit notes.</summary>
    public static IReadOnlySet<string> Types { get; } =
        Of(
            "71 80 81 82 83 84 102 130 202 203 204 211 218 219 261 262 295 296 308 325 326 331 380 381 382 383 "
                + "384 385 386 387 388 389 390 393 394 395 396 420 456 457 458 527 532 553 575 623 633 751 780 817 870 "
                + "875 876 877 935 "
        );

    /// <summary>UNTDID 4461.</summary>
    public static IReadOnlySet<string> Means { get; } =
        Of(
            "1 2 3 4 5 6 7 8 9 10 11 12 13 14 15 16 17 18 19 20 21 22 23 24 25 26 27 28 29 30 31 32 33 34 35 36 "
                + "37 38 39 40 41 42 43 44 45 46 47 48 49 50 51 52 53 54 55 56 57 58 59 60 61 62 63 64 65 66 67 68 69 "
                + "70 74 75 76 77 78 91 92 93 94 95 96 97 98 ZZZ "
        );

    /// <summary>UNTDID 5305, those that the standard uses.</summary>
    public static IReadOnlySet<string> Categories { get; } = Of("S Z E AE K G O L M B");

    public static IReadOnlySet<string> Exemptions { get; } =
        Of(
            "VATEX-EU-79-C VATEX-EU-132 VATEX-EU-135-1 VATEX-EU-143 VATEX-EU-144 VATEX-EU-146-1E VATEX-EU-148 "
                + "VATEX-EU-151 VATEX-EU-153 VATEX-EU-159 VATEX-EU-309 VATEX-EU-AE VATEX-EU-D VATEX-EU-F VATEX-EU-G "
                + "VATEX-EU-I VATEX-EU-IC VATEX-EU-J VATEX-EU-O VATEX-EU-132-1A VATEX-EU-132-1B VATEX-EU-132-1C "
                + "VATEX-EU-132-1D VATEX-EU-132-1E VATEX-EU-132-1F VATEX-EU-132-1G VATEX-EU-132-1H VATEX-EU-132-1I "
                + "VATEX-EU-132-1J VATEX-EU-132-1K VATEX-EU-132-1L VATEX-EU-132-1M VATEX-EU-132-1N VATEX-EU-132-1O "
                + "VATEX-EU-132-1P VATEX-EU-132-1Q VATEX-EU-143-1A VATEX-EU-143-1B VATEX-EU-143-1C VATEX-EU-143-1D "
                + "VATEX-EU-143-1E VATEX-EU-143-1F VATEX-EU-143-1FA VATEX-EU-143-1G VATEX-EU-143-1H VATEX-EU-143-1I "
                + "VATEX-EU-143-1J VATEX-EU-143-1K VATEX-EU-143-1L VATEX-EU-148-A VATEX-EU-148-B VATEX-EU-148-C "
                + "VATEX-EU-148-D VATEX-EU-148-E VATEX-EU-148-F VATEX-EU-148-G VATEX-EU-151-1A VATEX-EU-151-1AA "
                + "VATEX-EU-151-1B VATEX-EU-151-1C VATEX-EU-151-1D VATEX-EU-151-1E VATEX-FR-FRANCHISE VATEX-FR-CNWVAT "
        );

    public static IReadOnlySet<string> ElectronicSchemes { get; } =
        Of(
            "0002 0007 0009 0037 0060 0088 0096 0097 0106 0130 0135 0142 0147 0151 0154 0158 0170 0177 0183 0184 "
                + "0188 0190 0191 0192 0193 0194 0195 0196 0198 0199 0200 0201 0202 0203 0204 0205 0208 0209 0210 0211 "
                + "0212 0213 0215 0216 0217 0218 0221 0225 0230 0235 0240 0244 9901 9910 9913 9914 9915 9918 9919 9920 "
                + "9922 9923 9924 9925 9926 9927 9928 9929 9930 9931 9932 9933 9934 9935 9936 9937 9938 9939 9940 9941 "
                + "9942 9943 9944 9945 9946 9947 9948 9949 9950 9951 9952 9953 9957 9959 AN AQ AS AU EM "
        );

    /// <summary>Kinds of files that may be embedded.</summary>
    public static IReadOnlySet<string> Kinds { get; } =
        Of(
            "application/pdf image/png image/jpeg text/csv application/vnd.openxmlformats-"
                + "officedocument.spreadsheetml.sheet application/vnd.oasis.opendocument.spreadsheet "
        );

    /// <summary>The kind of a file by the end of its name; null where it may not be embedded.</summary>
    public static string? KindOf(string fileName) =>
        Path.GetExtension(fileName).ToLowerInvariant() switch
        {
            ".pdf" => "application/pdf",
            ".png" => "image/png",
            ".jpg" or ".jpeg" => "image/jpeg",
            ".csv" => "text/csv",
            ".xlsx" => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            ".ods" => "application/vnd.oasis.opendocument.spreadsheet",
            _ => null,
        };

    /// <summary>UNTDID 7143: the lists of classifications that are met most, with what each is.</summary>
    public static IReadOnlyList<(string Code, string Name)> Classifications { get; } =
    [
        ("STI", "CPV, common procurement vocabulary"),
        ("TST", "UNSPSC"),
        ("HS", "harmonised system, customs"),
        ("TSP", "combined nomenclature, TARIC"),
        ("CG", "commodity grouping"),
        ("SRV", "GS1 product category"),
        ("ZZZ", "our own list"),
    ];

    /// <summary>
    /// Whether it has the form of a code of Recommendation 20, or of 21 with its X; the lists themselves do not ship.
    /// </summary>
    public static bool IsUnit(string code) => UnitForm().IsMatch(code);

    /// <summary>Whether it has the form of a code of UNTDID 7143.</summary>
    public static bool IsClassificationList(string code) => ListForm().IsMatch(code);

    /// <summary>Whether it has the form of a code of ISO 6523; the list itself does not ship.</summary>
    public static bool IsIdentifierScheme(string code) => SchemeForm().IsMatch(code);

    [GeneratedRegex("^0[0-9]{3}$")]
    private static partial Regex SchemeForm();

    [GeneratedRegex("^[A-Z0-9]{2,3}$")]
    private static partial Regex ListForm();

    [GeneratedRegex("^([A-Z0-9]{1,3}|X[A-Z0-9]{2})$")]
    private static partial Regex UnitForm();

    private static FrozenSet<string> Of(string codes) =>
        codes.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToFrozenSet(StringComparer.Ordinal);
}
