using System.Net;
using System.Reflection;
using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Web.Tests;

/// <summary>
/// The table of all addresses, made from the program itself, with who may use each. It stands in docs/rights.md; an
/// address that is new or changed differs from it until somebody has looked. JUGAAD_WRITE_RIGHTS=yes writes it anew.
/// </summary>
public sealed class RightsTableTests : IAsyncLifetime
{
    private static readonly string Kept = Path.Combine(SourceTree.Root, "docs", "rights.md");
    private readonly Site _site = new();

    public Task InitializeAsync() => _site.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _site.DisposeAsync();
        _site.Dispose();
    }

    private sealed record Address(string Method, string Path, string Form, Right? Right);

    [Fact]
    public async Task Every_address_is_in_the_table_with_who_may_use_it()
    {
        var table = new StringBuilder(
            "# Who may use what\n\nEvery address of the program, and every form of each page, with the right that it asks for and the roles that have it. A visitor is nobody who is signed in. This table is made from the program; a test holds it.\n\n| | address | form | right | visitor | owner | bookkeeper | seller | reader |\n|---|---|---|---|---|---|---|---|---|\n"
        );
        foreach (
            var a in (await AddressesAsync())
                .OrderBy(a => a.Path, StringComparer.Ordinal)
                .ThenBy(a => a.Method, StringComparer.Ordinal)
                .ThenBy(a => a.Form, StringComparer.Ordinal)
        )
        {
            var open = a.Right is null or Right.Begin or Right.Door or Right.Customer;
            string Role(PersonRole role) =>
                a.Right is null or Right.Door or Right.Customer || (a.Right is { } right && role.Has(right)) ? "x" : "";
            table.Append(
                $"| {a.Method} | {a.Path.Replace("|", "\\|", StringComparison.Ordinal)} | {a.Form} | {a.Right?.ToString().ToLowerInvariant() ?? "none"} | {(open ? "x" : "")} | {Role(PersonRole.Owner)} | {Role(PersonRole.Bookkeeper)} | {Role(PersonRole.Seller)} | {Role(PersonRole.Reader)} |\n"
            );
        }

        if (Environment.GetEnvironmentVariable("JUGAAD_WRITE_RIGHTS") == "yes")
            await File.WriteAllTextAsync(Kept, table.ToString());
        table.ToString().ShouldBe(await File.ReadAllTextAsync(Kept));
    }

    [Fact]
    public async Task What_the_table_says_is_so()
    {
        await _site.SetUpAsync();
        var invoice = await _site.InvoiceAsync(await _site.CustomerAsync());
        foreach (var role in new[] { PersonRole.Reader, PersonRole.Seller, PersonRole.Bookkeeper })
        {
            await _site.AsRoleAsync(role.ToString());
            foreach (
                var a in (await AddressesAsync()).Where(a =>
                    a.Right is { } right
                    && !role.Has(right)
                    && right is not (Right.Door or Right.Customer or Right.Begin)
                )
            )
            {
                var path = Filled(a.Path, invoice);
                var status =
                    a.Method == "GET" ? (await _site.RawAsync(path)).StatusCode
                    : path.EndsWith("/files", StringComparison.Ordinal)
                        ? (await _site.UploadAsync(path, [], "file", [1])).StatusCode
                    : path.StartsWith("/api", StringComparison.Ordinal)
                        ? (
                            await _site.RawApiAsync(
                                path,
                                "{\"kind\":\"invoice\",\"form\":{\"kind\":\"invoice\"},\"parts\":[],\"back\":{}}"
                            )
                        ).Status
                    : (await _site.PostAsync(path, [], a.Form.Length > 0 ? a.Form : null)).StatusCode;
                status.ShouldBe(HttpStatusCode.Forbidden, $"{role}: {a.Method} {path} {a.Form}");
            }
        }
    }

    [Fact]
    public async Task A_seller_sees_no_receipts_and_balances_and_no_files_of_what_was_issued()
    {
        await _site.SetUpAsync();
        var customer = await _site.CustomerAsync();
        var invoice = await _site.InvoiceAsync(customer);
        await using (var db = _site.File.Open())
        {
            db.DocumentFiles.Add(new Core.Documents.DocumentFile(invoice, "plan.pdf", [1], "Olli Owner"));
            await db.SaveChangesAsync();
        }

        await _site.PostAsync(
            $"/receive/new?customer={customer}",
            new()
            {
                ["customerId"] = $"{customer}",
                ["amount"] = "5",
                ["date"] = DateTime.Now.ToString("yyyy-MM-dd"),
                ["way"] = "1",
            }
        );
        (await _site.GetAsync($"/customers/{customer}")).Page.QuerySelector("#balance").ShouldNotBeNull();
        var total = (await _site.GetAsync($"/papers/{invoice}")).Page.QuerySelector("#open")!.TextContent;
        await _site.AsRoleAsync("Seller");
        foreach (var path in new[] { "/", $"/customers/{customer}", $"/papers/{invoice}" })
        {
            var page = (await _site.GetAsync(path)).Page;
            page.QuerySelector("#balance, #open, #credits, #movement, #bank, #chase").ShouldBeNull(path);
            page.Body!.TextContent.ShouldNotContain("RCT-", Case.Sensitive, path);
            page.Body!.TextContent.ShouldNotContain("overdue", Case.Insensitive, path);
        }

        (await (await _site.RawAsync("/api/jump?q=RCT")).Content.ReadAsStringAsync()).ShouldNotContain("RCT-");
        (await (await _site.RawAsync("/api/jump?q=Trail")).Content.ReadAsStringAsync()).ShouldNotContain("/setup");
        (await _site.RawAsync($"/papers/{invoice}/files/1")).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (
            await _site.PostAsync($"/papers/{invoice}", new() { ["file"] = "1", ["do"] = "remove" }, "File")
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await _site.RawAsync($"/papers/{invoice}/pdf")).StatusCode.ShouldBe(
            HttpStatusCode.OK,
            "the paper itself is as the customer has it"
        );
        total.ShouldNotBeEmpty();
    }

    private static string Filled(string path, int id) =>
        System.Text.RegularExpressions.Regex.Replace(
            path,
            @"\{[^{}]*(\{[^{}]*\}[^{}]*)*\}",
            match =>
                match.Value switch
                {
                    "{kind}" => "customers",
                    "{face}" or "{weight:regex(^(regular|bold|italic|bold-italic)$)}" => "regular",
                    var name when name.StartsWith("{name:regex", StringComparison.Ordinal) => "sales",
                    "{name}" when path.StartsWith("/reports", StringComparison.Ordinal) => "sales",
                    "{name}" => "x",
                    "{first:datetime}" => "2025-08-01",
                    "{last:datetime}" => "2025-08-31",
                    _ => $"{id}",
                }
        );

    /// <summary>
    /// Every address with its right, and every form that a page takes; null where nobody is asked who they are.
    /// </summary>
    private async Task<List<Address>> AddressesAsync()
    {
        var loader = _site.Services.GetRequiredService<PageLoader>();
        var all = new List<Address>();
        foreach (
            var endpoint in _site
                .Services.GetServices<EndpointDataSource>()
                .SelectMany(s => s.Endpoints)
                .OfType<RouteEndpoint>()
        )
        {
            var path = "/" + endpoint.RoutePattern.RawText!.TrimStart('/');
            if (endpoint.Metadata.GetMetadata<PageActionDescriptor>() is { } described)
            {
                var page = await loader.LoadAsync(described, EndpointMetadataCollection.Empty);
                var model = page.ModelTypeInfo!;
                var anybody = model.GetCustomAttribute<AllowAnonymousAttribute>() is not null;
                all.Add(
                    new Address(
                        "GET",
                        path,
                        "",
                        model.GetCustomAttribute<NeedsAttribute>()?.Right ?? (anybody ? null : Right.Self)
                    )
                );
                all.AddRange(
                    page.HandlerMethods!.Where(h => h.HttpMethod == "Post")
                        .Select(h => new Address(
                            "POST",
                            path,
                            h.Name ?? "",
                            RefusalFilter.RightOf(h.MethodInfo, model)
                        ))
                );
            }
            else
            {
                var anybody = endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null;
                var right = endpoint.Metadata.GetMetadata<NeedsAttribute>()?.Right;
                (anybody || right is not null).ShouldBeTrue($"{path} does not say which right it needs");
                all.AddRange(
                    endpoint
                        .Metadata.GetMetadata<IHttpMethodMetadata>()!
                        .HttpMethods.Select(m => new Address(m, path, "", right))
                );
            }
        }

        all.Count.ShouldBeGreaterThan(150);
        return all.Distinct().ToList();
    }
}
