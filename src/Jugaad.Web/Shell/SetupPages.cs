using Jugaad.Desk.Books;

namespace Jugaad.Web.Shell;

/// <summary>A page of Setup: what it answers, and the words by which it is looked for.</summary>
/// <param name="Key">By which a page says that it is this one.</param>
/// <param name="Word">As its tab says it.</param>
/// <param name="Title">As the jump box says it.</param>
/// <param name="Words">What else one may look for.</param>
/// <param name="Right">Who sees it.</param>
public sealed record SetupPage(string Key, string Address, string Word, string Title, string Words, Right Right);

/// <summary>Setup by the questions that one comes with.</summary>
public static class SetupPages
{
    public static IReadOnlyList<(string Question, IReadOnlyList<SetupPage> Pages)> Groups { get; } =
    [
        (
            "Us",
            [
                new(
                    "business",
                    "/setup",
                    "the business",
                    "The business",
                    "logo signature address name registration",
                    Right.See
                ),
            ]
        ),
        (
            "Money",
            [
                new(
                    "accounts",
                    "/setup/accounts",
                    "accounts and terms",
                    "Accounts and terms",
                    "chart ledger bank cash payment terms",
                    Right.See
                ),
                new(
                    "money",
                    "/setup/money",
                    "ways of payment and closing",
                    "Ways of payment and closing",
                    "money reasons closed period cash rounding",
                    Right.See
                ),
                new(
                    "paying",
                    "/setup/paying",
                    "paying online",
                    "Paying online",
                    "card link surcharge payment address",
                    Right.See
                ),
                new("rates", "/setup/rates", "exchange rates", "Exchange rates", "currency", Right.See),
            ]
        ),
        (
            "Taxes",
            [
                new("taxes", "/setup/taxes", "codes and rates", "Taxes", "vat rate codes authorities", Right.See),
                new("rules", "/setup/rules", "which tax applies", "Which tax applies", "rules table", Right.See),
                new("kits", "/setup/kits", "tax kits", "Tax kits", "ready sets country", Right.See),
            ]
        ),
        (
            "Papers and post",
            [
                new(
                    "numbers",
                    "/setup/numbers",
                    "numbers and texts",
                    "Numbers and texts",
                    "series notes footer",
                    Right.See
                ),
                new(
                    "layouts",
                    "/setup/layouts",
                    "layouts",
                    "Layouts of papers",
                    "design studio letterhead logo typeface template",
                    Right.See
                ),
                new(
                    "languages",
                    "/setup/languages",
                    "languages",
                    "Words by language",
                    "translation foreign wording terms footer note",
                    Right.See
                ),
                new(
                    "ready",
                    "/setup/ready",
                    "e-invoices",
                    "Ready for e-invoices?",
                    "missing complete electronic address classification exemption",
                    Right.See
                ),
                new("mail", "/setup/mail", "mail", "Mail settings", "server smtp", Right.See),
                new("texts", "/setup/texts", "mail texts", "Mail texts", "words templates", Right.See),
            ]
        ),
        (
            "Collecting",
            [
                new(
                    "ladders",
                    "/setup/ladders",
                    "collecting",
                    "Collecting: steps and days",
                    "ladder reminders letters holidays promises grace",
                    Right.See
                ),
            ]
        ),
        ("People", [new("people", "/setup/people", "people", "People", "roles invite", Right.People)]),
        (
            "Books",
            [
                new("moving", "/moving", "moving in and out", "Moving in and out", "import export csv xlsx", Right.See),
                new("backups", "/setup/backups", "backups", "Backups", "restore copy safe", Right.Keep),
                new(
                    "machine",
                    "/setup/machine",
                    "this machine",
                    "This machine",
                    "address https log certificate",
                    Right.Keep
                ),
                new("trail", "/setup/trail", "trail", "Trail", "who did what", Right.See),
            ]
        ),
    ];

    public static IEnumerable<SetupPage> All => Groups.SelectMany(g => g.Pages);
}
