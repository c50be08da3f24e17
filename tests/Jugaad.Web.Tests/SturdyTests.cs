using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>
/// No visitor and no request brings the program to a stop, and what goes wrong is told as what it is.
/// </summary>
public sealed class SturdyTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
    }

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    [Fact]
    public async Task Whatever_a_script_sends_it_gets_its_refusal_and_never_a_500()
    {
        var posts = _site
            .Services.GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(e =>
                e.RoutePattern.RawText!.TrimStart('/').StartsWith("api/", StringComparison.Ordinal)
                && e.Metadata.GetMetadata<IHttpMethodMetadata>()!.HttpMethods.Contains("POST")
            )
            .Select(e =>
                "/" + e.RoutePattern.RawText!.TrimStart('/').Replace("{id:int}", "1", StringComparison.Ordinal)
            )
            .Distinct()
            .ToList();
        posts.Count.ShouldBeGreaterThan(12);
        string[] bodies =
        [
            "{}",
            "null",
            "[]",
            "7",
            "\"x\"",
            "{",
            "",
            "{\"form\":null}",
            "{\"form\":{}}",
            "{\"form\":{\"lines\":[null],\"kind\":\"invoice\"}}",
            "{\"kind\":\"invoice\",\"lines\":null}",
            "{\"kind\":null,\"lines\":[]}",
            "{\"kind\":\"invoice\",\"lines\":[null],\"charges\":[null]}",
            "{\"kind\":\"invoice\",\"customerId\":99999999999999}",
            "{\"kind\":\"invoice\",\"customerId\":-1,\"date\":\"2025-02-31\",\"lines\":[{}],\"charges\":[{}]}",
            "{\"form\":{\"kind\":\"invoice\"},\"parts\":[{}],\"back\":null}",
            "{\"invoiceId\":-5,\"back\":{\"x\":\"1\"}}",
            "{\"id\":{}}",
            new string('[', 2_000),
        ];
        foreach (var path in posts)
        {
            foreach (var body in bodies)
            {
                var (status, text) = await _site.RawApiAsync(path, body);
                ((int)status).ShouldBeLessThan(500, $"{path} {body[..Math.Min(60, body.Length)]}: {text}");
            }
        }
    }

    [Fact]
    public async Task A_missing_part_is_named()
    {
        var (status, text) = await _site.RawApiAsync("/api/drafts", "{\"kind\":\"invoice\",\"lines\":[null]}");
        status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        JsonDocument
            .Parse(text)
            .RootElement.GetProperty("refusals")[0]
            .GetProperty("field")
            .GetString()
            .ShouldBe("lines");
    }

    [Theory]
    [InlineData("multipart/form-data", "x", 400)]
    [InlineData("multipart/form-data; boundary=b", "--b\r\nContent-Disposition: form-data; name=\"a", 400)]
    [InlineData("multipart/form-data; boundary=b", "no boundary at all", 400)]
    [InlineData("multipart/form-data; boundary=b", "many heads", 413)]
    [InlineData("application/x-www-form-urlencoded", "many fields", 413)]
    [InlineData("application/x-www-form-urlencoded", "long name", 413)]
    [InlineData("application/x-www-form-urlencoded", "too large", 413)]
    public async Task A_form_that_is_broken_or_too_large_gets_a_short_refusal(string type, string body, int status)
    {
        var sent = body switch
        {
            "many heads" => "--b\r\n"
                + string.Concat(Enumerable.Range(0, 400).Select(i => $"X-{i}: {new string('y', 200)}\r\n"))
                + "\r\nx\r\n--b--",
            "many fields" => string.Join('&', Enumerable.Range(0, 20_001).Select(i => $"a{i}=1")),
            "long name" => new string('a', 3_000_000) + "=1",
            "too large" => "a=" + new string('b', 25 * 1024 * 1024),
            _ => body,
        };
        foreach (var path in new[] { "/customers/new", "/oops", "/sign-in" })
        {
            var (code, text) = await _site.RawFormAsync(path, type, sent);
            ((int)code).ShouldBe(status, $"{path}: {text}");
            text.Length.ShouldBeLessThan(200);
            text.ShouldContain("nothing has been done");
        }
    }

    [Fact]
    public async Task Whoever_is_not_signed_in_sends_little()
    {
        _site.As("stranger");
        (
            await _site.RawFormAsync(
                "/sign-in",
                "application/x-www-form-urlencoded",
                "email=" + new string('b', 300_000)
            )
        ).Status.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
    }

    [Fact]
    public async Task A_form_that_is_never_finished_is_ended_and_others_are_served()
    {
        using var client = new TcpClient();
        await client.ConnectAsync(IPAddress.Loopback, new Uri(_site.Address).Port);
        var stream = client.GetStream();
        await stream.WriteAsync(
            Encoding.ASCII.GetBytes(
                "POST /sign-in HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 5000\r\n\r\nemail=a"
            )
        );
        (await _site.GetAsync("/")).Status.ShouldBe(HttpStatusCode.OK);
        var answer = new byte[2_000];
        var read = await stream.ReadAsync(answer).AsTask().WaitAsync(TimeSpan.FromSeconds(60));
        Encoding.ASCII.GetString(answer, 0, read).ShouldStartWith("HTTP/1.1 408");
    }

    [Fact]
    public async Task Busy_books_say_so_within_seconds_and_keep_what_was_typed()
    {
        await using var other = new SqliteConnection($"Data Source={_site.File.Database};Pooling=False");
        await other.OpenAsync();
        await using (var begin = other.CreateCommand())
        {
            begin.CommandText = "BEGIN IMMEDIATE";
            await begin.ExecuteNonQueryAsync();
        }

        var answer = await _site.PostAsync(
            "/customers/new",
            new()
            {
                ["name"] = "Typed with care",
                ["currency"] = "EUR",
                ["country"] = "EE",
            }
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        var page = await Site.ReadAsync(answer);
        page.Body!.TextContent.ShouldContain("The books are busy");
        page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Typed with care");
        var (status, refused) = await _site.ApiAsync("/api/drafts", Site.Draft(_yard));
        (
            status,
            refused
                .GetProperty("refusals")[0]
                .GetProperty("message")
                .GetString()!
                .StartsWith("The books are busy", StringComparison.Ordinal)
        ).ShouldBe((HttpStatusCode.ServiceUnavailable, true));
        (await _site.GetAsync("/customers")).Status.ShouldBe(HttpStatusCode.OK, "reading goes on");
        await using (var end = other.CreateCommand())
        {
            end.CommandText = "ROLLBACK";
            await end.ExecuteNonQueryAsync();
        }

        (await _site.ApiAsync("/api/drafts", Site.Draft(_yard))).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData(5, "The books are busy")]
    [InlineData(8, "read-only")]
    [InlineData(10, "Stop Jugaad, look at the disk")]
    [InlineData(11, "go back to the newest backup")]
    [InlineData(13, "The disk is full")]
    [InlineData(14, "cannot be opened")]
    public void What_the_disk_or_the_file_does_not_let_is_told_as_what_it_is(int code, string says)
    {
        var thrown = new SqliteException("x", code);
        BooksTrouble.Of(thrown)!.Words.ShouldContain(says);
        BooksTrouble.Of(new DbUpdateException("y", thrown))!.Words.ShouldContain(says);
        BooksTrouble.Of(new SqliteException("constraint", 19)).ShouldBeNull("that would be our fault");
    }

    [Fact]
    public async Task A_books_file_that_may_not_grow_refuses_keeps_what_was_typed_and_goes_on_when_there_is_room()
    {
        var answer = await _site.WithFullBooksAsync(() =>
            _site.PostAsync(
                "/customers/new",
                new()
                {
                    ["name"] = "Typed with care",
                    ["currency"] = "EUR",
                    ["country"] = "EE",
                    ["privateNote"] = new string('n', 15_000),
                }
            )
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        var page = await Site.ReadAsync(answer);
        page.Body!.TextContent.ShouldContain("The disk is full");
        page.QuerySelector("#name")!.GetAttribute("value").ShouldBe("Typed with care");
        page.Body!.TextContent.ShouldNotContain("our fault");
        // Whoever wants the books out of it is not kept from that, though no line about it fits any more.
        var before = await TrailCountAsync();
        (
            await _site.WithFullBooksAsync(async () =>
            {
                for (var i = 0; i < 80; i++)
                    (await _site.RawAsync("/moving/export/customers")).StatusCode.ShouldBe(HttpStatusCode.OK);
                return await TrailCountAsync() - before;
            })
        ).ShouldBeLessThan(80);
        (await _site.RawAsync("/moving/export/customers")).StatusCode.ShouldBe(HttpStatusCode.OK);
        await using (var db = _site.File.Open())
            (await db.Trail.OrderByDescending(t => t.Id).Select(t => t.Text).FirstAsync()).ShouldBe(
                "Written out as a file: customers"
            );
        (
            await _site.PostAsync(
                "/customers/new",
                new()
                {
                    ["name"] = "Again",
                    ["currency"] = "EUR",
                    ["country"] = "EE",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    private async Task<int> TrailCountAsync()
    {
        await using var db = _site.File.Open();
        return await db.Trail.CountAsync();
    }

    [Fact]
    public void The_log_says_each_kind_once_in_a_while()
    {
        var clock = new Microsoft.Extensions.Time.Testing.FakeTimeProvider();
        var quiet = new OnceInAWhile(clock);
        Enumerable.Range(0, 1_000).Count(_ => quiet.Says("a")).ShouldBe(1);
        quiet.Says("b").ShouldBeTrue();
        clock.Advance(TimeSpan.FromMinutes(11));
        Enumerable.Range(0, 1_000).Count(_ => quiet.Says("a")).ShouldBe(1);
    }

    [Theory]
    [InlineData("{% for i in (1..100000000) %}x{% endfor %}", "“for” cannot be used here")]
    [InlineData("{% capture a %}{{ Number }}{{ Number }}{% endcapture %}", "“capture” cannot be used here")]
    [InlineData("{{ Items | replace: '', Items }}", "“replace” cannot be used here")]
    [InlineData("{{ Items | append: Items }}", "“append” cannot be used here")]
    [InlineData("{% include 'x' %}", "“include” cannot be used here")]
    public async Task Mail_texts_run_in_bounds_and_only_for_who_may_change_them(string body, string says)
    {
        await _site.InvoiceAsync(_yard);
        foreach (var what in new[] { "show", "save" })
        {
            var answer = await _site.PostAsync(
                "/setup/texts?text=Invoice",
                new()
                {
                    ["subject"] = "S",
                    ["body"] = body,
                    ["do"] = what,
                }
            );
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await Site.ReadAsync(answer)).Body!.TextContent.ShouldContain(says);
        }

        await _site.AsRoleAsync("Reader");
        foreach (var what in new[] { "show", "save" })
            (
                await _site.PostAsync(
                    "/setup/texts?text=Invoice",
                    new()
                    {
                        ["subject"] = "S",
                        ["body"] = "fine",
                        ["do"] = what,
                    }
                )
            ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task What_is_read_for_somebody_who_has_gone_ends_and_what_is_written_does_not()
    {
        async Task<int> AskAsync(string method, bool gone)
        {
            var asked = new DefaultHttpContext { RequestAborted = new CancellationToken(gone) };
            asked.Request.Method = method;
            var options = new DbContextOptionsBuilder<BooksContext>();
            _site.File.Configure(options);
            options.AddInterceptors(new NobodyWaits(new HttpContextAccessor { HttpContext = asked }));
            await using var db = new BooksContext(options.Options);
            return await db.Customers.CountAsync(CancellationToken.None);
        }

        (await AskAsync("GET", gone: false)).ShouldBe(1);
        (await AskAsync("POST", gone: true)).ShouldBe(1);
        await Should.ThrowAsync<OperationCanceledException>(() => AskAsync("GET", gone: true));
        // The program itself has it.
        await using var scope = _site.Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<IHttpContextAccessor>().HttpContext = new DefaultHttpContext
        {
            RequestAborted = new CancellationToken(true),
            Request = { Method = "GET" },
        };
        await Should.ThrowAsync<OperationCanceledException>(() =>
            scope.ServiceProvider.GetRequiredService<BooksContext>().Customers.CountAsync()
        );
        (await _site.RawAsync("/customers")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>
    /// A year of a busy account is a large file; where such are taken in, more may come than elsewhere.
    /// </summary>
    [Theory]
    [InlineData("/bank?handler=ReadIn", 30, HttpStatusCode.UnprocessableEntity)]
    [InlineData("/moving", 30, HttpStatusCode.RequestEntityTooLarge)]
    [InlineData("/bank?handler=ReadIn", 70, HttpStatusCode.RequestEntityTooLarge)]
    public async Task A_form_brings_as_much_as_its_page_takes(string path, int megabytes, HttpStatusCode status)
    {
        var page = (await _site.GetAsync(path.Split('?')[0])).Page;
        var boundary = "----part";
        var body =
            $"--{boundary}\r\nContent-Disposition: form-data; name=\"__RequestVerificationToken\"\r\n\r\n{page.QuerySelector("meta[name=form-token]")!.GetAttribute("content")}\r\n"
            + $"--{boundary}\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a.txt\"\r\n\r\n{new string('x', megabytes * 1024 * 1024)}\r\n--{boundary}--\r\n";
        (await _site.RawFormAsync(path, $"multipart/form-data; boundary={boundary}", body)).Status.ShouldBe(status);
    }
}
