using Jugaad.Core;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Setup;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// A long file goes in, and out again, by pieces: others write in between, and nothing of it is left half done without
/// a word.
/// </summary>
public sealed class LongImportTests
{
    private const int Rows = 1_200;

    private static string File(Func<int, string>? row = null) =>
        $"code,name,currency,country\n{string.Join('\n', Enumerable.Range(1, Rows).Select(i => row?.Invoke(i) ?? $"Z{i},Boat {i},EUR,EE"))}\n";

    private static Task<int> BeginAsync(Loft loft, string text, MovingKind kind = MovingKind.Customers) =>
        MovingTests.BeginAsync(loft, kind, text);

    private static Task<ImportReport> TakeAsync(
        Loft loft,
        int id,
        bool allOrNone,
        Action<int>? between = null,
        CancellationToken stop = default
    ) =>
        loft.WithAsync<ImportTaking, ImportReport>(t =>
            t.RunAsync(id, allOrNone, new Told(between ?? (_ => { })), stop)
        );

    private static Task<TakenBackReport> BackAsync(
        Loft loft,
        int id,
        Action<int>? between = null,
        CancellationToken stop = default
    ) => loft.WithAsync<ImportUndo, TakenBackReport>(u => u.TakeBackAsync(id, stop, new Told(between ?? (_ => { }))));

    private static Task<ImportRun> RunAsync(Loft loft, int id) =>
        loft.WithAsync<Importing, ImportRun>(async i => (await i.FindAsync(id))!);

    private static Task<int> CountAsync(Loft loft) =>
        loft.WithAsync<BooksContext, int>(db => db.Customers.CountAsync());

    private static int Typed(Loft loft, string code, string name = "Typed meanwhile") =>
        loft.WithAsync<CustomersDesk, int>(c =>
                c.SaveAsync(
                    null,
                    0,
                    new CustomerDetails
                    {
                        Code = code,
                        Name = name,
                        Currency = "EUR",
                        Address = new Address(Country: "EE"),
                    }
                )
            )
            .GetAwaiter()
            .GetResult();

    private sealed class Told(Action<int> told) : IProgress<int>
    {
        public void Report(int value) => told(value);
    }

    /// <summary>Takes the first piece of a file and stops, as if the program had.</summary>
    private static async Task<int> HalfWayAsync(Loft loft, string text, bool allOrNone = false)
    {
        var id = await BeginAsync(loft, text);
        using var stop = new CancellationTokenSource();
        await Should.ThrowAsync<OperationCanceledException>(() =>
            TakeAsync(loft, id, allOrNone, _ => stop.Cancel(), stop.Token)
        );
        var run = await RunAsync(loft, id);
        (run.State, run.Report!.Rows, run.AllOrNone).ShouldBe((ImportState.Taking, ImportTaking.Piece, allOrNone));
        (await loft.WithAsync<Importing, IReadOnlyList<ImportRun>>(i => i.HalfWayAsync()))
            .Select(r => r.Id)
            .ShouldBe([id]);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        return id;
    }

