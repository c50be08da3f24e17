using System.Net;
using System.Text.Json;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Tests;

/// <summary>Layouts over HTTP: copied, drawn, kept, put to use, chosen, taken in and given out.</summary>
public sealed class LayoutsOverHttpTests : IAsyncLifetime
{
    private readonly Site _site = new();
    private int _yard;

    public async Task InitializeAsync()
    {
        await _site.InitializeAsync();
        await _site.SetUpAsync();
        _yard = await _site.CustomerAsync();
    }

    public Task DisposeAsync() => _site.DisposeAsync();

    private async Task<KeptLayout> KeptAsync()
    {
        await using var db = _site.File.Open();
        return await db.Layouts.AsNoTracking().OrderByDescending(l => l.Id).FirstAsync();
    }

    private async Task<KeptLayout> CopyAsync()
    {
        (
            await _site.PostAsync("/setup/layouts?handler=Copy", new() { ["of"] = "plain", ["layoutName"] = "Ours" })
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        return await KeptAsync();
    }

    private Task<(HttpStatusCode Status, JsonElement Data)> CallAsync(string address, object body) =>
        _site.ApiAsync(address, body);

    [Fact]
    public async Task A_layout_is_copied_drawn_kept_put_to_use_and_chosen()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        var kept = await CopyAsync();
        var page = (await _site.GetAsync($"/setup/layouts/{kept.Id}")).Page;
        page.QuerySelector("#studio-data")!.TextContent.ShouldContain("\"firstHead\"");
        var changed = kept.Work.Replace("\"Heading\"", "\"Kind\"", StringComparison.Ordinal);
        var (status, drawn) = await CallAsync("/api/layouts/draw", new { layout = changed, sample = $"{invoice}" });
        status.ShouldBe(HttpStatusCode.OK);
        drawn.GetProperty("pages")[0].GetString()!.ShouldContain("data-piece=\"heading\"");
        drawn.GetProperty("spots").GetArrayLength().ShouldBeGreaterThan(10);
        drawn.GetProperty("examples").GetProperty("Number").GetString().ShouldStartWith("INV-");
        var (keeping, version) = await CallAsync(
            $"/api/layouts/{kept.Id}/keep",
            new { layout = changed, version = kept.Version }
        );
        keeping.ShouldBe(HttpStatusCode.OK);
        var (late, said) = await CallAsync(
            $"/api/layouts/{kept.Id}/keep",
            new { layout = kept.Work, version = kept.Version }
        );
        late.ShouldBe(HttpStatusCode.UnprocessableEntity);
        said.ToString().ShouldContain("worked on this layout while you had it open");
        var (naming, named) = await CallAsync($"/api/layouts/{kept.Id}/name", new { name = "Of the yard" });
        (naming, named.GetProperty("name").GetString()).ShouldBe((HttpStatusCode.OK, "Of the yard"));
        var (using_, used) = await CallAsync(
            $"/api/layouts/{kept.Id}/use",
            new { version = version.GetProperty("version").GetInt32() + 1 }
        );
        (using_, used.GetProperty("state").GetInt32()).ShouldBe((HttpStatusCode.OK, 1));
        (
            await _site.PostAsync(
                "/setup/layouts?handler=Rule",
                new() { ["layout"] = $"{kept.Id}", ["kind"] = "Invoice" }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var list = (await _site.GetAsync("/setup/layouts")).Page;
        list.QuerySelector("#layout-rules")!.TextContent.ShouldContain("Of the yard");
        list.QuerySelector("#own-layouts")!.TextContent.ShouldContain("in use");
        var next = await _site.InvoiceAsync(_yard);
        var margin = (await _site.GetAsync($"/papers/{next}")).Page;
        margin.QuerySelector("#layout-why")!.TextContent.ShouldContain("Of the yard: by the rule for invoices");
        margin.QuerySelector("svg.paper-page")!.TextContent.ShouldContain("invoiceINV-");
        var file = await _site.RawAsync($"/setup/layouts/{kept.Id}/layout.json");
        LayoutFile.Read(await file.Content.ReadAsStringAsync()).Name.ShouldBe("Of the yard");
        (
            await _site.RawAsync($"/setup/layouts/{kept.Id}/paper.pdf?sample={invoice}")
        ).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (await _site.RawAsync("/setup/layouts/99/layout.json")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Theory]
    [InlineData("{\"version\":1,\"name\":\"a\",\"layers\":[]}", "“layers” is not known here")]
    [InlineData("[[[[[[[[[[[[[[[[[[[[1]]]]]]]]]]]]]]]]]]]]", "cannot be read")]
    [InlineData("<svg onload='alert(1)'/>", "cannot be read")]
    public async Task What_is_no_layout_is_refused_in_words(string json, string words)
    {
        var kept = await CopyAsync();
        foreach (var address in new[] { "/api/layouts/draw", $"/api/layouts/{kept.Id}/keep" })
        {
            var (status, said) = await CallAsync(address, new { layout = json, version = kept.Version });
            (
                status,
                said.GetProperty("refusals")[0]
                    .GetProperty("message")
                    .GetString()!
                    .Contains(words, StringComparison.Ordinal)
            ).ShouldBe((HttpStatusCode.UnprocessableEntity, true), said.ToString());
        }

        (await KeptAsync()).Work.ShouldBe(kept.Work);
    }

    [Fact]
    public async Task Words_of_a_layout_stay_words_on_the_screen()
    {
        var invoice = await _site.InvoiceAsync(_yard);
        var kept = await CopyAsync();
        var layout = LayoutFile.Parse(kept.Work);
        var hostile = LayoutFile.Write(
            layout with
            {
                Name = "</script><script>alert(1)</script>",
                About = "</script><script>alert(2)</script>",
                Bands =
                [
                    .. layout.Bands.Select(b =>
                        b.Kind == BandKind.FirstHead
                            ? b with
                            {
                                Pieces =
                                [
                                    .. b.Pieces,
                                    new Piece
                                    {
                                        Id = "own",
                                        X = 20,
                                        Y = 50,
                                        Width = 80,
                                        Height = 5,
                                        Text = "<img src=x onerror=alert(1)>",
                                    },
                                ],
                            }
                            : b
                    ),
                ],
            }
        );
        var (_, drawn) = await CallAsync("/api/layouts/draw", new { layout = hostile, sample = $"{invoice}" });
        drawn.GetProperty("pages")[0].GetString()!.ShouldNotContain("<img");
        await CallAsync($"/api/layouts/{kept.Id}/keep", new { layout = hostile, version = kept.Version });
        var html = await (await _site.RawAsync($"/setup/layouts/{kept.Id}")).Content.ReadAsStringAsync();
        html.ShouldNotContain("<script>alert");
    }

    [Fact]
    public async Task Labels_of_the_customers_that_are_picked_come_as_one_file()
    {
        var answer = await _site.PickAsync(
            "/customers",
            "labels",
            [_yard],
            new() { ["sheet"] = "a4-24", ["skip"] = "3" }
        );
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        (
            await _site.PickAsync("/customers", "labels", [_yard], new() { ["sheet"] = "a4-24", ["skip"] = "24" })
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await _site.PickAsync("/customers", "labels", [_yard], new() { ["sheet"] = "none" })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }
}
