using Jugaad.Desk.Books;
using Jugaad.Desk.Lines;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>What a check of the books counted, and each difference that it found.</summary>
public sealed record CheckReport(IReadOnlyList<(string What, long Count)> Counted, IReadOnlyList<string> Differences)
{
    public bool Healthy => Differences.Count == 0;
}

/// <summary>
/// Recomputes from its sources everything that is kept for speed or frozen, and compares. It changes nothing, and sees
/// the books as of one moment, since what is posted while one thing is read would not be found when the next is.
/// </summary>
public sealed class BooksCheck(BooksContext db)
{
    public async Task<CheckReport> RunAsync(CancellationToken stop = default)
    {
        db.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTracking;
        var findings = new Findings();
        // The file is looked at for itself, and by a connection that may need to be a fresh one.
        await LookAsync(new FileProof(db), findings, stop);
        await using var moment = await ReadMoment.BeginAsync(db, stop);
        IProof[] proofs =
        [
            new RestingProof(db),
            new WordsProof(db),
            new JournalProof(db),
            new AccountsProof(db),
            new BookingsProof(db),
            new SettlementsProof(db),
            new DocumentsProof(db),
            new RightsProof(db, new LineUses(db)),
            new NumbersProof(db),
            new BankProof(db),
            new StandingProof(db),
            new CollectingProof(db),
            new PayingProof(db),
            new FilingProof(db),
            new PaperPlacesProof(db),
            new TaxPlacesProof(db, new TaxPlaces(db)),
            new LooksProof(db),
            new PostProof(db),
            new NetworkProof(db),
            new SummariesProof(db),
            new StockProof(db),
            new PriceListsProof(db),
            new TillsProof(db),
            new ImportsProof(db),
        ];
        foreach (var proof in proofs)
            await LookAsync(proof, findings, stop);
        return new CheckReport(findings.Counted, findings.Differences);
    }

    private static async Task LookAsync(IProof proof, Findings findings, CancellationToken stop)
    {
        try
        {
            await proof.RunAsync(findings, stop);
        }
        catch (Exception broken) when (broken is not OperationCanceledException)
        {
            // Books that were tampered with may not even be readable; that is a finding like any other, and the rest is
            // still checked.
            findings.Add($"Something cannot be read ({proof.GetType().Name}): {broken.Message}");
        }
    }
}
