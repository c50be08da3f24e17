using System.CommandLine;
using Jugaad.Core;
using Jugaad.Core.Collecting;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Reports;
using Jugaad.Formats.Reports;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary>
/// <c>report aged|statement|journal|open-items|expected|tax-return|… --data DIR</c>: what the books say, as CSV or JSON.
/// </summary>
internal static class ReportVerb
{
    private static readonly Option<string> Data = BooksVerbs.Data();
    private static readonly Option<string> Format = new("--format")
    {
        Description = "csv or json.",
        DefaultValueFactory = _ => "csv",
        HelpName = "csv|json",
    };
    private static readonly Option<DateOnly?> AsOf = Day(
        "--as-of",
        "What was open at the end of this day (the business day where it is left out)."
    );
    private static readonly Option<int> Weeks = new("--weeks")
    {
        Description = "How many weeks from that day on.",
        DefaultValueFactory = _ => ExpectedMoney.UsualWeeks,
        HelpName = "N",
    };
    private static readonly Option<DateOnly?> From = Day(
        "--from",
        "The first day (that of the financial year where it is left out)."
    );
    private static readonly Option<DateOnly?> To = Day("--to", "The last day (the business day where it is left out).");
    private static readonly Option<string> Customer = new("--customer")
    {
        Description = "The customer's code.",
        Required = true,
        HelpName = "CODE",
    };

    private static readonly Option<string> Account = new("--account")
    {
        Description = "The ledger account's number.",
        Required = true,
        HelpName = "CODE",
    };
    private static readonly Option<string> By = new("--by")
    {
        Description = "By what: customer, item, kind, seller, project, account, country or month.",
        HelpName = "WHAT",
    };
    private static readonly Option<string> Key = new("--key")
    {
        Description = "Which of them; all where it is left out.",
        HelpName = "KEY",
    };
    private static readonly Option<string> Against = new("--against")
    {
        Description = "Beside the period before, or the same days a year before.",
        HelpName = "before|year-before",
    };

    private static readonly Option<string> Authority = new("--authority")
    {
        Description = "The tax authority's name.",
        Required = true,
        HelpName = "NAME",
    };
    private static readonly Option<DateOnly?> First = Required(Day("--from", "The first day."));
    private static readonly Option<DateOnly?> Last = Required(Day("--to", "The last day."));
    private static readonly Option<bool> Filed = new("--filed")
    {
        Description = "As it was filed; fails where no return was filed for exactly these days.",
    };

    internal static Command Make()
    {
        Format.Validators.Add(given =>
        {
            if (given.GetValueOrDefault<string>() is not ("csv" or "json"))
                given.AddError("--format is csv or json.");
        });
        var verb = new Command("report", "Write a report of the books to standard output.");
        verb.Add(
            One(
                "aged",
                "Aged balances by customer on a day.",
                [AsOf],
                (parsed, services, today, stop) =>
                    services.GetRequiredService<AgedReports>().AgedReportAsync(parsed.GetValue(AsOf) ?? today, stop)
            )
        );
        verb.Add(
            One(
                "open-items",
                "Every open item on a day.",
                [AsOf],
                (parsed, services, today, stop) =>
                    services.GetRequiredService<AgedReports>().OpenItemsAsync(parsed.GetValue(AsOf) ?? today, stop)
            )
        );
        verb.Add(
            One(
                "statement",
                "What one customer owes on a day.",
                [Customer, AsOf],
                (parsed, services, today, stop) =>
                    services
                        .GetRequiredService<AgedReports>()
                        .StatementAsync(parsed.GetRequiredValue(Customer), parsed.GetValue(AsOf) ?? today, stop)
            )
        );
        verb.Add(
            One(
                "journal",
                "The journal of a range of days.",
                [From, To],
                async (parsed, services, today, stop) =>
                {
                    var (first, last) = await DaysAsync(parsed, services, today, stop);
                    return await services.GetRequiredService<JournalReports>().JournalAsync(first, last, stop);
                }
            )
        );
        verb.Add(
            Make(
                "expected",
                "What should come in, by week, as it was known on a day.",
                [AsOf, Weeks],
                async (parsed, services, today, stop) =>
                {
                    var then = await services
                        .GetRequiredService<ExpectedReports>()
                        .ExpectedAsync(parsed.GetValue(AsOf) ?? today, parsed.GetValue(Weeks), stop);
                    return IsJson(parsed) ? ExpectedJson.Write(then) : Csv(services, ExpectedReports.Weeks(then));
                }
            )
        );
        verb.Add(
            Make(
                "tax-return",
                "What is told, or would be told, to a tax authority for a period.",
                [Authority, First, Last, Filed],
                async (parsed, services, today, stop) =>
                {
                    var returns = services.GetRequiredService<TaxReturns>();
                    var authority = await returns.AuthorityAsync(parsed.GetRequiredValue(Authority), stop);
                    var (first, last) = (parsed.GetRequiredValue(First)!.Value, parsed.GetRequiredValue(Last)!.Value);
                    var then = parsed.GetValue(Filed)
                        ? await returns.FiledAsync(authority, first, last, 0, stop)
                        : await returns.ComputeAsync(authority, first, last, stop);
                    return IsJson(parsed) ? TaxReturnJson.Write(then) : Csv(services, TaxReports.Rows(then));
                }
            )
        );
        foreach (var kind in ReportCatalog.All.Where(k => verb.Subcommands.All(c => c.Name != k.Name)))
            verb.Add(Of(kind));
        return verb;
    }

