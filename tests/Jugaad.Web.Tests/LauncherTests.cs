using System.Diagnostics;
using System.Text.Json;
using Jugaad.Core.Layouts;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>The launcher, as it is typed.</summary>
public sealed class LauncherTests
{
    internal static async Task<(int Code, string Out, string Error)> RunAsync(string input, params string[] words)
    {
        using var process = Process.Start(
            new ProcessStartInfo(Path.Combine(SourceTree.Root, "jugaad"), words)
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        await process.StandardInput.WriteAsync(input);
        process.StandardInput.Close();
        var error = process.StandardError.ReadToEndAsync();
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, output, await error);
    }

    [Theory]
    [InlineData("demo", "--fresh")]
    [InlineData("serve", "--data DIR")]
    [InlineData("test", "N passed, N failed")]
    [InlineData("calculate", "FILE")]
    [InlineData("check", "--data")]
    [InlineData("backup", "--seal-for")]
    [InlineData("restore", "--key")]
    [InlineData("person reset", "ADDRESS")]
    [InlineData("machine", "--https-only")]
    [InlineData("import", "--all-or-none")]
    [InlineData("export", "--to")]
    [InlineData("report", "open-items")]
    [InlineData("paper", "--number")]
    [InlineData("layout", "check")]
    [InlineData("report aged", "--as-of")]
    [InlineData("report expected", "--weeks")]
    [InlineData("report tax-return", "--filed")]
    [InlineData("report union-sales", "--from")]
    [InlineData("report tax-by-document", "--to")]
    [InlineData("bench", "--sizes")]
    [InlineData("shots", "docs/screenshots")]
    public async Task Each_verb_tells_more(string verb, string says)
    {
        var (code, output, _) = await RunAsync("", [.. verb.Split(' '), "--help"]);
        (code, output.Contains(says, StringComparison.Ordinal)).ShouldBe((0, true));
    }

    [Theory]
    [InlineData(
        "sell",
        "Use one of: demo, serve, test, calculate, check, backup, restore, person, machine, import, export, report, paper, einvoice, layout, bench, shots"
    )]
    [InlineData("report", "report --help")]
    [InlineData("report aged --data /no/such/folder", "There are no books")]
    [InlineData("report aged --as-of yesterday --data x", "is not a date")]
    [InlineData("report statement --data x", "--customer")]
    [InlineData("report tax-return --data x --from 2025-08-01 --to 2025-08-31", "--authority")]
    [InlineData("report tax-return --data x --authority A --from 2025-08-01", "--to")]
    [InlineData("report journal --format pdf --data x", "csv or json")]
    [InlineData("demo --prot 1", "--prot")]
    [InlineData("demo --port x", "--port")]
    [InlineData("serve", "--data DIR")]
    [InlineData("check", "--data")]
    [InlineData("check --data /no/such/folder", "There are no books")]
    [InlineData("import customers /no/such/file --data /no/such/folder", "There are no books")]
    [InlineData("export --data /no/such/folder", "--to")]
    [InlineData("backup --data /no/such/folder --to x", "There are no books")]
    [InlineData("machine --data /no/such/folder", "There are no books")]
    [InlineData("machine --data x --https-only perhaps", "perhaps")]
    [InlineData("serve --data x --listen everywhere", "--listen")]
    [InlineData("restore /no/such/file --data x", "There is no file")]
    [InlineData("calculate", "calculate --help")]
    [InlineData("calculate /no/such/file", "cannot be read")]
    public async Task A_wrong_word_says_what_is_right_and_ends_with_2(string words, string says)
    {
        var (code, _, error) = await RunAsync("", words.Split(' '));
        code.ShouldBe(2);
        error.ShouldContain(says);
    }

    [Fact]
    public async Task Calculate_reads_standard_input_and_refuses_with_2()
    {
        const string document =
            """{"currency":"JPY","date":"2025-09-17","taxCodes":[{"code":"A","category":"E"}],"lines":[{"quantity":"3","unitPrice":"1234.5","taxCode":"A"}]}""";
        var (code, output, _) = await RunAsync(document, "calculate", "-");
        (code, output.Contains("\"payable\": \"3704\"", StringComparison.Ordinal)).ShouldBe((0, true));
        (await RunAsync(document.Replace("JPY", "XXX", StringComparison.Ordinal), "calculate", "-")).Code.ShouldBe(2);
        (await RunAsync("{", "calculate", "-")).Code.ShouldBe(2);
    }

