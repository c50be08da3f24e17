using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Banking;
using Jugaad.Core.Matching;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>The matching bench: bank lines with what each is for, and the statements that they came with.</summary>
[Needs(Right.See)]
[LargeUpload(MostOfAnUpload)]
[Posts(Right.Money)]
public sealed class IndexModel(
    BankScreens screens,
    ReceiveScreens money,
    MatchingBench bench,
    Statements statements,
    IStatementReader reader,
    AccountScreens accounts
) : DeskPage
{
    /// <summary>The largest statement, and what stands around it in the form.</summary>
    private const int MostOfAnUpload = 51 * 1024 * 1024;

    public IReadOnlyList<BenchLine> Lines { get; private set; } = [];

    public IReadOnlyList<BankLine> Lately { get; private set; } = [];

    public IReadOnlyList<StatementRow> Statements { get; private set; } = [];

    public IEnumerable<(string, string)> AccountChoices { get; private set; } = [];

    public IReadOnlyDictionary<int, string> LedgerNames { get; private set; } = new Dictionary<int, string>();

    private IReadOnlyDictionary<int, string> _customers = new Dictionary<int, string>();

    /// <summary>The heads of a CSV whose columns are not known yet.</summary>
    public IReadOnlyList<string> Heads { get; private set; } = [];

    public bool Refused => Request.Method == "POST" && Request.Query["handler"] == "ReadIn";

    /// <summary>What was remarkable about a statement just taken in.</summary>
    public IReadOnlyList<string> Remarks =>
        (TempData["remarks"] as string)?.Split('\n', StringSplitOptions.RemoveEmptyEntries) ?? [];

    public IReadOnlyList<(string Name, string Label)> ColumnFields { get; } =
    [
        ("col-date", "Day"),
        ("col-amount", "Amount, or money in"),
        ("col-out", "Money out, if apart"),
        ("col-name", "Name"),
        ("col-account", "Their account"),
        ("col-text", "What they wrote"),
        ("col-reference", "Reference"),
        ("col-bank", "The bank's own reference"),
        ("col-side", "In or out, if a column says"),
    ];

    public IEnumerable<(string, string)> OrderChoices { get; } =
    [("", "found out from the file"), ("day", "day before month"), ("month", "month before day")];

    public IEnumerable<(string, string)> MarkChoices { get; } =
    [("", "found out from the file"), (",", "a comma: 1.000,00"), (".", "a point: 1,000.00")];

    /// <summary>Whether the file could not be read without being told how.</summary>
    public bool AsksHow { get; private set; }

    /// <summary>Accounts whose CSV columns are remembered.</summary>
    public IReadOnlyList<(int Id, string Name)> Remembered { get; private set; } = [];

    public IEnumerable<(string, string)> HeadChoices => [("", "none"), .. Heads.Select(h => (h, h))];

    /// <summary>Tells a proposal from the others of its line, also when it is reckoned anew.</summary>
    public static string KeyOf(Proposal p) =>
        string.Join(
            '|',
            p.CustomerId,
            p.JoinsReceiptId,
            p.JoinsBookingId,
            p.PayoutId,
            p.PaysReturnId,
            p.Fee,
            p.Credit,
            string.Join(
                ',',
                p.Parts.Select(x => string.Create(CultureInfo.InvariantCulture, $"{x.ItemId}:{x.Amount}:{x.Early}"))
            )
        );

    public string CertaintyWord(Proposal p) =>
        p.JoinsReceiptId is not null || p.JoinsBookingId is not null
            ? "the same money"
            : p.Certainty switch
            {
                Certainty.Sure => "sure",
                Certainty.Likely => "likely",
                _ => "possible",
            };

    /// <summary>What a proposal would do, in a few words.</summary>
    public string What(Proposal p)
    {
        var who = _customers.GetValueOrDefault(p.CustomerId, "");
        if (p.JoinsReceiptId is not null)
            return $"{who}: join it with the receipt that is there";
        if (p.PayoutId is not null)
            return "the card service's payout, less its fees";
        if (p.PaysReturnId is not null)
            return "a tax return is paid with it";
        if (p.PairsLineId is not null)
            return "one currency into another, between our own accounts: book both lines as one";
        if (p.JoinsBookingId is not null && p.IsTransfer)
            return "between our own accounts: join it with what was entered";
        if (p.JoinsBookingId is not null && p.CustomerId == 0)
            return "to a tax authority: join it with what was entered";
        if (p.JoinsBookingId is not null)
            return $"{who}: join it with what was entered";
        var parts = p.Parts.Count switch
        {
            0 => "",
            <= 3 => string.Join(", ", p.Parts.Select(x => x.Number)),
            _ => $"{p.Parts[0].Number} and {p.Parts.Count - 1} more",
        };
        if (p is { TheirAmount: { } theirs, TheirCurrency: { } currency })
            return $"{who}: {parts}, {Format.WithCode(theirs, currency)} with this money";
        return $"{who}{(parts.Length > 0 ? ": " + parts : "")}{(p.Credit > 0 ? (parts.Length > 0 ? ", rest as credit" : ": as credit") : "")}{(p.Fee > 0 ? ", and the fee" : "")}";
    }

    protected override async Task<bool> ShowAsync()
    {
        Lines = await bench.ToPlaceAsync();
        Lately = await screens.LatelyPlacedAsync();
        Statements = await screens.StatementsAsync();
        AccountChoices =
        [
            ("", "as the file says"),
            .. (await screens.AccountsAsync()).Select(a => (a.Id.ToString(CultureInfo.InvariantCulture), a.Name)),
        ];
        Remembered = await screens.RememberedAsync();
        LedgerNames = (await money.OtherAccountsAsync()).ToDictionary(a => a.Id, a => a.Name);
        _customers = await accounts.NamesAsync([.. Lines.SelectMany(l => l.Proposals).Select(p => p.CustomerId)]);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAcceptAsync()
    {
        var line = Form.Whole("line");
        var key = Form.Text("proposal");
        var chosen =
            (await bench.ProposeAsync(line)).FirstOrDefault(p => KeyOf(p) == key)
            ?? throw new RefusalException(
                "",
                "What is open has changed since this page was shown. Look at the line once more."
            );
        await bench.AcceptAsync(line, chosen, Form.Key);
        return Done("Placed.");
    }

    public async Task<IActionResult> OnPostLedgerAsync()
    {
        if (await screens.LineAsync(Form.Whole("line")) is not { } line)
            return NotFound();
        await bench.PlaceAsync(line.Id, [new LinePart(line.Left, null, [], [], Form.Whole("ledger"))], true, Form.Key);
        return Done("Placed.");
    }

    public async Task<IActionResult> OnPostSureAsync()
    {
        var (done, refused) = await bench.AcceptAllSureAsync(null, Form.Key);
        if (refused.Count > 0)
            TempData["remarks"] = string.Join('\n', refused.Select(r => $"Not placed: {r}"));
        return Done(done == 1 ? "One line was sure and is placed." : $"{done} lines were sure and are placed.");
    }

    public async Task<IActionResult> OnPostPutBackAsync()
    {
        await bench.PutBackAsync(Form.Whole("line"), Form.Key);
        return Done("Put back. What was booked for it is undone.");
    }

    public async Task<IActionResult> OnPostReadInAsync()
    {
        var form = Form;
        if (Request.Form.Files["file"] is not { Length: > 0 } upload)
            throw new RefusalException("file", "Choose the statement's file first.");
        using var content = upload.OpenReadStream();
        var told = form.Text("col-date").Length + form.Text("dateOrder").Length + form.Text("decimalMark").Length > 0;
        CsvColumns? columns = !told
            ? null
            : new CsvColumns
            {
                Date = form.Text("col-date"),
                Amount = form.Text("col-amount"),
                Out = form.Text("col-out"),
                Name = form.Text("col-name"),
                Account = form.Text("col-account"),
                Text = form.Text("col-text"),
                Reference = form.Text("col-reference"),
                BankReference = form.Text("col-bank"),
                Side = form.Text("col-side"),
                DateOrder = form.Text("dateOrder"),
                DecimalMark = form.Text("decimalMark"),
            };
        try
        {
            var taken = await statements.ReadInAsync(content, upload.FileName, form.Id("accountId"), columns, form.Key);
            TempData["remarks"] = string.Join('\n', taken.Remarks);
            Say(
                taken.Taken == 0
                    ? "Nothing new was in it."
                    : $"{taken.Taken} {(taken.Taken == 1 ? "line" : "lines")} taken in{(taken.Known > 0 ? $"; {taken.Known} were there already" : "")}."
            );
            return Redirect("/bank");
        }
        catch (RefusalException refused) when (refused.Refusals[0].Field == "columns")
        {
            (Heads, AsksHow) = (reader.HeadsOf(content), true);
            throw;
        }
    }

    public async Task<IActionResult> OnPostForgetColumnsAsync()
    {
        await statements.ForgetColumnsAsync(Form.Whole("account"), Form.Key);
        return Done("Forgotten. The next CSV of this account is asked about anew.");
    }
}