    /// <summary>A report as the books describe it.</summary>
    private static Command Of(ReportKind kind)
    {
        List<Option> options = kind.Days switch
        {
            ReportDays.Range => [From, To],
            ReportDays.Day => [AsOf],
            _ => [],
        };
        if (kind.Needs == "account")
            options.Add(Account);
        if (kind.IsBehind)
            options.AddRange([By, Key]);
        if (kind.Compares is not null)
            options.Add(Against);
        return One(
            kind.Name,
            kind.About,
            options,
            async (parsed, services, today, stop) =>
            {
                var (first, last) =
                    kind.Days == ReportDays.Range
                        ? await DaysAsync(parsed, services, today, stop)
                        : (today, parsed.GetValue(AsOf) ?? today);
                var more = new Dictionary<string, string>();
                if (kind.Needs == "account")
                    more["account"] = await AccountAsync(services, parsed.GetRequiredValue(Account), stop);
                if (kind.IsBehind)
                    (more["by"], more["key"]) = (parsed.GetValue(By) ?? "", parsed.GetValue(Key) ?? "");
                var against = kind.Compares is null ? null : parsed.GetValue(Against);
                return await services
                    .GetRequiredService<ReportCatalog>()
                    .MakeAsync(
                        kind,
                        new ReportAsk(first, last, more),
                        against switch
                        {
                            "before" => ReportAgainst.Before,
                            "year-before" => ReportAgainst.YearBefore,
                            _ => ReportAgainst.Nothing,
                        },
                        stop
                    );
            }
        );
    }

    private static async Task<string> AccountAsync(IServiceProvider services, string code, CancellationToken stop)
    {
        var id = await services
            .GetRequiredService<BooksContext>()
            .LedgerAccounts.Where(a => a.Code == code)
            .Select(a => (int?)a.Id)
            .FirstOrDefaultAsync(stop);
        return id is { } found
            ? $"{found}"
            : throw new RefusalException("account", $"There is no account {code}. Give the number of one.");
    }

    /// <summary>The days that are asked for; from the begin of the financial year up to today where they are not.</summary>
    private static async Task<(DateOnly First, DateOnly Last)> DaysAsync(
        ParseResult parsed,
        IServiceProvider services,
        DateOnly today,
        CancellationToken stop
    )
    {
        var last = parsed.GetValue(To) ?? today;
        var first =
            parsed.GetValue(From) ?? (await services.GetRequiredService<BooksHead>().BusinessAsync(stop)).YearOf(last);
        return (first, last);
    }

    private static Option<DateOnly?> Required(Option<DateOnly?> day)
    {
        day.Required = true;
        return day;
    }

    private static bool IsJson(ParseResult parsed) => parsed.GetValue(Format) == "json";

    private static byte[] Csv(IServiceProvider services, Report report) =>
        services.GetRequiredService<ITableFiles>().Write(report.ToTable(), TableForm.Csv);

    private static Option<DateOnly?> Day(string name, string description) =>
        new(name)
        {
            Description = description,
            HelpName = "DATE",
            CustomParser = given =>
            {
                if (DateOnly.TryParseExact(given.Tokens[0].Value, "yyyy-MM-dd", out var day))
                    return day;
                given.AddError($"“{given.Tokens[0].Value}” is not a date. Give {name} like 2025-09-17.");
                return null;
            },
        };

    private static Command One(
        string name,
        string description,
        IEnumerable<Option> options,
        Func<ParseResult, IServiceProvider, DateOnly, CancellationToken, Task<Report>> make
    ) =>
        Make(
            name,
            description,
            options,
            async (parsed, services, today, stop) =>
            {
                var report = await make(parsed, services, today, stop);
                return IsJson(parsed) ? ReportJson.Write(report) : Csv(services, report);
            }
        );

    private static Command Make(
        string name,
        string description,
        IEnumerable<Option> options,
        Func<ParseResult, IServiceProvider, DateOnly, CancellationToken, Task<byte[]>> write
    )
    {
        var command = new Command(name, description);
        foreach (var option in options.Append(Format).Append(Data))
            command.Add(option);
        command.SetAction(
            (parsed, stop) =>
                BooksVerbs.WithAsync(
                    parsed.GetRequiredValue(Data),
                    async services =>
                    {
                        var today = await services.GetRequiredService<BooksHead>().TodayAsync(stop);
                        var written = await write(parsed, services, today, stop);
                        await using var output = Console.OpenStandardOutput();
                        await output.WriteAsync(written, stop);
                        if (IsJson(parsed))
                            await output.WriteAsync("\n"u8.ToArray(), stop);
                        return 0;
                    }
                )
        );
        return command;
    }
}