    [Fact]
    public async Task A_port_that_is_taken_is_said_so()
    {
        var site = new Site();
        await site.InitializeAsync();
        var folder = Directory.CreateTempSubdirectory("jugaad-port-").FullName;
        var (code, _, error) = await RunAsync(
            "",
            "serve",
            "--data",
            folder,
            "--port",
            new Uri(site.Address).Port.ToString()
        );
        (code, error.Contains("give another port with --port", StringComparison.Ordinal)).ShouldBe((1, true));
        error.ShouldNotContain("   at ");
        await site.DisposeAsync();
        site.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_second_server_is_told_who_has_the_folder_and_what_only_reads_goes_on_beside_it()
    {
        var site = new Site();
        await site.InitializeAsync();
        await site.SetUpAsync();
        await site.InvoiceAsync(await site.CustomerAsync());
        var (folder, work) = (site.File.Folder, Directory.CreateTempSubdirectory("jugaad-keeping-").FullName);
        var (code, _, error) = await RunAsync("", "serve", "--data", folder, "--port", "0");
        (code, error.Contains("are in use by ./jugaad serve", StringComparison.Ordinal)).ShouldBe((1, true), error);
        var backup = Path.Combine(work, "backup.tar.gz");
        (code, var output, error) = await VerbsHere.RunAsync("backup", "--data", folder, "--to", backup);
        (code, output.Contains("files of Little Loft", StringComparison.Ordinal)).ShouldBe((0, true), error);
        (code, _, error) = await VerbsHere.RunAsync("restore", backup, "--data", folder);
        (code, error.Contains("are in use", StringComparison.Ordinal)).ShouldBe((2, true), error);

        var elsewhere = Path.Combine(work, "elsewhere");
        (code, output, error) = await VerbsHere.RunAsync("restore", backup, "--data", elsewhere);
        code.ShouldBe(0, error);
        output.ShouldContain("The books rest");
        output.ShouldContain("Everything agrees.");
        (code, _, error) = await VerbsHere.RunAsync("import", "customers", backup, "--data", elsewhere);
        code.ShouldBe(2);

        (code, output, _) = await VerbsHere.RunAsync("person", "reset", "owner@little.example", "--data", folder);
        code.ShouldBe(0);
        var path = new Uri(output.Trim()).AbsolutePath;
        site.As("whoever forgot");
        (await site.GetAsync(path)).Page.QuerySelector("h1")!.TextContent.ShouldContain("owner@little.example");
        (code, output, error) = await VerbsHere.RunAsync(
            "machine",
            "--data",
            folder,
            "--address",
            "https://books.example",
            "--proxies",
            "127.0.0.1",
            "--https-only",
            "yes"
        );
        (code, output).ShouldBe(
            (0, "address     https://books.example\nproxies     127.0.0.1\nhttps-only  yes\n"),
            error
        );
        (await VerbsHere.RunAsync("person", "reset", "owner@little.example", "--data", folder)).Out.ShouldStartWith(
            "https://books.example/new-password/"
        );
        (code, _, error) = await VerbsHere.RunAsync("machine", "--data", folder, "--proxies", "");
        (code, error.Contains("HTTPS ends at a proxy", StringComparison.Ordinal)).ShouldBe((2, true), error);
        (await VerbsHere.RunAsync("machine", "--data", folder)).Out.ShouldContain("proxies     127.0.0.1");
        (code, _, error) = await VerbsHere.RunAsync("person", "reset", "nobody@little.example", "--data", folder);
        (code, error.Contains("The people are: owner@little.example", StringComparison.Ordinal)).ShouldBe(
            (2, true),
            error
        );

        var (whole, again) = (Path.Combine(work, "whole"), Path.Combine(work, "again"));
        (await VerbsHere.RunAsync("export", "--data", folder, "--to", whole)).Code.ShouldBe(0);
        (code, output, error) = await VerbsHere.RunAsync(
            "import",
            "--books",
            whole,
            "--data",
            Path.Combine(work, "taken")
        );
        code.ShouldBe(0, error);
        output.ShouldContain("owner@little.example signs in anew at /new-password/");
        output.ShouldContain("Everything agrees.");
        (await VerbsHere.RunAsync("export", "--data", Path.Combine(work, "taken"), "--to", again)).Code.ShouldBe(0);
        foreach (var file in Directory.GetFiles(whole, "*", SearchOption.AllDirectories))
            (await File.ReadAllBytesAsync(Path.Combine(again, Path.GetRelativePath(whole, file)))).ShouldBe(
                await File.ReadAllBytesAsync(file),
                file
            );
        (code, _, error) = await VerbsHere.RunAsync("import", "--books", whole, "--data", folder);
        code.ShouldBe(2);
        error.ShouldContain("are in use");
        (await VerbsHere.RunAsync("import", "customers", "--data", folder)).Error.ShouldContain(
            "--books FOLDER for whole books"
        );
        await site.DisposeAsync();
        site.Dispose();
        Directory.Delete(work, recursive: true);
    }

    [Fact]
    public async Task Import_tries_takes_and_says_what_it_refused_and_export_writes_it_out()
    {
        var site = new Site();
        await site.InitializeAsync();
        await site.SetUpAsync();
        var work = Directory.CreateTempSubdirectory("jugaad-moving-").FullName;
        var (file, refused) = (Path.Combine(work, "in.csv"), Path.Combine(work, "refused.csv"));
        await File.WriteAllTextAsync(file, "code;name;mail\nA;First;\nB;;\n");
        var (code, output, _) = await VerbsHere.RunAsync(
            "import",
            "customers",
            file,
            "--data",
            site.File.Folder,
            "--try"
        );
        (
            code,
            output.Contains("1 new, 0 changed, 0 there already, 1 refused; nothing was kept", StringComparison.Ordinal)
        ).ShouldBe((1, true));
        (code, _, var error) = await VerbsHere.RunAsync(
            "import",
            "customers",
            file,
            "--data",
            site.File.Folder,
            "--all-or-none"
        );
        (code, error.Contains("nothing was taken", StringComparison.Ordinal)).ShouldBe((2, true));
        (code, output, _) = await VerbsHere.RunAsync(
            "import",
            "customers",
            file,
            "--data",
            site.File.Folder,
            "--refused",
            refused
        );
        (code, output.Contains("row 2: name: Give the customer a name.", StringComparison.Ordinal)).ShouldBe((1, true));
        (await File.ReadAllTextAsync(refused)).ShouldContain("B,,,name: Give the customer a name.");
        (await VerbsHere.RunAsync("import", "boats", file, "--data", site.File.Folder)).Error.ShouldContain(
            "Use one of customers, items"
        );
        (
            await VerbsHere.RunAsync("import", "items", Path.Combine(work, "none.csv"), "--data", site.File.Folder)
        ).Code.ShouldBe(2);
        // 1.234 alone may be a thousand or not: it is asked, and taken as it is said.
        await File.WriteAllTextAsync(file, "customer;number;date;open\nA;1;2025-08-01;1.234\n");
        (code, _, error) = await VerbsHere.RunAsync("import", "open-items", file, "--data", site.File.Folder);
        (code, error.Contains("Say it: --decimals point, or --decimals comma", StringComparison.Ordinal)).ShouldBe(
            (2, true)
        );
        (code, output, _) = await VerbsHere.RunAsync(
            "import",
            "open-items",
            file,
            "--data",
            site.File.Folder,
            "--decimals",
            "comma"
        );
        (code, output.Contains("1 new, 0 changed", StringComparison.Ordinal)).ShouldBe((0, true));
        await using (var db = site.File.Open())
            (await db.AccountItems.SumAsync(i => i.Amount)).ShouldBe(123_400);
        (await VerbsHere.RunAsync("export", "customers", "--data", site.File.Folder, "--to", work)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(Path.Combine(work, "customers.csv"))).ShouldContain("A,First,");
        (
            await VerbsHere.RunAsync("export", "--data", site.File.Folder, "--to", Path.Combine(work, "all"))
        ).Code.ShouldBe(0);
        File.Exists(Path.Combine(work, "all", "README.md")).ShouldBeTrue();
        await site.DisposeAsync();
        site.Dispose();
        Directory.Delete(work, recursive: true);
    }

    [Fact]
    public async Task Valuation_says_what_is_open_in_other_currencies_at_the_rate_of_a_day()
    {
        var site = new Site();
        await site.InitializeAsync();
        await site.SetUpAsync();
        var yard = await site.CustomerAsync();
        var day = DateOnly.FromDateTime(DateTime.Now);
        await using (var db = site.File.Open())
        {
            await db.Database.ExecuteSqlRawAsync("UPDATE Customers SET Currency = 'SEK'");
            db.ExchangeRates.Add(
                new Core.Exchange.ExchangeRate(Core.Amounts.Currency.Of("SEK"), day.AddDays(-9), 0.0874m)
            );
            await db.SaveChangesAsync();
        }

        await site.InvoiceAsync(yard);
        async Task<(int Code, string Output, string Error)> ValuationAsync(string format, DateOnly on) =>
            await RunAsync(
                "",
                "report",
                "valuation",
                "--data",
                site.File.Folder,
                "--as-of",
                $"{on:yyyy-MM-dd}",
                "--format",
                format
            );
        await using (var db = site.File.Open())
        {
            db.ExchangeRates.Add(new Core.Exchange.ExchangeRate(Core.Amounts.Currency.Of("SEK"), day, 0.0901m));
            await db.SaveChangesAsync();
        }

        var (code, output, error) = await ValuationAsync("json", day);
        code.ShouldBe(0, error);
        var row = JsonDocument.Parse(output).RootElement.GetProperty("rows")[0];
        string Of(string name) => row.GetProperty(name).GetString()!;
        // 100.00 and 24 % are 124.00 SEK: kept at 10.84, worth 11.17.
        new[] { "currency", "amount", "rate", "home", "kept", "difference" }
            .Select(Of)
            .ShouldBe(["SEK", "124.00", "0.0901", "11.17", "10.84", "0.33"]);
        (code, output, _) = await ValuationAsync("csv", day);
        (code, output.Contains("SEK,124.00,0.0901,", StringComparison.Ordinal)).ShouldBe((0, true));
        (code, output, _) = await ValuationAsync("json", day.AddDays(-1));
        (code, JsonDocument.Parse(output).RootElement.GetProperty("rows").GetArrayLength()).ShouldBe((0, 0));
        (await site.GetAsync("/reports/valuation")).Page.Body!.TextContent.ShouldContain("0.33");
        // Without a rate it says which one is missing, and where to enter it.
        await using (var db = site.File.Open())
            await db.Database.ExecuteSqlRawAsync("DELETE FROM ExchangeRates");
        (code, _, error) = await ValuationAsync("csv", day);
        (code, error.Contains("no exchange rate of SEK", StringComparison.Ordinal)).ShouldBe((2, true), error);
        var page = await site.RawAsync("/reports/valuation");
        (await page.Content.ReadAsStringAsync()).ShouldContain("no exchange rate of SEK");
        await site.DisposeAsync();
        site.Dispose();
    }

    [Fact]
    public async Task Paper_writes_a_document_in_the_language_that_is_asked_for()
    {
        var site = new Site();
        await site.InitializeAsync();
        await site.SetUpAsync();
        await site.InvoiceAsync(await site.CustomerAsync());
        var (folder, work) = (site.File.Folder, Directory.CreateTempSubdirectory("jugaad-paper-").FullName);
        string number;
        await using (var db = site.File.Open())
            number = await db.Documents.Select(d => d.Number!).SingleAsync();
        var pdf = Path.Combine(work, "papers", "one.pdf");
        (await VerbsHere.RunAsync("paper", "--data", folder, "--number", number, "--to", pdf)).Code.ShouldBe(0);
        (await File.ReadAllBytesAsync(pdf))[..5].ShouldBe("%PDF-"u8.ToArray());
        var svg = Path.Combine(work, "one.svg");
        string[] asked = ["paper", "--data", folder, "--number", number, "--language", "pl", "--to", svg];
        (await VerbsHere.RunAsync(asked)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(svg)).ShouldContain("Do zapłaty");
        // In another layout: one that ships, and the file of one.
        var own = Path.Combine(work, "own.json");
        await File.WriteAllTextAsync(
            own,
            LayoutFile.WriteIndented(ShippedLayouts.Of("dense") with { Name = "Own", Accent = "#123456" })
        );
        foreach (var (layout, ink) in new[] { ("Broad margin", "#6B3A2E"), (own, "#123456") })
        {
            (await VerbsHere.RunAsync([.. asked, "--layout", layout])).Code.ShouldBe(0);
            (await File.ReadAllTextAsync(svg)).ShouldContain(ink);
        }

        (await VerbsHere.RunAsync([.. asked, "--layout", "nothing"])).Error.ShouldContain(
            "There is no layout and no file"
        );
        var (fits, said, _) = await VerbsHere.RunAsync("layout", "check", own);
        (fits, said.Contains("It can be used.", StringComparison.Ordinal)).ShouldBe((0, true), said);
        // A picture in it is as it would be taken in: cleaned, or refused by its place.
        async Task<string> PicturedAsync(string picture)
        {
            var pictures = new Dictionary<string, LayoutPicture>
            {
                ["sail"] = new(PictureType.Svg, System.Text.Encoding.UTF8.GetBytes(picture)),
            };
            await File.WriteAllTextAsync(
                own,
                LayoutFile.WriteIndented(
                    ShippedLayouts.Of("dense") with
                    {
                        Pictures = pictures,
                        Ground = new Ground { Picture = "sail" },
                    }
                )
            );
            return (await VerbsHere.RunAsync("layout", "check", own)).Out;
        }

        (await PicturedAsync("<svg xmlns='http://www.w3.org/2000/svg'/>")).ShouldContain("pictures.sail.data: ");
        (await VerbsHere.RunAsync([.. asked, "--layout", own])).Code.ShouldNotBe(0);
        (
            await PicturedAsync(
                "<svg viewBox='0 0 9 9' xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script><path d='M0 0h9v9z'/></svg>"
            )
        ).ShouldContain("It can be used.");
        (await VerbsHere.RunAsync([.. asked, "--layout", own])).Code.ShouldBe(0);
        var image = (await File.ReadAllTextAsync(svg)).Split("data:image/svg+xml;base64,")[1].Split('"')[0];
        System.Text.Encoding.UTF8.GetString(Convert.FromBase64String(image)).ShouldNotContain("alert");
        await File.WriteAllTextAsync(
            own,
            "{\"version\":1,\"name\":\"a\",\"bands\":[{\"kind\":\"lines\",\"hight\":3}]}"
        );
        var (not, why, _) = await VerbsHere.RunAsync("layout", "check", own);
        (not, why.Contains("bands[0].hight", StringComparison.Ordinal)).ShouldBe((1, true), why);
        (await VerbsHere.RunAsync("layout", "check", Path.Combine(work, "none.json"))).Code.ShouldBe(2);
        foreach (
            var (wrong, at, says) in new[]
            {
                ("INV-9999", 4, "No document has the number"),
                ("xx", 6, "There are no words"),
                (Path.Combine(work, "one.doc"), 8, ".pdf or .svg"),
            }
        )
        {
            var told = asked.ToArray();
            told[at] = wrong;
            var (code, _, error) = await VerbsHere.RunAsync(told);
            (code != 0, error.Contains(says, StringComparison.Ordinal)).ShouldBe((true, true), $"{says}: {error}");
        }

        await site.DisposeAsync();
        site.Dispose();
        Directory.Delete(work, recursive: true);
    }

    [Fact]
    public async Task Check_is_0_on_healthy_books_and_1_on_others()
    {
        var site = new Site();
        await site.InitializeAsync();
        await site.SetUpAsync();
        await site.InvoiceAsync(await site.CustomerAsync());
        var (code, output, _) = await RunAsync("", "check", "--data", site.File.Folder);
        (code, output.Contains("Everything agrees.", StringComparison.Ordinal)).ShouldBe((0, true));
        await using (var db = site.File.Open())
            await db.Database.ExecuteSqlRawAsync("UPDATE AccountItems SET Open = 1");
        (code, output, _) = await VerbsHere.RunAsync("check", "--data", site.File.Folder);
        code.ShouldBe(1);
        output.ShouldContain("DIFFERS");
        await site.DisposeAsync();
        site.Dispose();
    }
}