    [Fact]
    public async Task Others_write_between_the_pieces_and_what_they_wrote_counts()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, File());
        var seen = new List<int>();
        var report = await TakeAsync(
            loft,
            id,
            allOrNone: true,
            done =>
            {
                seen.Add(done);
                // The file has this one further on.
                if (done == ImportTaking.Piece)
                    Typed(loft, "Z900");
            }
        );
        seen.ShouldBe([500, 1_000, 1_200]);
        MovingTests.Counts(report).ShouldBe((Rows - 1, 1, 0, 0));
        (
            await loft.WithAsync<BooksContext, List<string>>(db =>
                db.Customers.Where(c => c.Code == "Z900").Select(c => c.Name).ToListAsync()
            )
        ).ShouldBe(["Boat 900"]);
        (await Should.ThrowAsync<RefusalException>(() => TakeAsync(loft, id, true))).Message.ShouldContain(
            "taken already"
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();

        var outlook = await loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(id));
        (outlook.Gone, outlook.AsBefore, outlook.Stays.Count).ShouldBe((Rows - 1, 1, 0));
        var back = await BackAsync(loft, id, done => Typed(loft, $"B{done}"));
        (back.Gone, back.AsBefore, back.Stays.Count).ShouldBe((Rows - 1, 1, 0));
        (
            await loft.WithAsync<BooksContext, List<string>>(db =>
                db.Customers.Where(c => c.Code == "Z900").Select(c => c.Name).ToListAsync()
            )
        ).ShouldBe(["Typed meanwhile"]);
        (await CountAsync(loft)).ShouldBe(2 + 1 + 3);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task All_or_none_takes_back_what_is_in_when_a_later_row_cannot_be_taken_any_more()
    {
        await using var loft = await Loft.OpenAsync();
        // Known by its name until another one of that name is there.
        var id = await BeginAsync(loft, File(i => i == 900 ? ",Yard,EUR,EE" : $"Z{i},Boat {i},EUR,EE"));
        var before = await CountAsync(loft);
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            TakeAsync(
                loft,
                id,
                allOrNone: true,
                done =>
                {
                    if (done == ImportTaking.Piece)
                        Typed(loft, "Y2", "Yard");
                }
            )
        );
        refused.Message.ShouldContain("1 row is refused, so nothing was taken");
        (await CountAsync(loft)).ShouldBe(before + 1);
        var run = await RunAsync(loft, id);
        (run.State, run.ReportText, run.TakenBackText).ShouldBe((ImportState.Begun, "", ""));
        (await loft.WithAsync<BooksContext, int>(db => db.ImportEffects.CountAsync())).ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        // The good rows alone are taken from the same file.
        MovingTests.Counts(await TakeAsync(loft, id, allOrNone: false)).ShouldBe((Rows - 1, 0, 0, 1));
    }

    [Fact]
    public async Task What_stopped_half_way_is_gone_on_with_as_it_was_begun()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await HalfWayAsync(loft, File(i => i == 700 ? "Z3,Named twice,EUR,EE" : $"Z{i},Boat {i},EUR,EE"));
        var report = await TakeAsync(loft, id, allOrNone: true);
        MovingTests.Counts(report).ShouldBe((Rows - 1, 0, 0, 1));
        report.Refused.Single().Why.ShouldContain("second time");
        (await RunAsync(loft, id)).State.ShouldBe(ImportState.Done);
        (await CountAsync(loft)).ShouldBe(2 + Rows - 1);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_stopped_half_way_is_taken_back_and_may_be_taken_anew()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await HalfWayAsync(loft, File(), allOrNone: true);
        (await BackAsync(loft, id)).Gone.ShouldBe(ImportTaking.Piece);
        (await CountAsync(loft)).ShouldBe(2);
        (await RunAsync(loft, id)).State.ShouldBe(ImportState.Begun);
        (
            await loft.WithAsync<BooksContext, List<string>>(db => db.Trail.Select(t => t.Text).ToListAsync())
        ).ShouldContain(t =>
            t.Contains("broken off after 500 of 1200 rows, taken back: 500 out again", StringComparison.Ordinal)
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        MovingTests.Counts(await TakeAsync(loft, id, allOrNone: true)).ShouldBe((Rows, 0, 0, 0));
    }

    [Fact]
    public async Task What_is_in_use_by_then_stays_and_is_named_and_the_file_is_begun_anew()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await HalfWayAsync(loft, File());
        var customer = await loft.WithAsync<BooksContext, int>(db =>
            db.Customers.Where(c => c.Code == "Z7").Select(c => c.Id).SingleAsync()
        );
        await loft.IssuedAsync(loft.Content(1, 100, customer: customer));
        (await BackAsync(loft, id)).Stays.ShouldBe([new StaysThere("Boat 7 (Z7)", "is in use")]);
        var run = await RunAsync(loft, id);
        (run.State, run.Report!.Rows).ShouldBe((ImportState.TakenBack, ImportTaking.Piece));
        (await Should.ThrowAsync<RefusalException>(() => TakeAsync(loft, id, true))).Message.ShouldContain(
            "taken already"
        );
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Taking_back_that_stopped_half_way_goes_on()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, File());
        await TakeAsync(loft, id, true);
        using var stop = new CancellationTokenSource();
        await Should.ThrowAsync<OperationCanceledException>(() => BackAsync(loft, id, _ => stop.Cancel(), stop.Token));
        var run = await RunAsync(loft, id);
        (run.State, run.TakenBack!.Gone).ShouldBe((ImportState.TakingBack, 500));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        (await Should.ThrowAsync<RefusalException>(() => TakeAsync(loft, id, true))).Message.ShouldContain(
            "taken already"
        );
        (await loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(id))).Gone.ShouldBe(Rows);
        (await BackAsync(loft, id)).Gone.ShouldBe(Rows);
        (await CountAsync(loft)).ShouldBe(2);
        (await RunAsync(loft, id)).State.ShouldBe(ImportState.TakenBack);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_of_a_long_one_can_be_taken_back_and_it_stays_as_it_is()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await BeginAsync(loft, File());
        await TakeAsync(loft, id, true);
        await loft.ExecuteAsync("UPDATE Customers SET Version = Version + 1");
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, id))).Message.ShouldContain(
            "was changed since"
        );
        var run = await RunAsync(loft, id);
        (run.State, run.TakenBackText).ShouldBe((ImportState.Done, ""));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_import_that_changed_nothing_has_nothing_to_take_back()
    {
        await using var loft = await Loft.OpenAsync();
        const string Same = "code,name\nYARD,Yard\n";
        var id = await BeginAsync(loft, Same);
        MovingTests.Counts(await TakeAsync(loft, id, true)).ShouldBe((0, 0, 1, 0));
        (await Should.ThrowAsync<RefusalException>(() => BackAsync(loft, id))).Message.ShouldContain("changed nothing");
        (await RunAsync(loft, id)).State.ShouldBe(ImportState.Done);
    }

    [Fact]
    public async Task Half_of_one_of_which_all_is_in_use_by_then_ends_with_what_stays()
    {
        await using var loft = await Loft.OpenAsync();
        var id = await HalfWayAsync(loft, File());
        await loft.ExecuteAsync("UPDATE Customers SET Version = Version + 1");
        (await BackAsync(loft, id)).Stays.Count.ShouldBe(ImportTaking.Piece);
        (await RunAsync(loft, id)).State.ShouldBe(ImportState.TakenBack);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Prices_of_one_item_in_several_pieces_are_one_change()
    {
        await using var loft = await Loft.OpenAsync();
        var things = string.Join('\n', Enumerable.Range(0, 30).Select(i => $"T{i},Thing {i},5"));
        await TakeAsync(loft, await BeginAsync(loft, $"code,name,price\n{things}\n", MovingKind.Items), true);
        // Each item has a price in each of forty lists, and so comes again in every piece.
        var text =
            $"item,price list,currency,price\n{string.Join('\n', Enumerable.Range(0, Rows).Select(i => $"T{i % 30},List {i / 30},EUR,{i + 1}"))}\n";
        var id = await BeginAsync(loft, text, MovingKind.Prices);
        MovingTests.Counts(await TakeAsync(loft, id, true)).ShouldBe((Rows, 0, 0, 0));
        var effects = await loft.WithAsync<BooksContext, List<ImportEffect>>(db =>
            db.ImportEffects.Where(e => e.RunId == id).ToListAsync()
        );
        (effects.Count(e => e.On == EffectOn.Item), effects.Count(e => e.On == EffectOn.PriceList)).ShouldBe((30, 40));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        var outlook = await loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(id));
        (outlook.Gone, outlook.AsBefore, outlook.Stays.Count).ShouldBe((40, 30, 0));
        (await BackAsync(loft, id)).Stays.ShouldBeEmpty();
        (
            await loft.WithAsync<BooksContext, (int, int)>(async db =>
                (await db.PriceLists.CountAsync(), await db.Items.CountAsync(i => i.Prices.Any()))
            )
        ).ShouldBe((0, 0));
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Prices_that_are_tried_or_refused_leave_no_list_behind()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, await BeginAsync(loft, "code,name,price\nA,Thing,5\n", MovingKind.Items), true);
        var id = await BeginAsync(
            loft,
            "item,price list,currency,price\nA,Trade,EUR,4\nNONE,Trade,EUR,4\n",
            MovingKind.Prices
        );
        MovingTests
            .Counts(await loft.WithAsync<Importing, ImportReport>(i => i.TryOutAsync(id)))
            .ShouldBe((1, 0, 0, 1));
        await Should.ThrowAsync<RefusalException>(() => TakeAsync(loft, id, allOrNone: true));
        (await loft.WithAsync<BooksContext, int>(db => db.PriceLists.CountAsync())).ShouldBe(0);
        (await loft.WithAsync<BooksContext, int>(db => db.Items.CountAsync(i => i.Prices.Any()))).ShouldBe(0);
    }

    /// <summary>
    /// To try the rows, and to see what would become of taking them back, nobody is kept from writing, nor kept waiting
    /// by whoever writes.
    /// </summary>
    [Fact]
    public async Task Looking_takes_no_lock()
    {
        await using var loft = await Loft.OpenAsync();
        await TakeAsync(loft, await BeginAsync(loft, "code,name,price\nA,Thing,5\n", MovingKind.Items), true);
        var taken = await BeginAsync(loft, "item,price list,currency,price\nA,Trade,EUR,4\n", MovingKind.Prices);
        await TakeAsync(loft, taken, true);
        var tried = await BeginAsync(loft, "item,price list,currency,price\nA,New,EUR,4\n", MovingKind.Prices);
        await using var connection = new SqliteConnection($"Data Source={loft.File.Database}");
        await connection.OpenAsync();
        await using var writing = connection.BeginTransaction();
        (await loft.WithAsync<Importing, ImportReport>(i => i.TryOutAsync(tried))).New.ShouldBe(1);
        (await loft.WithAsync<ImportUndo, TakenBackReport>(u => u.OutlookAsync(taken))).Undone.ShouldBe(2);
    }

    [Theory]
    [InlineData("UPDATE ImportRuns SET State = 'Done'", "does not go with where it stands")]
    [InlineData("UPDATE ImportRuns SET State = 'TakingBack'", "does not go with where it stands")]
    [InlineData(
        "UPDATE ImportRuns SET State = 'TakingBack', TakenBackText = '{\"Gone\":500,\"AsBefore\":0,\"Stays\":[],\"Through\":500}'",
        "all of it is"
    )]
    [InlineData("UPDATE ImportRuns SET Rows = 500", "tells of 500 of 500 rows")]
    [InlineData(
        "UPDATE ImportRuns SET AllOrNone = 1, ReportText = replace(ReportText, '\"Refused\":[]', '\"Refused\":[{\"Row\":1,\"Why\":\"x\"}]')",
        "whole or not at all"
    )]
    public async Task The_check_finds_what_is_half_way_and_does_not_fit(string sql, string said)
    {
        await using var loft = await Loft.OpenAsync();
        await HalfWayAsync(loft, File());
        await loft.ExecuteAsync(
            sql.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal)
        );
        (await loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(said, StringComparison.Ordinal));
    }
}
