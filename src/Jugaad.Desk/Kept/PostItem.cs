namespace Jugaad.Desk.Kept;

public enum PostKind
{
    Document,
    Reminder,
    Statement,
    Test,

    /// <summary>A kept view of a report.</summary>
    Report,
}

/// <summary>By which way a post item leaves.</summary>
public enum PostWay
{
    Mail,

    /// <summary>Printed and put into an envelope, with the others of the pile.</summary>
    Print,

    /// <summary>A short message to a telephone, with a link.</summary>
    Message,

    /// <summary>An e-invoice through the network of access points.</summary>
    Network,
}

/// <summary>Where a post item is on its way.</summary>
public enum PostState
{
    /// <summary>To be carried, now or at its next try.</summary>
    Waiting,

    /// <summary>Being handed to the carrier now.</summary>
    OnItsWay,

    /// <summary>
    /// It was handed over, or waited in books that were brought back, and nobody knows whether it went. A person
    /// decides.
    /// </summary>
    Unknown,
    Sent,

    /// <summary>Given up after several tries, or refused for good.</summary>
    Failed,

    /// <summary>Taken back before it went.</summary>
    Withdrawn,
}

/// <summary>A paper that goes along, made into a PDF when the item is carried.</summary>
public sealed class PostAttachment
{
    public int Id { get; init; }

    public int PostItemId { get; init; }

    public int DocumentId { get; init; }
}

/// <summary>One time that an item was handed over, and what came of it.</summary>
public sealed class PostTry
{
    public int Id { get; init; }

    public int PostItemId { get; init; }

    /// <summary>UTC.</summary>
    public DateTime At { get; init; }

    /// <summary>Sent, Failed or Unknown; on its way as long as nothing has come of it.</summary>
    public PostState Outcome { get; internal set; } = PostState.OnItsWay;

    /// <summary>What the other side said, or why it is not known.</summary>
    public string Said { get; internal set; } = "";
}

/// <summary>
/// One mail that is to leave the house, written in the same transaction as its cause and carried afterwards.
/// </summary>
public sealed class PostItem
{
    /// <summary>After so many tries an item waits for a person.</summary>
    public const int MostTries = 6;

    /// <summary>What waits longer than this is late.</summary>
    public static readonly TimeSpan LateAfter = TimeSpan.FromHours(1);

    private static readonly int[] MinutesToWait = [1, 5, 15, 60, 240];

    public int Id { get; init; }

    /// <summary>Unique, and the local part of the mail's Message-Id; the same on every try.</summary>
    public string Key { get; init; } = "";

    public PostKind Kind { get; init; }

    public PostWay Way { get; init; }

    /// <summary>Whether the papers go along as PDFs; otherwise the text has a link to them.</summary>
    public bool LinkOnly { get; init; }

    /// <summary>Whether the paper goes along with its e-invoice inside.</summary>
    public bool Hybrid { get; init; }

    /// <summary>The summary of small sales that goes as an e-invoice; null for all else.</summary>
    public int? SummaryId { get; init; }

    /// <summary>The ids of files that go along besides the papers, between commas.</summary>
    public string FileIds { get; init; } = "";

    /// <summary>Which statement goes along (<see cref="StatementWish"/>); empty for none.</summary>
    public string Statement { get; init; } = "";

    /// <summary>The report that goes along, with its days; empty for none.</summary>
    public string Report { get; init; } = "";

    /// <summary>How a printed paper is marked, such as <c>Copy</c>; one paper for each, between commas.</summary>
    public string Marks { get; init; } = "";

    public int? CustomerId { get; init; }

    public string To { get; init; } = "";

    public string Subject { get; init; } = "";

    public string Body { get; init; } = "";

    public IList<PostAttachment> Attachments { get; init; } = [];

    public DateOnly Day { get; init; }

    public string CreatedBy { get; init; } = "";

    public PostState State { get; private set; } = PostState.Waiting;

    public int Tries { get; private set; }

    /// <summary>UTC.</summary>
    public DateTime? NextTryAt { get; private set; }

    public string LastProblem { get; private set; } = "";

    /// <summary>UTC.</summary>
    public DateTime? SentAt { get; private set; }

    /// <summary>UTC; since when it is to go. Null for what was put there before this was noted.</summary>
    public DateTime? Since { get; private set; }

