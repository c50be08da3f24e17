using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Jugaad.Desk.Books;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Routing;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>The real program on books of its own, reached over HTTP as a browser would.</summary>
public sealed class Site : IAsyncLifetime, IDisposable
{
    private readonly Dictionary<string, HttpClient> _visitors = [];
    private readonly Dictionary<string, CookieContainer> _cookies = [];
    private string _visitor = "";
    private HttpClient _client = null!;
    private WebApplication _app = null!;

    public BooksFile File { get; } = new(Directory.CreateTempSubdirectory("jugaad-web-").FullName);

    public IServiceProvider Services => _app.Services;

    public string Address => _app.Urls.First();

    public static Dictionary<string, string> FirstRun =>
        new()
        {
            ["name"] = "Little Loft",
            ["country"] = "EE",
            ["homeCurrency"] = "EUR",
            ["decimalMark"] = ".",
            ["taxName"] = "VAT",
            ["taxPercent"] = "24",
            ["ownerName"] = "Olli Owner",
            ["ownerEmail"] = "owner@little.example",
            ["password"] = "a long password",
        };

    /// <summary>
    /// Most tests begin with empty books, or with those of a business that has been set up; each is made once and
    /// copied.
    /// </summary>
    private static readonly Lazy<Task<BooksFile>> Empty = new(MakeEmptyAsync);

    private static readonly Lazy<Task<string>> SetUpBooks = new(MakeSetUpAsync);

    private static async Task<BooksFile> MakeEmptyAsync()
    {
        var file = Temporary();
        await file.PrepareAsync();
        await using var db = file.Open();
        await db.Database.ExecuteSqlRawAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        file.LetGo();
        return file;
    }

    private static async Task<string> MakeSetUpAsync()
    {
        await using var first = new Owned(new Site());
        var site = first.Site;
        await site.InitializeAsync();
        (await site.PostAsync("/first-run", FirstRun)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var books = Path.Combine(Temporary().Folder, "set-up.db");
        await using var db = site.File.Open();
        await db.Database.ExecuteSqlAsync($"VACUUM INTO {books}");
        return books;
    }

    private static BooksFile Temporary()
    {
        var file = new BooksFile(Directory.CreateTempSubdirectory("jugaad-web-").FullName);
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(file.Folder, recursive: true);
        return file;
    }

    private sealed class Owned(Site site) : IAsyncDisposable
    {
        internal Site Site => site;

        public async ValueTask DisposeAsync()
        {
            await site.DisposeAsync();
            site.Dispose();
        }
    }

    /// <summary>
    /// Passwords are hashed with few rounds, since most tests sign in and none guesses; that the real ones are many is
    /// held by the tests of passwords.
    /// </summary>
    private static void QuickHashes(IServiceCollection services) =>
        services.Configure<PasswordHasherOptions>(hashes => hashes.IterationCount = 1_000);

    public StoppableClock Clock { get; } = new();

    public async Task InitializeAsync()
    {
        System.IO.File.Copy((await Empty.Value).Database, File.Database);
        _app = (
            await WebHost.BuildAsync(
                new LaunchOptions(false, File.Folder, 0, false, Path.Combine(SourceTree.Root, "src", "Jugaad.Web")),
                services =>
                {
                    QuickHashes(services);
                    services.AddSingleton<TimeProvider>(Clock);
                }
            )
        )!;
        await _app.StartAsync();
        As("owner");
    }

    /// <summary>Has the books be the demo's, in which stand-ins play the outside world.</summary>
    public async Task BeTheDemoAsync()
    {
        await using var db = File.Open();
        await db.Database.ExecuteSqlRawAsync("UPDATE Businesses SET PinnedDay = date('now')");
    }

    /// <summary>From here on, another browser is used: a new one, or the one of that name again.</summary>
    public void As(string visitor)
    {
        if (!_visitors.TryGetValue(visitor, out var client))
        {
            _cookies[visitor] = new CookieContainer();
            client = new HttpClient(
                new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = _cookies[visitor] }
            )
            {
                BaseAddress = new Uri(Address),
            };
            _visitors.Add(visitor, client);
        }

        _visitor = visitor;

        _client = client;
    }

    /// <summary>What this visitor's browser keeps under a name.</summary>
    public string CookieOf(string name) => _cookies[_visitor].GetCookies(new Uri(Address))[name]!.Value;

    public void SetCookie(string name, string value) =>
        _cookies[_visitor].Add(new Uri(Address), new Cookie(name, value, "/"));

    /// <summary>What comes about in a little while, looked for again and again.</summary>
    public static async Task<T> UntilAsync<T>(Func<T?> look)
        where T : class
    {
        for (var i = 0; i < 600; i++)
        {
            if (look() is { } there)
                return there;
            await Task.Delay(50);
        }

        throw new TimeoutException("It did not come about.");
    }

