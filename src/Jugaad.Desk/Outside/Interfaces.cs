using Jugaad.Core.Layouts;
using Jugaad.Desk.Post;

namespace Jugaad.Desk.Outside;

/// <summary>Makes papers: measures text for the composer and paints what it composed.</summary>
public interface IPaperPrinter
{
    ITextMeasure Measure { get; }

    byte[] Pdf(DisplayList paper, byte[]? logo, DateOnly date, string author);

    IReadOnlyList<string> Svg(DisplayList paper, string? logoAddress);
}

/// <summary>A mail as it is handed to a carrier.</summary>
/// <param name="Date">When it was sent, by the business's calendar.</param>
public sealed record OutgoingMail(
    string Key, DateTimeOffset Date, string FromName, string FromAddress, string To, string Subject, string Body, IReadOnlyList<(string Name, byte[] Pdf)> Attachments);

/// <summary>Said by a carrier that could not carry a mail.</summary>
/// <param name="forGood">True where another try would be of no use.</param>
public sealed class CarrierException(string message, bool forGood, Exception? inner = null) : Exception(message, inner)
{
    public bool ForGood { get; } = forGood;
}

/// <summary>Carries mail out of the house.</summary>
public interface IMailCarrier
{
    /// <summary>Returns once the mail has been taken over.</summary>
    /// <exception cref="CarrierException">When it has not.</exception>
    Task CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop);
}

/// <summary>A mail as the stand-in kept it, and as its reader would see it.</summary>
public sealed record KeptMail(string From, string To, string Subject, DateTimeOffset Date, string Text, IReadOnlyList<(string Name, byte[] Content)> Attachments);

/// <summary>Shows what the mail stand-in was given.</summary>
public interface IKeptMails
{
    /// <summary>Null where no mail with that key was kept.</summary>
    KeptMail? Find(string key);
}

/// <summary>Keeps passwords unreadable in the books file.</summary>
public interface ISecretKeeper
{
    string Protect(string secret);

    string Reveal(string kept);
}

/// <summary>Checks a picture and encodes it anew, so that nothing else is kept with it.</summary>
public interface IPictureCleaner
{
    /// <returns>A PNG of at most 1200 pixels a side.</returns>
    /// <exception cref="Core.RefusalException">When it is no picture that we read, or too large.</exception>
    byte[] Clean(byte[] upload, string field);
}