    /// <summary>Who said that it arrived, where nobody else knew; empty where it was not a person's word.</summary>
    public string SettledBy { get; private set; } = "";

    /// <summary>Each time it was handed over, oldest first.</summary>
    public IList<PostTry> History { get; init; } = [];

    /// <summary>How many files went along with it; null for what was made before they were kept.</summary>
    public int? FilesCarried { get; private set; }

    internal void Carries(int files) => FilesCarried = files;

    /// <summary>It is to go from now on.</summary>
    public void Begin(DateTime now) => Since = now;

    public void HandOver(DateTime now)
    {
        State = PostState.OnItsWay;
        Tries++;
        History.Add(new PostTry { At = now });
    }

    /// <param name="said">What the other side said when it took it over.</param>
    public void Arrived(DateTime at, string said = "")
    {
        (State, SentAt, LastProblem, NextTryAt) = (PostState.Sent, at, "", null);
        EndTry(PostState.Sent, said);
    }

    /// <summary>Notes what the carrier said. It waits for another try unless that would be of no use.</summary>
    public void CameBack(string problem, bool forGood, DateTime now)
    {
        LastProblem = Cut(problem);
        var again = !forGood && Tries < MostTries;
        State = again ? PostState.Waiting : PostState.Failed;
        NextTryAt = again ? now.AddMinutes(MinutesToWait[Math.Clamp(Tries - 1, 0, MinutesToWait.Length - 1)]) : null;
        EndTry(PostState.Failed, problem);
    }

    /// <summary>Nobody knows whether it went; it is not sent again by itself.</summary>
    public void Lose(string why)
    {
        (State, LastProblem, NextTryAt) = (PostState.Unknown, Cut(why), null);
        EndTry(PostState.Unknown, why);
    }

    /// <summary>A person says that it arrived.</summary>
    /// <exception cref="Core.RefusalException">When that is known already, or it has not gone at all.</exception>
    public void Settle(string who, DateTime at)
    {
        if (State != PostState.Unknown)
            throw new Core.RefusalException("", "Only what nobody knows about can be said to have arrived.");
        (State, SentAt, SettledBy, LastProblem) = (PostState.Sent, at, who, "");
    }

    /// <summary>Waiting for longer than it should.</summary>
    public bool IsLate(DateTime now) =>
        State == PostState.Waiting && Way != PostWay.Print && (Since is null || Since < now - LateAfter);

    private static string Cut(string text) => text.Length > 500 ? text[..500] : text;

    private void EndTry(PostState outcome, string said)
    {
        if (History.LastOrDefault() is { Outcome: PostState.OnItsWay } last)
            (last.Outcome, last.Said) = (outcome, Cut(said));
    }

    /// <summary>It waits, as nothing is connected that could carry it; that is no try.</summary>
    public void Hold(string why, DateTime until) => (LastProblem, NextTryAt) = (why, until);

    /// <summary>Something is connected now.</summary>
    public void Release()
    {
        if (State == PostState.Waiting && Tries == 0)
            (LastProblem, NextTryAt) = ("", null);
    }

    public void TryAgain(DateTime now) => (State, Tries, NextTryAt, Since) = (PostState.Waiting, 0, null, now);

    public void Withdraw() => (State, NextTryAt) = (PostState.Withdrawn, null);
}

public enum MailEncryption
{
    None,
    StartTls,
    Tls,
}

/// <summary>How mail leaves the house.</summary>
public sealed class MailSettings
{
    public int Id { get; init; }

    /// <summary>Whether a real mail server is used; otherwise the stand-in keeps the mails.</summary>
    public bool UseServer { get; set; }

    public string Host { get; set; } = "";

    public int Port { get; set; } = 587;

    public MailEncryption Encryption { get; set; } = MailEncryption.StartTls;

    public string User { get; set; } = "";

    /// <summary>The password as the secret keeper protects it, never in the clear.</summary>
    public string ProtectedPassword { get; set; } = "";

    public string FromName { get; set; } = "";

    public string FromAddress { get; set; } = "";

    /// <summary>
    /// For how many days links to papers open them, from when they are made; 0 for as long as the paper is there.
    /// </summary>
    public int LinkDays { get; set; }
}