    /// <summary>Invites somebody as the owner, and goes on as them, signed in.</summary>
    public async Task AsRoleAsync(string role)
    {
        As("owner");
        var email = $"{role.ToLowerInvariant()}@little.example";
        (await PostAsync("/setup/people", new() { ["email"] = email, ["role"] = role }, "Invite")).StatusCode.ShouldBe(
            HttpStatusCode.Redirect
        );
        var link = (await GetAsync("/setup/people")).Page.QuerySelector("#link")!.TextContent;
        As(role);
        var path = new Uri(link).PathAndQuery;
        (await PostAsync(path, new() { ["name"] = $"Rolf {role}", ["password"] = "a long password" }))
            .Headers.Location!.ToString()
            .ShouldBe("/sign-in");
        await SignInAsync(email: email);
    }

    /// <summary>Every address that the program has, with ids filled in.</summary>
    public List<string> Addresses() =>
        Services
            .GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Select(e =>
                "/"
                + e.RoutePattern.RawText!.TrimStart('/')
                    .Replace("{id:int?}", "1")
                    .Replace("{id:int}", "1")
                    .Replace("{index:int}", "0")
                    .Replace("{position:int}", "0")
                    .Replace("{plan:int}", "1")
                    .Replace("{authority:int}", "1")
                    .Replace("{first:datetime}", "2025-08-01")
                    .Replace("{last:datetime}", "2025-08-31")
                    .Replace("{weight}", "regular")
                    .Replace("{name:regex(^(open-items|statement|sales|receipts|account)$)}", "sales")
                    .Replace("/reports/{name}/file", "/reports/sales/file")
            )
            .Distinct()
            .Order()
            .ToList();

    public async Task SetUpAsync(bool signIn = true)
    {
        var books = await SetUpBooks.Value;
        await using (var made = new SqliteConnection($"Data Source={books};Pooling=False"))
        await using (var own = new SqliteConnection($"Data Source={File.Database};Pooling=False"))
        {
            await made.OpenAsync();
            await own.OpenAsync();
            made.BackupDatabase(own);
        }

        if (signIn)
            await SignInAsync();
    }

    public async Task SignInAsync(string password = "a long password", string email = "owner@little.example")
    {
        var answer = await PostAsync("/sign-in", new() { ["email"] = email, ["password"] = password });
        answer.StatusCode.ShouldBe(
            HttpStatusCode.Redirect,
            (await ReadAsync(answer)).QuerySelector(".refusal, .refused")?.TextContent
        );
    }

    /// <summary>Adds a customer by the page, and gives its id.</summary>
    public async Task<int> CustomerAsync(string name = "Yard", string code = "")
    {
        var answer = await PostAsync(
            "/customers/new",
            new()
            {
                ["name"] = name,
                ["code"] = code,
                ["currency"] = "EUR",
                ["country"] = "EE",
                ["email"] = "yard@slip.example",
                ["termsId"] = "2",
            }
        );
        return int.Parse(answer.Headers.Location!.ToString().Split('/')[^1]);
    }

    public async Task<int> InvoiceAsync(int customer, bool issue = true)
    {
        var (status, saved) = await ApiAsync("/api/drafts", Draft(customer));
        status.ShouldBe(HttpStatusCode.OK);
        var id = saved.GetProperty("id").GetInt32();
        if (issue)
            (await PostAsync($"/papers/{id}", new() { ["version"] = "1" }, "Issue")).StatusCode.ShouldBe(
                HttpStatusCode.Redirect
            );
        return id;
    }

    public static Dictionary<string, object?> Draft(int customer, string kind = "invoice") =>
        new()
        {
            ["kind"] = kind,
            ["customerId"] = customer,
            ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
            ["lines"] = new[] { Line() },
        };

    public static Dictionary<string, object?> Line(
        string quantity = "2",
        string price = "50",
        string discount = "",
        string text = "Work"
    ) =>
        new()
        {
            ["text"] = text,
            ["quantity"] = quantity,
            ["unitPrice"] = price,
            ["unit"] = "HUR",
            ["discount"] = discount,
            ["taxCodeId"] = 1,
            ["accountId"] = 6,
        };

    public async Task<(HttpStatusCode Status, IDocument Page)> GetAsync(string path)
    {
        var answer = await _client.GetAsync(path);
        return (answer.StatusCode, await ReadAsync(answer));
    }

    public Task<HttpResponseMessage> RawAsync(string path) => _client.GetAsync(path);

    public static async Task<IDocument> ReadAsync(HttpResponseMessage answer) =>
        AsRead.Collapsed(new HtmlParser().ParseDocument(await answer.Content.ReadAsStringAsync()));

