namespace Jugaad.Desk.Post;

public enum PostKind
{
    Document,
    Reminder,
    Test,
}

/// <summary>By which way a post item leaves.</summary>
public enum PostWay
{
    Mail,

    /// <summary>Printed and put into an envelope, with the others of the pile.</summary>
    Print,

    /// <summary>A short message to a telephone, with a link.</summary>
    Message,
}

/// <summary>Where a post item is on its way.</summary>
public enum PostState
{
    /// <summary>To be carried, now or at its next try.</summary>
    Waiting,

    /// <summary>Handed to the carrier; if the program stops here, nobody knows whether it went.</summary>
    OnItsWay,
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

/// <summary>One mail that is to leave the house, written in the same transaction as its cause and carried afterwards.</summary>
public sealed class PostItem
{
    /// <summary>After so many tries an item waits for a person.</summary>
    public const int MostTries = 6;

    private static readonly int[] MinutesToWait = [1, 5, 15, 60, 240];

    public int Id { get; init; }

    /// <summary>Unique, and the local part of the mail's Message-Id; the same on every try.</summary>
    public string Key { get; init; } = "";

    public PostKind Kind { get; init; }

    public PostWay Way { get; init; }

    /// <summary>Whether the papers go along as PDFs; otherwise the text has a link to them.</summary>
    public bool LinkOnly { get; init; }

    /// <summary>The ids of files that go along besides the papers, between commas.</summary>
    public string FileIds { get; init; } = "";

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

    public void HandOver()
    {
        State = PostState.OnItsWay;
        Tries++;
    }

    public void Arrived(DateTime at) => (State, SentAt, LastProblem, NextTryAt) = (PostState.Sent, at, "", null);

    /// <summary>Notes what the carrier said. It waits for another try unless that would be of no use.</summary>
    public void CameBack(string problem, bool forGood, DateTime now)
    {
        LastProblem = problem.Length > 500 ? problem[..500] : problem;
        var again = !forGood && Tries < MostTries;
        State = again ? PostState.Waiting : PostState.Failed;
        NextTryAt = again ? now.AddMinutes(MinutesToWait[Math.Clamp(Tries - 1, 0, MinutesToWait.Length - 1)]) : null;
    }

    /// <summary>It waits, as nothing is connected that could carry it; that is no try.</summary>
    public void Hold(string why, DateTime until) => (LastProblem, NextTryAt) = (why, until);

    /// <summary>Something is connected now.</summary>
    public void Release()
    {
        if (State == PostState.Waiting && Tries == 0) (LastProblem, NextTryAt) = ("", null);
    }

    public void TryAgain() => (State, Tries, NextTryAt) = (PostState.Waiting, 0, null);

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

    /// <summary>Where customers reach this installation, for the links in what is sent; where it listens, if it is empty.</summary>
    public string PublicAddress { get; set; } = "";
}