    /// <summary>Posts a form with the token and the key of the page that it is on.</summary>
    public async Task<HttpResponseMessage> PostAsync(
        string path,
        Dictionary<string, string> fields,
        string? handler = null,
        string? token = null,
        string? key = null,
        IEnumerable<int>? picks = null
    )
    {
        token ??= await TokenAsync(path);
        if (path == "/first-run")
            fields = new(fields)
            {
                ["code"] = fields.GetValueOrDefault("code", Services.GetRequiredService<FirstRunCode>().Code),
            };
        var form = new Dictionary<string, string>(fields)
        {
            ["__RequestVerificationToken"] = token,
            ["formKey"] = key ?? Guid.NewGuid().ToString("N"),
        };
        using var content = new MultipartFormDataContent();
        foreach (var (name, value) in form)
            content.Add(new StringContent(value), name);
        foreach (var pick in picks ?? [])
            content.Add(new StringContent($"{pick}"), "pick");
        return await _client.PostAsync(
            handler is null
                ? path
                : $"{path}{(path.Contains('?', StringComparison.Ordinal) ? "&" : "?")}handler={handler}",
            content
        );
    }

    /// <summary>Does something with the rows of a list that are picked.</summary>
    public Task<HttpResponseMessage> PickAsync(
        string list,
        string act,
        IEnumerable<int> ids,
        Dictionary<string, string>? more = null,
        string? key = null
    ) => PostAsync(list, new(more ?? []) { ["act"] = act }, "Picked", key: key, picks: ids);

    public async Task<HttpResponseMessage> UploadAsync(
        string path,
        Dictionary<string, string> fields,
        string name,
        byte[] file
    )
    {
        using var content = new MultipartFormDataContent
        {
            { new StringContent(await TokenAsync(path)), "__RequestVerificationToken" },
            { new ByteArrayContent(file), name, "picture.png" },
        };
        foreach (var (field, value) in fields)
            content.Add(new StringContent(value), field);
        return await _client.PostAsync(path, content);
    }

    public async Task<(HttpStatusCode Status, JsonElement Answer)> ApiAsync(string path, object body, bool token = true)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = JsonContent.Create(body) };
        if (token)
            request.Headers.Add("X-Form-Token", await TokenAsync("/sign-in"));
        var answer = await _client.SendAsync(request);
        var text = await answer.Content.ReadAsStringAsync();
        return (answer.StatusCode, text.Length == 0 ? default : JsonDocument.Parse(text).RootElement);
    }

    /// <summary>Sends a script's call with a body just as it stands here.</summary>
    public async Task<(HttpStatusCode Status, string Text)> RawApiAsync(string path, string body)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path)
        {
            Content = new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
        };
        request.Headers.Add("X-Form-Token", await TokenAsync("/sign-in"));
        var answer = await _client.SendAsync(request);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    /// <summary>Sends whatever somebody's program sends.</summary>
    public async Task<(HttpStatusCode Status, string Text)> SendAsync(HttpRequestMessage request)
    {
        var answer = await _client.SendAsync(request);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    /// <summary>Sends a form with a body just as it stands here.</summary>
    public async Task<(HttpStatusCode Status, string Text)> RawFormAsync(string path, string type, string body)
    {
        using var content = new StringContent(body);
        content.Headers.ContentType = System.Net.Http.Headers.MediaTypeHeaderValue.Parse(type);
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        // The program may answer before all has been sent.
        request.Headers.ExpectContinue = body.Length > 1_000_000;
        var answer = await _client.SendAsync(request);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    /// <summary>Does something while the books' file may not grow, which SQLite tells as a full disk.</summary>
    public async Task<T> WithFullBooksAsync<T>(Func<Task<T>> work)
    {
        // The connections that the program takes from the pool next are these.
        var connections = Enumerable.Range(0, 12).Select(_ => File.Open()).ToList();
        foreach (var db in connections)
        {
            await db.Database.OpenConnectionAsync();
            await db.Database.ExecuteSqlRawAsync("PRAGMA max_page_count=1");
        }

        foreach (var db in connections)
            await db.DisposeAsync();
        try
        {
            return await work();
        }
        finally
        {
            File.LetGo();
        }
    }

    private async Task<string> TokenAsync(string path)
    {
        var (_, page) = await GetAsync(path);
        return page.QuerySelector("meta[name=form-token]")?.GetAttribute("content")
            ?? (await GetAsync("/sign-in")).Page.QuerySelector("meta[name=form-token]")!.GetAttribute("content")!;
    }

    public async Task DisposeAsync()
    {
        await _app.DisposeAsync();
        File.LetGo();
        Directory.Delete(File.Folder, recursive: true);
    }

    public void Dispose()
    {
        foreach (var client in _visitors.Values)
            client.Dispose();
    }
}
